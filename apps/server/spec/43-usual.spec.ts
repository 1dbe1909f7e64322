import type { BodyOf, FormulaReply, MakeReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, receive } from './oneBatch.js';

describe('what usually goes in of a line', () => {
  let house: TestHouse;
  let maker: Client;
  let batchId: string;
  let pepper: string;
  const formulaId = ids.next();
  const add = (grams: number, more: Partial<BodyOf<'ingredient.add'>> = {}) =>
    maker.record('ingredient.add', { batchId, fromLotId: pepper, grams, line: 'line-0', ...more });
  const line = async () => (await maker.get<MakeReply>(`/api/making/${batchId}`)).body.lines[0]!;

  beforeAll(async () => {
    house = await openHouse('spec_usual');
    maker = await Client.signIn(house, house.maker);
    const { rows } = await house.connection.pool.query<{ data: BodyOf<'formula.save'> }>(
      'select data from formula where formula_id = $1',
      [house.names.brined],
    );
    const { data } = rows[0]!;
    // 3 g per kg, and usually 2 to 4.
    const lines = [
      { materialId: house.names.pepper, scaleBy: 'mainMass' as const, amount: 0.003, least: 0.002, most: 0.004 },
    ];
    await house.record('formula.save', {
      ...data,
      formulaId,
      number: 77,
      version: 1,
      name: 'Peppered',
      lines,
      equipment: [{ tag: 'T1', words: 'T1' }],
    });
    pepper = await receive(house, house.names.pepper, 2000, 'LM-1', daysAgo(9));
    batchId = ids.next();
    await house.record('batch.start', {
      batchId,
      formulaId,
      version: 1,
      plan: { from: 'trimmed', trimmedGrams: 10_000 },
    });
  });
  afterAll(() => house.close());

  it('stands at the line in grams of this batch: 20 to 40 g of 30', async () => {
    const { plannedGrams, usual } = await line();
    expect(plannedGrams).toBeCloseTo(30, 6);
    expect(usual!.least).toBeCloseTo(20, 6);
    expect(usual!.most).toBeCloseTo(40, 6);
  });

  it('ten times too much is asked about, the portions before counted in; with a reason it goes in and the book says why', async () => {
    const refused = await add(300);
    expect([refused.status, refused.body.code, refused.body.field]).toEqual([422, 'line.unusual', 'grams']);
    expect(refused.body.detail).toContain('300 g of Black pepper is over its usual range for this batch, 20 g to 40 g');
    expect((await add(25)).status).toBe(200);
    expect((await add(20)).body.code).toBe('line.unusual');
    expect((await add(20, { unusualReason: 'for the market, hot' })).status).toBe(200);
    expect((await line()).inGrams).toBe(45);
  });

  it('what a formula is made with comes back with it', async () => {
    const { body } = await maker.get<FormulaReply>(`/api/formulas/${formulaId}`);
    expect(body.equipment).toEqual([{ tag: 'T1', words: 'T1' }]);
  });
});

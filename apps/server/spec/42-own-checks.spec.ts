import type { FloorReply, LotReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

describe('checks in the house’s own words', () => {
  let house: TestHouse;
  let maker: Client;
  let lotId: string;
  const DAMP = 'damp of the cloth';
  const LID = 'lid turned';
  const own = (words: string, asks?: object) => ({
    what: 'own' as const,
    words,
    rule: { kind: 'every' as const, hours: 24, forDays: null },
    condition: 'always' as const,
    ...(asks ? { asks } : {}),
  });
  const checks = async () => (await maker.get<FloorReply>('/api/floor')).body.vessels[0]!.checks;
  const make = (words: string, figure: number | null, note: string | null) =>
    maker.record('check.make', { lotId, what: 'own', words, quiet: true, figure, note });

  beforeAll(async () => {
    house = await openHouse('spec_own_checks');
    maker = await Client.signIn(house, house.maker);
    lotId = (await dryBatch(house, { tag: 'C1', at: daysAgo(3) })).fillId;
    const reply = await maker.record('plan.change', {
      lotId,
      checks: [
        own(DAMP, { kind: 'figure', unit: '%', least: 60, most: 80 }),
        own(LID),
        own('smell', { kind: 'words' }),
      ] as never,
      reason: 'a cloth this time',
    });
    expect(reply.status).toBe(200);
  });
  afterAll(() => house.close());

  it('say on the floor what they want, and “all quiet” answers only what wants nothing', async () => {
    const due = await checks();
    expect(due.map(({ name, mayBeQuiet, asks }) => [name, mayBeQuiet, asks?.kind ?? null])).toEqual([
      [DAMP, false, 'figure'],
      [LID, true, null],
      ['smell', false, 'words'],
    ]);
    const quiet = (words: string) =>
      maker.record('round.quiet', { lots: [{ lotId, checks: [{ what: 'own', words }] }] });
    expect((await quiet(DAMP)).body.code).toBe('check.notQuiet');
    expect((await quiet(LID)).status).toBe(200);
  });

  it('are answered by their figure; one outside what is usual, by what was done about it', async () => {
    expect((await make(DAMP, null, null)).body.detail).toBe('“damp of the cloth” wants a figure in %, 60 to 80.');
    const outside = await make(DAMP, 91, null);
    expect([outside.body.code, outside.body.field]).toEqual(['check.unanswered', 'note']);
    expect(outside.body.detail).toContain('91 % is over what is usual');
    expect((await make(DAMP, 91, 'cloth changed')).status).toBe(200);
    expect((await make('smell', null, null)).body.field).toBe('note');
    expect((await make('smell', null, 'of hay')).status).toBe(200);
    const swelling = { lotId, what: 'swelling' as const, words: null, quiet: false, figure: 300 };
    expect((await maker.record('check.make', swelling)).body.code).toBe('figure.outOfRange');
    expect((await checks()).filter(({ state }) => state === 'due' || state === 'late').map(({ name }) => name)).toEqual(
      [],
    );
    const [{ code }] = (
      await house.connection.pool.query<{ code: string }>('select code from lot where id = $1', [lotId])
    ).rows as [{ code: string }];
    const lines = (await maker.get<LotReply>(`/api/lots/${code}`)).body.lines.filter(({ what }) =>
      what.startsWith('Looked after'),
    );
    expect(lines.map(({ words, figure }) => [words, figure])).toContain(['over what is usual · cloth changed', '91']);
  });
});

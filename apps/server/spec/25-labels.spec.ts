import { type BodyOf, type LabelPreview, labelPreview, type LabelsReply, labelsReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, receive, sour } from './oneBatch.js';

const DESIGN: BodyOf<'label.design'>['design'] = {
  paper: {
    pageWidthMm: 210,
    pageHeightMm: 297,
    columns: 2,
    rows: 4,
    widthMm: 99.1,
    heightMm: 67.7,
    leftMm: 4.7,
    topMm: 13.1,
    gapXMm: 2.5,
    gapYMm: 0,
  },
  fields: (['name', 'ingredients', 'storage', 'net', 'dates', 'salt', 'code', 'producer'] as const).map((key) => ({
    key,
    on: true,
    points: 8,
  })),
  symbol: { kind: 'qrcode', mm: 15 },
  leastLetterMm: 1.2,
  gtin: null,
  until: 'bestBefore',
  untilDays: 180,
  producer: 'A yard, somewhere',
  text: '',
};

describe('labels of jars', () => {
  let house: TestHouse;
  let maker: Client;
  let run: { id: string; code: string };
  const designId = ids.next();
  const packedAt = daysAgo(9);
  const preview = async (design: object = DESIGN, code = run.code): Promise<LabelPreview> =>
    labelPreview.parse((await maker.send('POST', `/api/runs/${code}/labels/preview`, { design, serial: 1 })).body);
  const labels = async (): Promise<LabelsReply> =>
    labelsReply.parse((await maker.get(`/api/runs/${run.code}/labels`)).body);
  const words = ({ laid }: LabelPreview, field: string): string =>
    laid.texts
      .filter((text) => text.field === field)
      .map((text) => (text.bold ? `*${text.words}*` : text.words))
      .join(' ');
  const sheet = (more: string, code = run.code) => `/api/runs/${code}/labels.pdf?designId=${designId}&${more}`;
  const packed = async (fillLotId: string, jars: BodyOf<'pack.run'>['jars'], grams: number) => {
    const id = ids.next();
    const recorded = await house.record(
      'pack.run',
      {
        runLotId: id,
        from: [{ fillLotId, grams, empties: false }],
        jars,
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: grams - jars.reduce((sum, { count, netGrams }) => sum + count * netGrams, 0),
        tallyReason: null,
        brine: 'own',
        storage: 'cold',
      },
      { at: packedAt, by: house.maker },
    );
    return { id, code: String(recorded.facts['code']) };
  };

  beforeAll(async () => {
    house = await openHouse('spec_labels');
    maker = await Client.signIn(house, house.maker);
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(40) });
    await sour(house, fillId, daysAgo(40), packedAt);
    run = await packed(
      fillId,
      [
        { sizeMl: 330, netGrams: 320, count: 30 },
        { sizeMl: 720, netGrams: 700, count: 4 },
      ],
      12_500,
    );
  }, 60_000);
  afterAll(() => house.close());

  it('say what went in by weight, net, dates, live, salt as an estimate; the symbol is read back', async () => {
    const of = await preview();
    expect(of.problems).toEqual([]);
    expect(of.reads).toBeTrue();
    expect(words(of, 'ingredients')).toMatch(/, salt ?\.$/);
    expect(words(of, 'net')).toBe('320 g net');
    expect(words(of, 'storage')).toContain('*Live*');
    expect(words(of, 'salt')).toMatch(/^Salt 2\.\d g per 100 g \(estimate\)$/);
    expect(of.because[0]).toContain('not heated');
  });
  it('a design that lacks something, or does not fit, is named point by point', async () => {
    const narrow = await preview({
      ...DESIGN,
      paper: { ...DESIGN.paper, heightMm: 18 },
      producer: '',
      untilDays: null,
    });
    expect(narrow.problems.map(({ field }) => field)).toEqual(jasmine.arrayContaining(['producer', 'dates', 'code']));
    expect(narrow.laid.over.length).toBeGreaterThan(2);
    const gs1 = await preview({ ...DESIGN, symbol: { kind: 'gs1datamatrix', mm: 14 } });
    expect([gs1.problems.map(({ field }) => field), gs1.symbol]).toEqual([['symbol'], null]);
    const whole = await preview({ ...DESIGN, symbol: { kind: 'gs1datamatrix', mm: 14 }, gtin: '4012345678901' });
    expect([whole.problems, whole.reads]).toEqual([[], true]);
  });
  it('a health claim is refused with its word; a design is kept otherwise', async () => {
    const keep = (text: string) =>
      maker.record('label.design', { designId, name: 'Jars', design: { ...DESIGN, text } });
    const claim = await keep('Rich in probiotics');
    expect([claim.status, claim.body.code]).toEqual([422, 'label.claim']);
    expect(claim.body.detail).toContain('probiotics');
    expect((await keep('')).status).toBe(200);
  });
  it('sheets leave as PDF; jars of two sizes are printed apart', async () => {
    const pdf = await maker.text(sheet('first=1&last=30&skip=3'));
    expect(pdf.slice(0, 5)).withContext(pdf.slice(0, 300)).toBe('%PDF-');
    expect(pdf.match(/\/Type \/Page\b/g)?.length).toBe(5);
    const mixed = (await maker.get(sheet('first=25&last=34'))).body as { code: string; detail: string };
    expect(mixed.code).toBe('label.lacks');
    expect(mixed.detail).toContain('Print them apart');
    expect((await maker.get(sheet('first=1&last=40'))).status).toBe(404);
  });
  it('a field put by hand over another, and a drained mass, are said', async () => {
    const put = (place: object) => ({
      ...DESIGN,
      fields: [
        ...DESIGN.fields.map((one) => (one.key === 'net' ? { ...one, place } : one)),
        { key: 'drained', on: true, points: 8 },
      ],
    });
    const over = await preview(put({ xMm: 3, yMm: 4, widthMm: 40 }));
    expect(over.problems.map(({ words }) => words)).toContain('Net mass: lies over something else');
    const aside = await preview(put({ xMm: 60, yMm: 58, widthMm: 30 }));
    expect(aside.problems).toEqual([]);
    expect(words(aside, 'drained')).toMatch(/^drained about \d+ g$/);
  });
  it('a design of a formula is offered for its jars alone, and before the one for all', async () => {
    const [own, others] = [ids.next(), ids.next()];
    const keep = async (id: string, formulaId: string) =>
      (await maker.record('label.design', { designId: id, name: 'Of its own', formulaId, design: DESIGN })).status;
    const at = await labels();
    expect([await keep(own, at.run.formulaId!), await keep(others, ids.next())]).toEqual([200, 200]);
    expect((await labels()).designs.map((one) => one.designId)).toEqual([own, designId]);
  });
  it('what came out is noted; the same again only with its reason; the count closes or says why', async () => {
    const out = (first: number, last: number, reason: string | null = null) =>
      maker.record('label.jars', { runLotId: run.id, designId, first, last, printer: null, reason });
    expect((await out(1, 30)).status).toBe(200);
    expect((await out(30, 34)).body.code).toBe('label.again');
    expect((await out(30, 30, 'torn')).status).toBe(200);
    expect((await out(31, 35)).body.code).toBe('jar.unknown');
    const count = (used: number, spoiled: number, back: number, reason: string | null = null) =>
      maker.record('label.tally', { runLotId: run.id, used, spoiled, back, reason });
    expect((await count(30, 0, 0)).body.code).toBe('label.countOpen');
    expect((await count(30, 1, 0)).status).toBe(200);
    const reply = labelsReply.parse((await maker.get(`/api/runs/${run.code}/labels`)).body);
    expect([reply.out, reply.next, reply.tally?.clear]).toEqual([31, 31, true]);
    expect(reply.parts.map(({ first, last }) => [first, last])).toEqual([
      [1, 30],
      [31, 34],
    ]);
  });
  it('W21: brine with mustard starts a batch: its label lists mustard, though no line of its formula has it', async () => {
    const mustard = ids.next();
    await house.record('material.add', {
      materialId: mustard,
      name: 'Mustard seed',
      kind: 'flavouring',
      waterFraction: 0.05,
      saltFraction: 0,
      allergens: ['mustard'],
      caution: null,
    });
    const spice = ids.next();
    await house.record(
      'supply.receive',
      {
        lotId: spice,
        materialId: mustard,
        supplierId: house.names.supplier,
        supplierLotCode: 'M-1',
        grams: 500,
        useBy: null,
        condition: null,
      },
      { at: daysAgo(60) },
    );
    const donor = await dryBatch(house, { tag: 'C2', at: daysAgo(55), fill: false });
    await house.record(
      'ingredient.add',
      { batchId: donor.batchId, fromLotId: spice, grams: 60 },
      { at: daysAgo(55, 10), by: house.maker },
    );
    const fillLotId = ids.next();
    const vesselId = house.vessel('C2');
    await house.record(
      'vessel.fill',
      { fillLotId, batchId: donor.batchId, vesselId, grams: 14_900, brine: null },
      { at: daysAgo(55, 11), by: house.maker },
    );
    await sour(house, fillLotId, daysAgo(55), daysAgo(42));
    const taker = await dryBatch(house, {
      tag: 'D1',
      at: daysAgo(41),
      fill: false,
      produceGrams: 7000,
      saltGrams: 154,
    });
    await house.record(
      'ingredient.add',
      { batchId: taker.batchId, fromLotId: fillLotId, grams: 300 },
      { at: daysAgo(41, 10), by: house.maker },
    );
    const second = ids.next();
    await house.record(
      'vessel.fill',
      {
        fillLotId: second,
        batchId: taker.batchId,
        vesselId: house.vessel('D1'),
        grams: 7200,
        brine: null,
      },
      { at: daysAgo(41, 11), by: house.maker },
    );
    await sour(house, second, daysAgo(41), packedAt);
    const of = await packed(second, [{ sizeMl: 330, netGrams: 320, count: 20 }], 6600);
    const label = await preview(DESIGN, of.code);
    expect(words(label, 'ingredients').replace(/\s+/g, ' ')).toContain('kept brine (contains *mustard*');
    expect(label.because.some((line) => line.includes('kept brine carried it'))).toBeTrue();
  });
  it('blank labels leave their lot by the piece; more than there are do not come out', async () => {
    const labelMaterial = ids.next();
    await house.record(
      'material.add',
      {
        materialId: labelMaterial,
        name: 'Labels, white',
        kind: 'packaging',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        caution: null,
      },
      { at: daysAgo(20) },
    );
    const roll = await receive(house, labelMaterial, 3, 'L-1');
    const out = (first: number, last: number) =>
      maker.record('label.jars', {
        runLotId: run.id,
        designId,
        first,
        last,
        printer: null,
        reason: 'a proof',
        labelLotId: roll,
      });
    expect((await out(1, 4)).body.code).toBe('lot.overdrawn');
    expect((await out(1, 3)).status).toBe(200);
    const { prints } = await labels();
    expect(prints.at(-1)!.labelLot).toMatch(/-\d{4}$/);
    const salt = await receive(house, house.names.salt, 500, 'L-2');
    const wrong = await maker.record('label.jars', {
      runLotId: run.id,
      designId,
      first: 4,
      last: 4,
      printer: null,
      reason: 'a proof',
      labelLotId: salt,
    });
    expect(wrong.body.code).toBe('lot.wrongKind');
  });
});

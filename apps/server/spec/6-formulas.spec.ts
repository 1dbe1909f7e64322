import { readFileSync } from 'node:fs';
import { formulaFile, formulaFileSchema, formulaReply, houseReply, lotReply, type BodyOf } from '@clear-tally/contract';
import { readRecipe } from '@clear-tally/core';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, receive } from './oneBatch.js';

type Formula = BodyOf<'formula.save'>;

describe('the formula book', () => {
  let house: TestHouse;
  let client: Client;
  let owner: Client;
  const formula = (over: Partial<Formula> = {}): Formula => ({
    formulaId: ids.next(),
    number: 9,
    version: 1,
    name: 'Notebook turnips',
    style: 'brinedWhole',
    produce: [{ materialId: house.names.turnip, share: 1 }],
    saltBasis: 'ofWater',
    saltFraction: 0.05,
    waterPerProduce: 0.7,
    lines: [{ materialId: house.names.pepper, scaleBy: 'mainMass', amount: 0.003 }],
    solidsFraction: 0.58,
    yields: { trim: 0.8, ferment: 0.93, pack: 0.97 },
    jarSizes: [
      { sizeMl: 330, fillGrams: 320 },
      { sizeMl: 720, fillGrams: 690 },
    ],
    usualDays: 21,
    note: null,
    ...over,
  });
  const refusalOf = (work: Promise<unknown>): Promise<string> =>
    work.then(
      () => 'recorded',
      (error: { refusal: { code: string } }) => error.refusal.code,
    );
  const start = (of: Formula, over: object = {}): Promise<unknown> =>
    house.record('batch.start', {
      batchId: ids.next(),
      formulaId: of.formulaId,
      version: of.version,
      plan: { from: 'trimmed', trimmedGrams: 4000 },
      ...over,
    });
  const read = async (of: Formula) => formulaReply.parse((await owner.get(`/api/formulas/${of.formulaId}`)).body);

  beforeAll(async () => {
    house = await openHouse('spec_formulas');
    client = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
  });
  afterAll(() => house.close());

  it('keeps a recipe with its holes; a batch starts only when salt, basis and water are settled', async () => {
    const open = formula({
      saltBasis: null,
      saltFraction: null,
      waterPerProduce: null,
      saltWritten: '7 tablespoons to 3 quarts',
      lines: [{ materialId: house.names.pepper, scaleBy: 'mainMass', amount: null, written: 'a pinch' }],
    });
    await house.record('formula.save', open);
    expect(await refusalOf(start(open))).toBe('formula.hole');
    const settled = {
      ...open,
      version: 2,
      saltBasis: 'ofWater' as const,
      saltFraction: 0.0426,
      waterPerProduce: 1.417,
    };
    await house.record('formula.save', settled);
    expect(await refusalOf(start(settled))).toBe('recorded');
    expect((await read(settled)).versions.map(({ version }) => version)).toEqual([2, 1]);
  });
  it('a starter without an amount keeps a batch from starting', async () => {
    const kept = ids.next();
    await house.record('material.add', {
      materialId: kept,
      name: 'Kept brine',
      kind: 'starter',
      waterFraction: 0.95,
      saltFraction: 0.03,
      allergens: [],
      caution: null,
    });
    const open = formula({
      number: 12,
      name: 'With kept brine',
      lines: [{ materialId: kept, scaleBy: 'everything', amount: null }],
    });
    await house.record('formula.save', open);
    expect(await refusalOf(start(open))).toBe('formula.hole');
  });
  it('a formula made in variants asks which, and keeps it on the batch', async () => {
    const both = formula({
      number: 13,
      name: 'Two ways',
      variants: ['with pepper', 'without pepper'],
      lines: [{ materialId: house.names.pepper, scaleBy: 'mainMass', amount: 0.003, variants: ['with pepper'] }],
    });
    await house.record('formula.save', both);
    expect(await refusalOf(start(both))).toBe('formula.hole');
    expect(await refusalOf(start(both, { variant: 'with sugar' }))).toBe('formula.unknown');
    const batchId = ids.next();
    await house.record('batch.start', {
      batchId,
      formulaId: both.formulaId,
      version: 1,
      plan: { from: 'trimmed', trimmedGrams: 4000 },
      variant: 'without pepper',
    });
    const make = (await client.get(`/api/making/${batchId}`)).body as {
      variant: string;
      planned: { lines: { role: string }[] };
    };
    expect(make.variant).toBe('without pepper');
    expect(make.planned.lines.some(({ role }) => role === 'ingredient')).toBeFalse();
    expect(
      await refusalOf(
        house.record(
          'formula.save',
          formula({
            number: 14,
            lines: [{ materialId: house.names.pepper, scaleBy: 'mainMass', amount: 0.003, variants: ['with sugar'] }],
          }),
        ),
      ),
    ).toBe('formula.hole');
  });
  it('a retired formula starts nothing until it is taken back', async () => {
    const old = formula({ number: 15, name: 'Old' });
    await house.record('formula.save', old);
    await house.record('formula.retire', { formulaId: old.formulaId, retired: true, reason: 'too salty' });
    expect(await refusalOf(start(old))).toBe('formula.retired');
    expect((await read(old)).retired).toBe('too salty');
    await house.record('formula.retire', { formulaId: old.formulaId, retired: false, reason: null });
    expect(await refusalOf(start(old))).toBe('recorded');
    expect(
      await refusalOf(house.record('formula.retire', { formulaId: ids.next(), retired: true, reason: null })),
    ).toBe('formula.unknown');
  });
  it('fish as the main produce is noted only: no check plan, no batch, and the page says why', async () => {
    const herring = ids.next();
    await house.record('material.add', {
      materialId: herring,
      name: 'Herring',
      kind: 'produce',
      waterFraction: 0.7,
      saltFraction: 0,
      allergens: ['fish'],
      caution: null,
      details: { group: 'fish' },
    });
    const noted = formula({ number: 16, name: 'Herring', produce: [{ materialId: herring, share: 1 }] });
    expect(
      await refusalOf(
        house.record('formula.save', {
          ...noted,
          checks: [
            { what: 'ph', words: null, rule: { kind: 'onDays', days: [1], thenEveryDays: null }, condition: 'always' },
          ],
        }),
      ),
    ).toBe('formula.outsideScope');
    await house.record('formula.save', noted);
    expect(await refusalOf(start(noted))).toBe('formula.outsideScope');
    expect((await read(noted)).outsideScope).toContain('no check plan and no release');
  });
  it('refuses a brine beyond saturation, an unknown material, a rule that is none', async () => {
    expect(await refusalOf(house.record('formula.save', formula({ number: 17, saltFraction: 0.4 })))).toBe(
      'fraction.percentTyped',
    );
    expect(
      await refusalOf(
        house.record(
          'formula.save',
          formula({ number: 17, lines: [{ materialId: ids.next(), scaleBy: 'batch', amount: 1 }] }),
        ),
      ),
    ).toBe('material.unknown');
    expect(await refusalOf(house.record('formula.save', formula({ number: 17, rules: { acidLimit: '4.6' } })))).toBe(
      'rule.unknown',
    );
    expect(await refusalOf(house.record('formula.save', formula({ number: 17, version: 3 })))).toBe('name.taken');
  });
  it('a maker changes no formula, no material, no house rule', async () => {
    for (const [kind, body] of [
      ['formula.save', formula({ number: 18 })],
      ['house.rule', { rule: 'film', option: 'reject', reason: null }],
      ['formula.retire', { formulaId: house.names.dry, retired: true, reason: null }],
    ] as const) {
      expect((await client.record(kind, body as never)).status)
        .withContext(kind)
        .toBe(403);
    }
  });

  describe('house rules', () => {
    it('a riskier way asks how the house does it; the choice in force stays with the batch', async () => {
      expect(await refusalOf(house.record('house.rule', { rule: 'film', option: 'skim', reason: null }))).toBe(
        'rule.unknown',
      );
      expect(await refusalOf(house.record('house.rule', { rule: 'film', option: 'eat', reason: 'x' }))).toBe(
        'rule.unknown',
      );
      await house.record('house.rule', { rule: 'film', option: 'skim', reason: 'Odile decides' });
      const own = formula({ number: 19, name: 'With a culture', rules: { starter: 'culture' } });
      await house.record('formula.save', own);
      const batchId = ids.next();
      await house.record('batch.start', {
        batchId,
        formulaId: own.formulaId,
        version: 1,
        plan: { from: 'trimmed', trimmedGrams: 4000 },
      });
      await house.record('house.rule', { rule: 'film', option: 'reject', reason: null });
      expect(((await client.get(`/api/making/${batchId}`)).body as { rules: Record<string, string> }).rules).toEqual(
        jasmine.objectContaining({ film: 'skim', starter: 'culture', lid: 'airlock' }),
      );
      expect(houseReply.parse((await client.get('/api/house')).body).rules['film']).toBe('reject');
    });
    it('the pH limit is the house limit, never above 4.6', async () => {
      await house.record('house.rule', { rule: 'acidLimit', option: '4.0', reason: null });
      expect(houseReply.parse((await client.get('/api/house')).body).acidLimit).toBe(4);
      expect(await refusalOf(house.record('house.rule', { rule: 'acidLimit', option: '4.8', reason: 'x' }))).toBe(
        'rule.outside',
      );
      await house.record('house.rule', { rule: 'acidLimit', option: '4.1', reason: null });
      expect(houseReply.parse((await client.get('/api/house')).body).acidLimit)
        .withContext('any limit up to 4.6')
        .toBe(4.1);
      expect(
        await refusalOf(house.record('house.rule', { rule: 'storage', option: 'ambient', reason: 'on the stall' })),
      )
        .withContext('nothing live stands warm')
        .toBe('rule.notTogether');
      await house.record('house.rule', { rule: 'acidLimit', option: '4.2', reason: null });
    });
    it('settings not named stay as they were', async () => {
      await house.record('house.set', { labourPerHour: 18 });
      await house.record('house.set', { scaleStepGrams: 5 });
      expect(houseReply.parse((await client.get('/api/house')).body).settings).toEqual({
        currency: 'EUR',
        labourPerHour: 18,
        scaleStepGrams: 5,
        keptBrineDays: 30,
        keptBrineGenerations: 5,
        acidByHours: {},
        saltBands: {},
        contacts: [],
        address: null,
        lockMinutes: null,
        trainedTasks: [],
        massUnit: 'both',
        passphraseFor: 'nobody',
      });
    });
  });

  describe('materials', () => {
    it('a spoon weighed in the house is kept; what a material is stays', async () => {
      const body = {
        materialId: house.names.salt,
        name: 'Coarse pan salt',
        kind: 'salt' as const,
        waterFraction: 0,
        saltFraction: 1,
        allergens: [],
        caution: null,
        details: { grain: 'coarse' as const, gramsPer15Ml: 15.2, spoonWeighed: true },
      };
      await house.record('material.change', body);
      expect(
        houseReply.parse((await client.get('/api/house')).body).materials.find(({ id }) => id === house.names.salt)!
          .details.gramsPer15Ml,
      ).toBe(15.2);
      expect(await refusalOf(house.record('material.change', { ...body, kind: 'produce' }))).toBe('lot.wrongKind');
      expect(await refusalOf(house.record('material.change', { ...body, materialId: ids.next() }))).toBe(
        'material.unknown',
      );
    });
    it('W21: mustard of a donor’s spices is on the label of what its brine started', async () => {
      const mustard = ids.next();
      await house.record('material.add', {
        materialId: mustard,
        name: 'Mustard seed',
        kind: 'flavouring',
        waterFraction: 0.06,
        saltFraction: 0,
        allergens: ['mustard'],
        caution: null,
      });
      const seed = await receive(house, mustard, 500, 'MS-1');
      const donor = await dryBatch(house, { tag: 'C1', fill: false, at: daysAgo(20) });
      await house.record('ingredient.add', { batchId: donor.batchId, fromLotId: seed, grams: 60 }, { at: daysAgo(20) });
      const fillLotId = ids.next();
      await house.record(
        'vessel.fill',
        { fillLotId, batchId: donor.batchId, vesselId: house.vessel('C1'), grams: 14_900, brine: null },
        { at: daysAgo(20, 10) },
      );
      await readWell(house, fillLotId, 3.6, daysAgo(6));
      const child = await dryBatch(house, { tag: 'C2', fill: false, at: daysAgo(5) });
      await house.record(
        'ingredient.add',
        { batchId: child.batchId, fromLotId: fillLotId, grams: 200 },
        { at: daysAgo(5, 10) },
      );
      const { lots } = (await client.get('/api/lots?kind=batch')).body as { lots: { lotId: string; code: string }[] };
      const page = lotReply.parse(
        (await client.get(`/api/lots/${lots.find(({ lotId }) => lotId === child.batchId)!.code}`)).body,
      );
      expect(page.allergens).toEqual([{ words: 'mustard', certain: true, from: ['Mustard seed'] }]);
    });
  });

  describe('what leaves the house', () => {
    let of: Formula;
    beforeAll(async () => {
      of = formula({
        number: 20,
        name: 'For the road',
        saltMaterialId: house.names.salt,
        steps: [{ words: 'Pour.', minutes: null }],
      });
      await house.record('formula.save', of);
    });
    it('formulas in the documented format, which reads back', async () => {
      const file = formulaFile.parse((await client.get(`/api/formulas/${of.formulaId}/formula.json`)).body);
      expect(file.formulas[0]!.produce).toEqual([{ material: 'Baby turnips', share: 1 }]);
      expect(file.formulas[0]!.saltMaterial).toBe('Coarse pan salt');
      expect(file.materials.map(({ name }) => name).sort()).toEqual([
        'Baby turnips',
        'Black pepper',
        'Coarse pan salt',
      ]);
      expect(formulaFile.parse((await client.get('/api/formulas.json')).body).formulas.length).toBeGreaterThan(5);
    });
    it('the schema is published at its address and in the docs, the same', async () => {
      const published = await fetch(`${house.address}/schemas/formula.json`);
      expect(published.headers.get('content-type')).toContain('application/schema+json');
      expect(await published.json()).toEqual(JSON.parse(JSON.stringify(formulaFileSchema())));
      expect(JSON.parse(readFileSync('docs/formula.schema.json', 'utf8'))).toEqual(
        JSON.parse(JSON.stringify(formulaFileSchema())),
      );
    });
    it('a schema.org recipe whose masses read back', async () => {
      const recipe = readRecipe((await client.get(`/api/formulas/${of.formulaId}/recipe.jsonld?trimmed=4000`)).body);
      expect(recipe.ok && recipe.value.lines.map(({ amount, name }) => `${amount} ${name}`)).toEqual([
        '4000 g Baby turnips, trimmed',
        '2800 g Water',
        '140 g Coarse pan salt',
        '12 g Black pepper',
      ]);
    });
    it('a scaled batch as CSV, one row a line', async () => {
      const text = await client.text(`/api/formulas/${of.formulaId}/batch.csv?jars=330x96,720x24`);
      expect(text.split('\n')[3]).toContain('salt,Salt,');
      expect(text).toContain('Water-phase salt');
    });
    it('a name that looks like a spreadsheet’s formula stays text', async () => {
      const sly = formula({ number: 21, name: '=cmd|calc' });
      await house.record('formula.save', sly);
      expect((await client.text(`/api/formulas/${sly.formulaId}/batch.csv?trimmed=1000`)).split('\n')[0]).toContain(
        "'=cmd|calc",
      );
    });
    it('the worksheet is a PDF with its pages', async () => {
      const text = await client.text(`/api/formulas/${of.formulaId}/worksheet.pdf?jars=330x96,720x24`);
      expect(text.slice(0, 5)).toBe('%PDF-');
      expect(text).toContain('/Count 1');
    });
    it('refuses a jar the formula does not have, and a query that is none', async () => {
      expect((await client.get(`/api/formulas/${of.formulaId}/batch.csv?jars=500x3`)).status).toBe(422);
      expect((await client.get(`/api/formulas/${of.formulaId}/worksheet.pdf?jars=lots`)).status).toBe(400);
      expect((await Client.nobody(house).get(`/api/formulas/${of.formulaId}/worksheet.pdf`)).status).toBe(401);
    });
  });

  it('yields learned from past lots: the median and its spread', async () => {
    const page = formulaReply.parse((await client.get(`/api/formulas/${house.names.dry}`)).body);
    expect(page.learned.trim).toEqual(jasmine.objectContaining({ lots: 2 }));
    expect(page.learned.trim!.median).toBeCloseTo(14_600 / 15_500, 6);
    expect(page.learned.pack).toBeNull();
  });
});

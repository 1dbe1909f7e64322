import fc from 'fast-check';
import {
  aceticPercent,
  blenderLoads,
  brineBackStops,
  contentsOf,
  decideStorage,
  drained,
  feeds,
  FINISH_STATIONS,
  finishGate,
  FINISHES,
  finishSheet,
  firstRefusal,
  lowAcid,
  mixing,
  preparationFeeds,
  type PhPoint,
  sauce,
  volumeBalance,
} from '../src/index.js';

const fixed = (value: number | null, digits: number): string => value!.toFixed(digits);

describe('W15: drained and repacked', () => {
  const product = { ...drained({ grams: 9000, waterFraction: 0.9, waterPhaseSalt: 0.024 }), known: true };
  const poured = (salt: number) => ({ waterGrams: 3000 * (1 - salt), saltGrams: 3000 * salt, known: true });
  it('the drained product holds 199 g of salt', () => expect(fixed(product.saltGrams, 0)).toBe('199'));
  it('fresh brine of 2.4 % leaves the salt as it is, and thins the acid to 0.73', () => {
    const says = mixing({ product, added: poured(0.024), sour: false, ph: 3.6 });
    expect([fixed(says.waterPhaseSalt! * 100, 2), fixed(says.acidShare, 2)]).toEqual(['2.40', '0.73']);
    expect(fixed(says.ph!.from, 2)).toBe('3.60');
    expect(fixed(says.ph!.to, 2)).toBe('3.73');
  });
  it('plain water gives 1.76 %', () =>
    expect(fixed(mixing({ product, added: poured(0), sour: false, ph: null }).waterPhaseSalt! * 100, 2)).toBe('1.76'));
  it('its own brine thins nothing', () =>
    expect(mixing({ product, added: poured(0.024), sour: true, ph: 3.6 })).toEqual(
      jasmine.objectContaining({ acidShare: 1, ph: { from: 3.6, to: 3.6 } }),
    ));
  it('what nobody knows the make of has no salt to be said', () =>
    expect(
      mixing({ product: { ...product, known: false }, added: poured(0), sour: false, ph: 3.6 }).waterPhaseSalt,
    ).toBeNull());
  it('salt and water are kept, whatever is poured', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 100, max: 50_000, noNaN: true }),
        fc.double({ min: 0.001, max: 0.08, noNaN: true }),
        fc.double({ min: 1, max: 50_000, noNaN: true }),
        fc.double({ min: 0, max: 0.08, noNaN: true }),
        (water, salt, added, strength) => {
          const of = { waterGrams: water, saltGrams: water * salt, known: true };
          const more = { waterGrams: added * (1 - strength), saltGrams: added * strength, known: true };
          const says = mixing({ product: of, added: more, sour: false, ph: 3.5 });
          const [low, high] = [salt / (1 + salt), strength].sort((a, b) => a - b);
          expect(says.waterPhaseSalt!).toBeGreaterThanOrEqual(low! - 1e-9);
          expect(says.waterPhaseSalt!).toBeLessThanOrEqual(high! + 1e-9);
          expect(says.acidShare).toBeLessThan(1);
          expect(says.ph!.to).toBeGreaterThan(3.5);
        },
      ),
    ));
});

describe('W16: a sauce, and its bottles before the first is filled', () => {
  const made = sauce({
    solidsGrams: 18_400,
    brineBack: 0.35,
    vinegar: 0.04,
    thickener: 0.0015,
    loss: 0.025,
    bottleMl: 150,
    gramsPerMl: 1.03,
  });
  it('160 bottles are set out: three are missing, and 42 g is left', () => {
    const says = volumeBalance({ massGrams: made.afterLossGrams, sizeMl: 150, gramsPerMl: 1.03, setOut: 160 });
    expect([says.full, says.missing, says.over, fixed(says.leftGrams, 0)]).toEqual([163, 3, 0, '42']);
    // 42 g of 154.5 g is worth a bottle of its own.
    expect(says.part).not.toBeNull();
  });
  it('brine goes back in quarters of what is wanted', () =>
    expect(brineBackStops(18_400 * 0.35).map(Math.round)).toEqual([1610, 3220, 4830, 6440]));
  it('a jug of two kilograms takes 13 loads, the last one smaller', () =>
    expect(blenderLoads(25_870, 2000)).toEqual({ loads: 13, lastGrams: 1870 }));
  it('994 g of vinegar of 6 % in 25.87 kg is 0.23 % of acetic acid', () =>
    expect(fixed(aceticPercent(994, 6, 25_870), 2)).toBe('0.23'));
  it('full bottles, the part-filled one and the rest are all there is, and the table is right', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 200_000, noNaN: true }),
        fc.integer({ min: 20, max: 5000 }),
        fc.integer({ min: 0, max: 500 }),
        (massGrams, sizeMl, standing) => {
          const says = volumeBalance({ massGrams, sizeMl, gramsPerMl: 1.03, setOut: standing });
          expect(Math.abs(says.full * sizeMl * 1.03 + says.leftGrams - massGrams)).toBeLessThan(1e-3);
          expect(standing + says.missing - says.over).toBe(says.full + (says.part && standing > says.full ? 1 : 0));
          expect(says.missing === 0 || says.over === 0).toBeTrue();
        },
      ),
    ));
});

describe('the sheet of a finish', () => {
  it('each station stands once, and the last one counts the bottles', () => {
    for (const what of FINISHES) {
      const keys = finishSheet(what).map(({ key }) => key);
      expect(new Set(keys).size).toBe(keys.length);
      expect(keys.at(-1)).toBe('balance');
    }
    expect(new Set(FINISHES.flatMap((what) => finishSheet(what).map(({ key }) => key)))).toEqual(
      new Set(FINISH_STATIONS),
    );
  });
  it('a sauce is blended before it is soured, and read before it is filled', () => {
    const keys = finishSheet('sauce').map(({ key }) => key);
    expect(['blend', 'vinegar', 'thicken', 'read', 'balance'].map((key) => keys.indexOf(key as never))).toEqual(
      ['blend', 'vinegar', 'thicken', 'read', 'balance'].map((key) => keys.indexOf(key as never)).sort((a, b) => a - b),
    );
  });
});

describe('what a finish meets before it is packed', () => {
  const MIXED = Date.parse('2026-11-20T10:00:00Z');
  const read = (hours: number, ph: number, more: object = {}): PhPoint => ({
    at: MIXED + hours * 3_600_000,
    ph,
    sample: 'blended',
    fit: true,
    ...more,
  });
  const asked = (finish: (typeof FINISHES)[number], points: readonly PhPoint[], more: object = {}): string | null => {
    const rows = finishGate({
      code: 'S1',
      finish,
      closed: false,
      onHold: null,
      points,
      mixedAt: MIXED,
      acidLimit: 4.2,
      ...more,
    });
    const first = firstRefusal(rows, {});
    return first.ok ? null : first.refusal.code;
  };
  const table: [string, string | null, string | null][] = [
    ['a sauce nobody read', asked('sauce', []), 'pack.noPh'],
    ['a sauce read before its vinegar', asked('sauce', [read(-1, 3.6)]), 'pack.noPh'],
    ['a sauce read once since', asked('sauce', [read(1, 3.6)]), 'pack.twoReadings'],
    ['a sauce read twice since, a day apart', asked('sauce', [read(1, 3.6), read(25, 3.62)]), null],
    ['a sauce read twice on one day', asked('sauce', [read(1, 3.6), read(20, 3.62)]), 'pack.twoReadings'],
    ['a sauce whose readings differ', asked('sauce', [read(1, 3.6), read(25, 3.75)]), 'pack.twoReadings'],
    [
      'a sauce, its first reading before its vinegar',
      asked('sauce', [read(-20, 3.6), read(6, 3.6)]),
      'pack.twoReadings',
    ],
    [
      'a sauce that rises, by a strip',
      asked('sauce', [read(1, 3.6), read(25, 3.6), read(30, 3.9, { fit: false })]),
      'pack.rising',
    ],
    ['a sauce read with a strip', asked('sauce', [read(1, 3.6, { fit: false })]), 'pack.noPh'],
    ['a sauce, its brine alone read', asked('sauce', [read(1, 3.6, { sample: 'brine' })]), 'pack.noPh'],
    ['a sauce above the limit', asked('sauce', [read(1, 4.4)]), 'pack.phAboveLimit'],
    [
      'a sauce above the limit by a strip',
      asked('sauce', [read(1, 3.6), read(2, 4.4, { fit: false })]),
      'pack.phAboveLimit',
    ],
    ['an infusion nobody read', asked('infusion', []), 'pack.noPh'],
    ['pieces repacked: read in their jars', asked('repack', []), null],
    ['pieces repacked, above the limit', asked('repack', [read(1, 4.3)]), 'pack.phAboveLimit'],
    ['on hold', asked('sauce', [read(1, 3.6)], { onHold: 'glass' }), 'lot.onHold'],
    ['emptied', asked('sauce', [read(1, 3.6)], { closed: true }), 'lot.closed'],
  ];
  for (const [what, found, wanted] of table) it(what, () => expect(found).toBe(wanted));
});

describe('what brings no acid when it is put in later', () => {
  const table: [string, { kind: string | null; group?: string | null; form: string | null }, boolean][] = [
    ['garlic', { kind: 'produce', group: 'vegetable', form: null }, true],
    ['produce nobody said more of', { kind: 'produce', form: null }, true],
    ['plums', { kind: 'produce', group: 'fruit', form: null }, false],
    ['pepper, dried', { kind: 'flavouring', form: null }, false],
    ['a paste of garlic', { kind: null, form: 'paste' }, true],
    ['its own brine, boiled', { kind: null, form: 'boiledBrine' }, false],
  ];
  for (const [what, of, wanted] of table) it(what, () => expect(lowAcid(of)).toBe(wanted));
});

describe('what starts a ferment again', () => {
  const of = (more: object) => ({ name: 'x', kind: 'flavouring', ...more });
  const table: [string, boolean, boolean][] = [
    ['said to be sweet', feeds(of({}), 'sweet'), true],
    ['honey, called a spice', feeds(of({ standsFor: 'sweet' }), 'spice'), true],
    ['fruit, called a spice', feeds(of({ kind: 'produce', group: 'fruit' }), 'spice'), true],
    ['a paste with 300 g of sugar in a kilogram', feeds(of({ sugarPerKg: 300 }), 'spice'), true],
    ['vinegar with 4 g', feeds(of({ sugarPerKg: 4, standsFor: 'vinegar' }), 'vinegar'), false],
    ['produce nobody said more of', feeds(of({ kind: 'produce' }), 'spice'), true],
    ['a purée called a spice', preparationFeeds('puree', 'spice'), true],
    ['a porridge', preparationFeeds('porridge', 'spice'), true],
    ['its own brine, boiled', preparationFeeds('boiledBrine', 'brine'), false],
    ['a preparation said to be sweet', preparationFeeds('byProduct', 'sweet'), true],
    ['a root', feeds(of({ kind: 'produce', group: 'root' }), 'spice'), false],
  ];
  for (const [what, found, wanted] of table) it(what, () => expect(found).toBe(wanted));
  const kept = (storage: 'cold' | 'cellar' | 'ambient', more: object): string | null => {
    const said = decideStorage({
      storage,
      processOnFile: false,
      restarts: [],
      driedUnmeasured: [],
      coolAllowed: true,
      ...more,
    });
    return said.ok ? null : said.refusal.code;
  };
  it('it stands cold, or is heated: never in the cellar', () => {
    expect(kept('cold', { restarts: ['Honey'] })).toBeNull();
    expect(kept('cellar', { restarts: ['Honey'] })).toBe('finish.restarts');
    expect(kept('ambient', { restarts: ['Honey'] })).toBe('pack.ambient');
    expect(kept('ambient', { restarts: ['Honey'], processOnFile: true })).toBeNull();
  });
  it('what is dried and not measured stays cold', () => {
    expect(kept('cold', { driedUnmeasured: ['D1'] })).toBeNull();
    for (const storage of ['cellar', 'ambient'] as const)
      expect(kept(storage, { driedUnmeasured: ['D1'], processOnFile: true })).toBe('finish.notMeasured');
  });
});

describe('drained pieces and their brine', () => {
  // 5 kg of roots (w 0.92) in 4.2 kg of water with 310 g of salt, as it was filled.
  const supplies = new Map([
    ['roots', { waterFraction: 0.92, saltFraction: 0, vegetable: true }],
    ['water', { waterFraction: 1, saltFraction: 0, vegetable: false }],
    ['salt', { waterFraction: 0, saltFraction: 1, vegetable: false }],
  ]);
  const move = (
    order: number,
    from: string,
    to: string | null,
    grams: number,
    takes: 'mix' | 'brine' | 'solids' = 'mix',
  ) => ({
    at: order,
    order,
    from,
    to,
    grams,
    takes,
  });
  const filled = [move(1, 'roots', 'V', 5000), move(2, 'water', 'V', 4200), move(3, 'salt', 'V', 310)];
  it('pieces take what is neither water nor salt, and their part of the brine at its strength', () => {
    const standing = contentsOf({ supplies, movements: [...filled, move(4, 'V', 'D', 5000, 'solids')] });
    const [pieces, left] = [standing.get('D')!, standing.get('V')!];
    // 400 g of dry matter goes along; 4,600 g of 9,110 g of water phase.
    expect(fixed(pieces.saltGrams, 1)).toBe(((310 * 4600) / 9110).toFixed(1));
    expect(fixed(pieces.grams - pieces.waterGrams - pieces.saltGrams, 0)).toBe('400');
    expect(fixed(left.grams - left.waterGrams - left.saltGrams, 6)).toMatch(/^-?0\.0{6}$/);
    expect(fixed(left.saltGrams / (left.saltGrams + left.waterGrams), 6)).toBe((310 / 9110).toFixed(6));
  });
  it('half the pieces take half of it', () => {
    const pieces = contentsOf({ supplies, movements: [...filled, move(4, 'V', 'D', 2500, 'solids')] }).get('D')!;
    expect(fixed(pieces.grams - pieces.waterGrams - pieces.saltGrams, 0)).toBe('200');
    expect(fixed(pieces.vegetableGrams, 0)).toBe('2500');
  });
  it('nothing is made or lost, however it is drained and poured back', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9000 }), fc.integer({ min: 1, max: 4000 }), (solids, brine) => {
        const standing = contentsOf({
          supplies,
          movements: [
            ...filled,
            move(4, 'V', 'D', solids, 'solids'),
            move(5, 'V', 'D', Math.min(brine, 9510 - solids), 'brine'),
          ],
        });
        const [a, b] = [standing.get('D')!, standing.get('V')!];
        expect(Math.abs(a.saltGrams + b.saltGrams - 310)).toBeLessThan(1e-6);
        expect(Math.abs(a.waterGrams + b.waterGrams - 8800)).toBeLessThan(1e-6);
        expect(Math.abs(a.grams + b.grams - 9510)).toBeLessThan(1e-6);
      }),
    ));
});

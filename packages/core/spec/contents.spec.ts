import fc from 'fast-check';
import {
  contentsOf,
  decideFill,
  decideSaltWeigh,
  decideVesselSalt,
  decideWeakStart,
  rollUp,
  hasItsSalt,
  saltAtScale,
  saltBand,
  saltFigure,
  shareOf,
  takesOf,
  together,
  type ContentMovement,
  type SupplyContents,
} from '../src/index.js';

const supplies = new Map<string, SupplyContents>([
  ['turnips', { waterFraction: 0.92, saltFraction: 0, vegetable: true }],
  ['shred', { waterFraction: 0.92, saltFraction: 0, vegetable: true }],
  ['salt', { waterFraction: 0, saltFraction: 1, vegetable: false }],
  ['water', { waterFraction: 1, saltFraction: 0, vegetable: false }],
  ['soy', { waterFraction: 0.6, saltFraction: 0.17, vegetable: false }],
]);
type Step = readonly [from: string | null, to: string | null, grams: number, more?: Partial<ContentMovement>];
const standing = (...steps: Step[]) =>
  contentsOf({
    supplies,
    movements: steps.map(([from, to, grams, more], index): ContentMovement => ({
      at: index,
      order: index,
      from,
      to,
      grams,
      takes: 'mix',
      ...more,
    })),
  });
const wps = (lot: string, ...steps: Step[]): number => saltFigure(standing(...steps).get(lot)!).waterPhase! * 100;

describe('one salt figure, by the movements', () => {
  it('what was poured counts, not what was planned: 900 g of a brine of 2,000 g water and 80 g salt on 1,400 g', () => {
    const steps: Step[] = [
      ['turnips', 'bowl', 1400],
      ['water', 'brine', 2000],
      ['salt', 'brine', 80],
      ['bowl', 'jar', 1400],
      ['brine', 'jar', 900],
    ];
    expect(wps('jar', ...steps)).toBeCloseTo((100 * 34.615) / (34.615 + 865.385 + 1288), 2);
    expect(saltFigure(standing(...steps).get('jar')!).ofEverything! * 100).toBeCloseTo(1.505, 2);
    // The left-over has the strength it was made in.
    expect(wps('brine', ...steps)).toBeCloseTo(3.846, 2);
  });
  it('W1: 6,500 g roots, 4,200 g water, 310 g salt: 2.96 % and 2.82 % of the total mass', () => {
    const figure = saltFigure(standing(['turnips', 'v', 6500], ['water', 'v', 4200], ['salt', 'v', 310]).get('v')!);
    expect(figure.waterPhase! * 100).toBeCloseTo(2.96, 2);
    expect(figure.ofEverything! * 100).toBeCloseTo(2.82, 2);
    expect(figure.ofVegetable! * 100).toBeCloseTo(4.77, 2);
  });
  const drum: Step[] = [
    ['shred', 'v', 26_000],
    ['salt', 'v', 572],
  ];
  it('W8: what runs over takes its salt, what dries away leaves it', () => {
    const over: Step = ['v', null, 900, { takes: 'brine' }];
    expect(wps('v', ...drum)).toBeCloseTo(2.34, 2);
    expect(wps('v', ...drum, over)).toBeCloseTo(2.34, 2);
    expect(wps('v', ...drum, over, ['water', 'v', 900])).toBeCloseTo(2.25, 2);
    expect(wps('v', ...drum, over, ['salt', 'v', 21], ['water', 'v', 879])).toBeCloseTo(2.34, 2);
    expect(wps('v', ...drum, ['v', null, 900, { takes: 'water' }])).toBeCloseTo(2.43, 2);
    expect(wps('v', ...drum, ['v', null, 900, { takes: 'water' }], ['water', 'v', 900])).toBeCloseTo(2.34, 2);
  });
  it('ancestry has its time: what B was given before A was thinned stays as strong as it was', () => {
    const steps: Step[] = [...drum, ['v', 'w', 4000], ['water', 'v', 5000]];
    expect(wps('w', ...steps)).toBeCloseTo(2.34, 2);
    expect(wps('v', ...steps)).toBeLessThan(2);
    expect(
      saltFigure(
        contentsOf({ supplies, movements: [], until: 0 }).get('v') ?? {
          grams: 0,
          waterGrams: 0,
          saltGrams: 0,
          vegetableGrams: 0,
          known: true,
        },
      ).waterPhase,
    ).toBeNull();
  });
  it('W6 and W7: a culture’s water, a carrot that joins late', () => {
    expect(wps('v', ['shred', 'v', 12_000], ['salt', 'v', 264], ['water', 'v', 300])).toBeCloseTo(2.28, 2);
    expect(wps('v', ['shred', 'v', 8400], ['salt', 'v', 168])).toBeCloseTo(2.13, 2);
  });
  it('W5: a rinse takes water and salt; what was measured on the leaf stays, and the paste’s own salt joins it', () => {
    const leaf: Step[] = [
      ['shred', 'b', 1000],
      ['salt', 'b', 100],
      ['b', null, 250, { takes: 'rinse', leavesSalt: 0.0272 }],
    ];
    expect(wps('b', ...leaf)).toBeCloseTo(2.72, 2);
    expect(wps('b', ...leaf, ['soy', 'b', 30])).toBeGreaterThan(2.72);
  });
  it('kept brine has the vessel’s own strength, and takes no vegetable with it', () => {
    const found = standing(...drum, ['v', 'kept', 900, { takes: 'brine' }]).get('kept')!;
    expect(saltFigure(found).waterPhase! * 100).toBeCloseTo(2.34, 2);
    expect(found.vegetableGrams).toBe(0);
  });
  it('what stood there before the ledger is not known, and neither is what it was mixed into', () =>
    expect(saltFigure(standing([null, 'old', 9000], ...drum, ['old', 'v', 500]).get('v')!).waterPhase).toBeNull());
  it('how a movement takes is told by what it is', () =>
    expect([
      takesOf({ kind: 'brine.keep', sink: null, fromVessel: true }),
      takesOf({ kind: 'vessel.topUp', sink: 'overflow', fromVessel: true }),
      takesOf({ kind: 'vessel.topUp', sink: 'evaporation', fromVessel: true }),
      takesOf({ kind: 'vessel.split', sink: null, fromVessel: true }),
      takesOf({ kind: 'ingredient.add', sink: null, fromVessel: false }),
      takesOf({ kind: 'leaf.drain', sink: 'rinse', fromVessel: false }),
    ]).toEqual(['brine', 'brine', 'water', 'mix', 'mix', 'rinse']));

  const step = fc.record({
    from: fc.constantFrom('turnips', 'salt', 'water', 'soy', 'a', 'b', 'c'),
    to: fc.constantFrom('a', 'b', 'c', null),
    grams: fc.integer({ min: 1, max: 5000 }),
    takes: fc.constantFrom('mix' as const, 'brine' as const, 'water' as const),
  });
  it('whatever moves: salt and water in are salt and water standing and gone, and nothing is below nought', () =>
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        const moves = steps
          .filter(({ from, to }) => from !== to)
          .map((one, index): ContentMovement => ({ ...one, at: index, order: index }));
        // No more is taken than is there.
        const lawful: ContentMovement[] = [];
        for (const move of moves)
          if (
            supplies.has(move.from!) ||
            (contentsOf({ supplies, movements: lawful }).get(move.from!)?.grams ?? 0) >= move.grams
          )
            lawful.push(move);
        const end = contentsOf({ supplies, movements: lawful });
        const into = lawful.filter(({ from, to }) => supplies.has(from!) && to !== null);
        const saltIn = into.reduce((sum, { from, grams }) => sum + grams * supplies.get(from!)!.saltFraction, 0);
        const left = lawful.map((_, index) => {
          const [before, after] = [
            contentsOf({ supplies, movements: lawful.slice(0, index) }),
            contentsOf({ supplies, movements: lawful.slice(0, index + 1) }),
          ];
          const total = (all: typeof before): number => [...all.values()].reduce((sum, one) => sum + one.saltGrams, 0);
          const { from, to, grams } = lawful[index]!;
          return to === null && !supplies.has(from!)
            ? total(before) - total(after)
            : supplies.has(from!) && to !== null
              ? total(before) + grams * supplies.get(from!)!.saltFraction - total(after)
              : total(before) - total(after);
        });
        const standingSalt = [...end.values()].reduce((sum, one) => sum + one.saltGrams, 0);
        return (
          Math.abs(saltIn - standingSalt - left.reduce((sum, one) => sum + one, 0)) < 1e-6 &&
          left.every((one) => one > -1e-6) &&
          [...end.values()].every((one) => one.saltGrams >= 0 && one.waterGrams >= 0 && one.grams >= 0)
        );
      }),
      { numRuns: 400 },
    ));
  it('a share and the rest are the whole', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), (grams) => {
        const all = standing(['turnips', 'v', 9000], ['water', 'v', 700], ['salt', 'v', 300]).get('v')!;
        const both = together(shareOf(all, grams), shareOf(all, 10_000 - grams));
        return Math.abs(both.saltGrams - all.saltGrams) < 1e-6 && Math.abs(both.waterGrams - all.waterGrams) < 1e-6;
      }),
    ));
  it('a negative mass, or none, is a fault of the caller', () =>
    expect(
      [-1, NaN].map((grams) => {
        try {
          return standing(['salt', 'v', grams]);
        } catch (error) {
          return error instanceof RangeError;
        }
      }),
    ).toEqual([true, true]));
});

describe('what is no number never reads as the lenient answer', () => {
  const code = (outcome: { ok: boolean; refusal?: { code: string } }): string =>
    outcome.ok ? 'accepted' : outcome.refusal!.code;
  it('a batch has its salt within 3 % of what is wanted, or with a reason; one that wants none yet has not', () => {
    const has = (saltGrams: number, targetGrams: number, acceptedReason: string | null = null) =>
      hasItsSalt({ saltGrams, targetGrams, acceptedReason });
    // 3 % of 300 g is 9 g: the very edge is in, four hundredths beyond it are not.
    expect([has(291, 300), has(309, 300), has(290.96, 300), has(309.04, 300)]).toEqual([true, true, false, false]);
    expect([has(340, 300, 'rinsed afterwards'), has(0, 0), has(0, 0, '')]).toEqual([true, false, false]);
  });
  it('at the scale, at the start, at the lid', () => {
    expect(saltBand(NaN)).toBe('weak');
    expect(() => saltAtScale({ saltGrams: NaN, targetGrams: 100 })).toThrowError(RangeError);
    expect(() => saltAtScale({ saltGrams: 100, targetGrams: NaN })).toThrowError(RangeError);
    expect(() => saltAtScale({ saltGrams: -5, targetGrams: 100 })).toThrowError(RangeError);
    const batch = {
      basis: 'ofVegetable' as const,
      saltFraction: 0.022,
      produceGrams: 1000,
      waterGrams: 0,
      saltInGrams: 0,
    };
    expect([NaN, -3, 0].map((grams) => code(decideSaltWeigh({ batch, grams, alreadyIn: true })))).toEqual([
      'mass.notPositive',
      'mass.notPositive',
      'mass.notPositive',
    ]);
    expect(code(decideWeakStart({ waterPhaseSalt: NaN, isReviewer: false, reason: 'x' }))).toBe(
      'salt.weakNeedsReviewer',
    );
    expect(
      code(decideVesselSalt({ tag: 'G1', waterPhaseSalt: NaN, isReviewer: false, reason: 'x', doing: 'why' })),
    ).toBe('salt.weakNeedsReviewer');
    const vessel = { tag: 'G1', brimMl: 5000, maxFill: 0.88, minFill: 0.5, inUse: true, takenBy: null };
    expect([NaN, -20].map((grams) => code(decideFill({ vessel, grams })))).toEqual([
      'mass.notPositive',
      'mass.notPositive',
    ]);
  });
  it('a weak vessel wants a reviewer’s written reason, not a blank and not a maker’s', () => {
    const say = (isReviewer: boolean, reason: string | null) =>
      code(decideVesselSalt({ tag: 'G1', waterPhaseSalt: 0.0149, isReviewer, reason, doing: 'why' }));
    expect([
      say(false, 'it will do'),
      say(true, ' '),
      say(true, null),
      say(true, 'for the kitchen, cold, three days'),
    ]).toEqual(['salt.weakNeedsReviewer', 'salt.weakNeedsReviewer', 'salt.weakNeedsReviewer', 'accepted']);
    expect(
      code(decideVesselSalt({ tag: 'G1', waterPhaseSalt: 0.015, isReviewer: false, reason: null, doing: 'why' })),
    ).toBe('accepted');
  });
});

describe('the label of a rinsed leaf', () => {
  const part = (name: string, grams: number, over: object = {}) => ({
    name,
    grams,
    waterFraction: 0.92,
    saltFraction: 0,
    allergens: [],
    ...over,
  });
  it('has the salt that stayed, not what went down the drain', () => {
    const parts = [
      part('Collard', 1000, { rinsed: true, costPerKg: 3 }),
      part('Salt', 100, { rinsed: true, isSalt: true, costPerKg: 1 }),
      part('Damson', 120),
    ];
    const rinsed = rollUp({ parts, rinsedTo: { grams: 820, saltGrams: 19.5 }, jars: 0 });
    expect(rollUp({ parts, jars: 0 }).saltPer100).toBeCloseTo(8.2, 1);
    expect(rinsed.saltPer100).toBeCloseTo((19.5 / 940) * 100, 6);
    expect(rinsed.statement.map(({ name }) => name)).toEqual(['Collard', 'Damson', 'Salt']);
    expect(rinsed.materialCost).withContext('all of it was bought').toBeCloseTo(3.1, 6);
  });
});

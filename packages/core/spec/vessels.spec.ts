import fc from 'fast-check';
import {
  assumedInner,
  burpInterval,
  fitVessels,
  headspaceMl,
  headspaceMm,
  leastMl,
  usableMl,
  volumeToHeight,
  type FitVessel,
  type InnerShape,
} from '../src/index.js';

const vessel = (id: string, litres: number, maxFill = 0.85, minFill = 0.7, weightVolumeMl = 0): FitVessel => ({
  id,
  brimMl: litres * 1000,
  maxFill,
  minFill,
  weightVolumeMl,
});
const FIVE = [vessel('C1', 30), vessel('C2', 30), vessel('C3', 15), vessel('G1', 10), vessel('G2', 5)];
const ids = (set: { parts: readonly { id: string }[] }): string => set.parts.map(({ id }) => id).join('+');

describe('fitting vessels', () => {
  describe('W4: 41 L of packed shred into 30, 30, 15, 10 and 5 L', () => {
    const fit = fitVessels({ batchMl: 41_000, vessels: FIVE });
    it('30 + 15 + 5 holds it with nothing left, evenly at 0.82', () => {
      const best = fit.sets[0]!;
      expect(ids(best)).toBe('C1+C3+G2');
      expect([best.leastMl, best.mostMl, best.leftoverMl]).toEqual([35_000, 42_500, 0]);
      for (const part of best.parts) expect(part.fillFraction).toBeCloseTo(0.82, 6);
    });
    it('30 + 15 + 10 is the next, at 0.745', () => {
      expect(ids(fit.sets[1]!)).toBe('C1+C3+G1');
      expect(fit.sets[1]!.parts[0]!.fillFraction).toBeCloseTo(0.745, 3);
    });
    it('never both of 30 L: they ask for 42 L', () =>
      expect(fit.sets.some((set) => ids(set).includes('C1+C2'))).toBeFalse());
    it('with only the two of 30 L it says what is left, how much more they ask for, and which vessel would take the rest', () => {
      const two = fitVessels({ batchMl: 41_000, vessels: FIVE.slice(0, 2) });
      expect(two.sets[0]!.leftoverMl).toBeCloseTo(15_500, 6);
      expect(two.wouldFit.moreMl).toBeCloseTo(1000, 6);
      expect(two.wouldFit.brimMl!.from).toBeCloseTo(15_500 / 0.85, 6);
    });
    it('too little for any vessel: nothing fits, and it says what would', () => {
      const fit = fitVessels({ batchMl: 2000, vessels: [vessel('G1', 4)] });
      expect(fit.sets).toEqual([]);
      expect(fit.wouldFit.moreMl).toBeCloseTo(800, 6);
    });
    it('without vessels there is only what would fit', () =>
      expect(fitVessels({ batchMl: 2000, vessels: [] })).toEqual({
        sets: [],
        wouldFit: { moreMl: null, brimMl: { from: 2000 / 0.85, to: 2000 / 0.7 } },
      }));
  });

  it('small jars: nothing of a small batch is left because rooms were rounded', () => {
    const jars = Array.from({ length: 12 }, (_, index) => vessel(`j${index}`, 0.33, 0.85, 0.7));
    const fit = fitVessels({ batchMl: 3000, vessels: jars });
    expect([fit.sets[0]!.parts.length, fit.sets[0]!.leftoverMl]).toEqual([11, 0]);
    const few = fitVessels({ batchMl: 3000, vessels: jars.slice(0, 5) });
    expect(few.sets[0]!.leftoverMl).toBeCloseTo(3000 - 5 * 280.5, 6);
    expect(few.sets[0]!.parts.every(({ airMl, contentsMl }) => airMl >= 0 && contentsMl > 0)).toBeTrue();
    const heavy = fitVessels({
      batchMl: 500,
      vessels: [vessel('w', 0.33, 0.85, 0.7, 300), vessel('x', 0.72, 0.85, 0.5)],
    });
    expect(
      heavy.sets.every(({ parts }) => parts.every(({ id, contentsMl }) => id === 'x' && contentsMl > 0)),
    ).toBeTrue();
  });
  it('sixty vessels of sixty sizes keep to a small table, and find what every number of vessels would', () => {
    const sizes = Array.from({ length: 60 }, (_, index) => vessel(`v${index}`, 3 + index * 0.473));
    for (const batchMl of [41_000, 700_000]) {
      const { sets } = fitVessels({ batchMl, vessels: sizes });
      expect([sets.length, sets[0]!.leftoverMl]).toEqual([5, 0]);
      expect(sets[0]!.mostMl).toBeGreaterThanOrEqual(batchMl);
      expect(sets[0]!.airMl).toBeLessThanOrEqual(sets[1]!.airMl + 1e-6);
    }
  });

  const aVessel = fc.record({
    litres: fc.integer({ min: 4, max: 60 }).map((half) => half / 2),
    max: fc.constantFrom(0.75, 0.8, 0.85, 0.9),
    min: fc.constantFrom(0.5, 0.6, 0.7),
    weight: fc.constantFrom(0, 130, 350),
  });
  const some = fc
    .array(aVessel, { minLength: 1, maxLength: 9 })
    .map((all) => all.map(({ litres, max, min, weight }, index) => vessel(`v${index}`, litres, max, min, weight)));

  it('two hundred vessels, all different: a set is found for every batch, whole and inside every window', () => {
    const many = Array.from({ length: 200 }, (_, i) =>
      vessel(`V${i}`, 5 + ((i * 137) % 45_000) / 1000, 0.85, 0.7, (i * 13) % 400),
    );
    for (const batchMl of [41_000, 300_000, 1_000_000, 2_500_000]) {
      const [best] = fitVessels({ batchMl, vessels: many }).sets;
      expect(best!.leftoverMl).withContext(String(batchMl)).toBe(0);
      expect(best!.parts.reduce((sum, { contentsMl }) => sum + contentsMl, 0)).toBeCloseTo(batchMl, 0);
      expect(best!.parts.every(({ fillFraction }) => fillFraction > 0.699 && fillFraction < 0.851)).toBeTrue();
    }
  });
  it('law: best against every subset there is', () => {
    fc.assert(
      fc.property(some, fc.integer({ min: 1000, max: 120_000 }), (vessels, batchMl) => {
        const best = bruteForce(batchMl, vessels);
        const found = fitVessels({ batchMl, vessels }).sets[0];
        if (!best) {
          expect(!found || found.leftoverMl > 0).toBeTrue();
          return;
        }
        expect(found!.leftoverMl).toBe(0);
        expect(found!.parts.length).toBe(best.count);
        expect(found!.airMl).toBeCloseTo(best.airMl, 4);
      }),
      { numRuns: 300 },
    );
  });
  it('law: every vessel chosen lies inside its window, and the parts with what is left add up', () => {
    fc.assert(
      fc.property(some, fc.integer({ min: 1000, max: 120_000 }), (vessels, batchMl) => {
        for (const set of fitVessels({ batchMl, vessels }).sets) {
          for (const part of set.parts) {
            const of = vessels.find(({ id }) => id === part.id)!;
            expect(part.contentsMl).toBeGreaterThanOrEqual(leastMl(of) - 1e-6);
            expect(part.contentsMl).toBeLessThanOrEqual(usableMl(of) + 1e-6);
          }
          expect(set.parts.reduce((sum, part) => sum + part.contentsMl, 0) + set.leftoverMl).toBeCloseTo(batchMl, 3);
        }
      }),
      { numRuns: 200 },
    );
  });
});

function bruteForce(batchMl: number, vessels: readonly FitVessel[]): { count: number; airMl: number } | null {
  let best: { count: number; airMl: number } | null = null;
  for (let set = 1; set < 2 ** vessels.length; set += 1) {
    const chosen = vessels.filter((_, index) => (set >> index) & 1);
    const least = chosen.reduce((sum, one) => sum + leastMl(one), 0);
    const most = chosen.reduce((sum, one) => sum + usableMl(one), 0);
    if (least > batchMl + 1e-9 || most < batchMl - 1e-9) continue;
    const airMl = chosen.reduce((sum, one) => sum + one.brimMl - one.weightVolumeMl, 0) - batchMl;
    if (!best || chosen.length < best.count || (chosen.length === best.count && airMl < best.airMl))
      best = { count: chosen.length, airMl };
  }
  return best;
}

describe('headspace', () => {
  const shapes: InnerShape[] = [
    { shape: 'cylinder', diameterMm: 300, heightMm: 400 },
    { shape: 'taper', topMm: 340, bottomMm: 290, heightMm: 340 },
    { shape: 'neck', diameterMm: 200, heightMm: 260, neckMm: 120, neckHeightMm: 40 },
  ];
  it('a litre of air over a cylinder of 300 mm is 14.1 mm', () =>
    expect(headspaceMm(shapes[0]!, 1000)).toBeCloseTo(14.15, 1));
  it('law: mm and mL there and back, in every shape', () => {
    fc.assert(
      fc.property(fc.constantFrom(...shapes), fc.double({ min: 1, max: 200, noNaN: true }), (inner, mm) => {
        expect(headspaceMm(inner, headspaceMl(inner, mm))).toBeCloseTo(mm, 3);
      }),
    );
  });
  it('law: a shape taken for granted holds the brim it was asked for', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('crock', 'drum', 'glass', 'barrel', 'bag' as const),
        fc.integer({ min: 500, max: 60_000 }),
        (kind, brimMl) => {
          expect(volumeToHeight(assumedInner({ kind, brimMl }), 10_000) / brimMl).toBeCloseTo(1, 6);
        },
      ),
    );
  });
});

describe('gas', () => {
  it('less headspace is burped more often', () => {
    const wide = burpInterval({ contentsGrams: 8000, headspaceMl: 2000 });
    const tight = burpInterval({ contentsGrams: 8000, headspaceMl: 500 });
    expect(tight.hours).toBeCloseTo(wide.hours / 4, 9);
    expect(wide.kpaPerDay).toBeGreaterThan(0);
  });
  it('no headspace has no answer', () =>
    expect(() => burpInterval({ contentsGrams: 1, headspaceMl: 0 })).toThrowError(RangeError));
});

import fc from 'fast-check';
import { chainFromJars, chainFromTrimmed, scaleFormula, splitDose, type ScalableFormula } from '../src/index.js';

const yields = { trim: 0.81, ferment: 0.93, pack: 0.97 };
const turnips: ScalableFormula = {
  produce: [{ materialId: 'turnip', name: 'Baby turnips', share: 1, waterFraction: 0.92 }],
  saltBasis: 'ofEverything',
  saltFraction: 0.026,
  waterPerProduce: 0.7,
  lines: [
    { materialId: 'thyme', name: 'Lemon thyme', scaleBy: 'mainMass', amount: 0.004 },
    { materialId: 'juniper', name: 'Juniper', scaleBy: 'saltMass', amount: 0.3 },
    { materialId: 'leaf', name: 'Leaf', scaleBy: 'batch', amount: 12 },
  ],
  solidsFraction: 0.58,
  yields,
};

describe('W18: from jars back to what to buy', () => {
  it('120 jars of 320 g at 58 % solids', () => {
    const chain = chainFromJars({ jars: [{ sizeMl: 330, count: 120, fillGrams: 320 }], solidsFraction: 0.58, yields });
    expect(chain.solidsInJarsGrams / 1000).toBeCloseTo(22.27, 2);
    expect(chain.drainedGrams / 1000).toBeCloseTo(22.96, 2);
    expect(chain.trimmedGrams / 1000).toBeCloseTo(24.69, 2);
    expect(chain.boughtGrams / 1000).toBeCloseTo(30.48, 2);
  });
  it('forward from the trimmed mass gives the same jars', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.double({ min: 0.3, max: 1, noNaN: true }), (count, solids) => {
        const back = chainFromJars({ jars: [{ sizeMl: 330, count, fillGrams: 320 }], solidsFraction: solids, yields });
        expect(
          chainFromTrimmed({ trimmedGrams: back.trimmedGrams, solidsFraction: solids, yields }).filledGrams,
        ).toBeCloseTo(count * 320, 4);
      }),
    );
  });
  it('refuses a yield above one', () =>
    expect(() =>
      chainFromTrimmed({ trimmedGrams: 1, solidsFraction: 1, yields: { ...yields, trim: 81 } }),
    ).toThrowError(RangeError));
});

describe('a formula scaled to a trimmed mass', () => {
  const scaled = scaleFormula({ formula: turnips, target: { from: 'trimmed', trimmedGrams: 10_000 } });
  it('counts each line on what it is counted on', () => {
    const grams = Object.fromEntries(scaled.lines.map((line) => [line.name, line.grams]));
    expect(grams['Water']).toBeCloseTo(7000, 6);
    expect(grams['Salt']).toBeCloseTo(442, 6);
    expect(grams['Lemon thyme']).toBeCloseTo(40, 6);
    expect(grams['Juniper']).toBeCloseTo(132.6, 6);
    expect(grams['Leaf']).toBe(12);
  });
  it('shows where it evens out', () =>
    expect(scaled.waterPhaseSalt * 100).toBeCloseTo((442 / (442 + 7000 + 9200 + 0.92 * (40 + 132.6 + 12))) * 100, 6));
  it('carries the working of every line', () => {
    for (const line of scaled.lines) {
      expect(line.working.rule).not.toBe('');
      expect(line.working.sources.length).toBeGreaterThan(0);
    }
    expect(scaled.workings.salt.figures).toBe('0.026 × (10.000 kg + 7.000 kg)');
  });
  it('is linear: scaling twice is scaling once', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 500, max: 1e5, noNaN: true }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        (grams, k) => {
          const once = scaleFormula({
            formula: { ...turnips, lines: turnips.lines.slice(0, 2) },
            target: { from: 'trimmed', trimmedGrams: grams },
          });
          const more = scaleFormula({
            formula: { ...turnips, lines: turnips.lines.slice(0, 2) },
            target: { from: 'trimmed', trimmedGrams: grams * k },
          });
          once.lines.forEach((line, i) => expect(more.lines[i]!.grams! / (line.grams! * k)).toBeCloseTo(1, 9));
          expect(more.waterPhaseSalt).toBeCloseTo(once.waterPhaseSalt, 12);
        },
      ),
    );
  });
  it('refuses shares that do not add up to one', () =>
    expect(() =>
      scaleFormula({
        formula: { ...turnips, produce: [{ ...turnips.produce[0]!, share: 0.6 }] },
        target: { from: 'trimmed', trimmedGrams: 1 },
      }),
    ).toThrowError(RangeError));
});

describe('a dose over several bowls', () => {
  it('100 g over three equal bowls is 34, 33, 33', () =>
    expect(splitDose({ doseGrams: 100, shares: [1, 1, 1], stepGrams: 1 })).toEqual([34, 33, 33]));
  it('adds up exactly, whatever the bowls hold', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 100_000 }),
        fc.array(fc.integer({ min: 1, max: 50_000 }), { minLength: 1, maxLength: 12 }),
        (dose, shares) => {
          const parts = splitDose({ doseGrams: dose, shares, stepGrams: 1 });
          expect(parts.reduce((sum, part) => sum + part, 0)).toBe(dose);
          const whole = shares.reduce((sum, share) => sum + share, 0);
          parts.forEach((part, i) => expect(Math.abs(part - (dose * shares[i]!) / whole)).toBeLessThan(1));
        },
      ),
    );
  });
});

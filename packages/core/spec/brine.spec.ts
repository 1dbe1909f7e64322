import fc from 'fast-check';
import {
  adjustBrine,
  brineDensity,
  brineForVessel,
  hydrometerStrength,
  makeBrine,
  strengthFrom,
  strengthFromDensity,
  strengthOnAllScales,
  STRENGTH_SCALES,
} from '../src/index.js';

const W3 = {
  room: { brimMl: 15_000, maxFill: 0.88, weightVolumeMl: 350 },
  solids: [{ grams: 7200, gramsPerMl: 0.96, waterFraction: 0.92 }],
  strength: 0.05 / 1.05,
};
const valueOf = <T>(outcome: { ok: true; value: T } | { ok: false; refusal: { message: string } }): T => {
  if (!outcome.ok) throw new Error(outcome.refusal.message);
  return outcome.value;
};

describe('brine', () => {
  describe('W3: brine for a drum', () => {
    const brine = valueOf(brineForVessel(W3));
    it('usable room, displacement and packing', () => {
      expect(brine.usableMl).toBeCloseTo(12_850, 6);
      expect(brine.solidsMl).toBeCloseTo(7500, 6);
      expect(brine.packing).toBeCloseTo(0.584, 3);
    });
    it('brine, salt and water to pour', () => {
      expect(brine.brineMl).toBeCloseTo(5350, 6);
      expect(brine.brineGrams).toBeCloseTo(5523, -0.3);
      expect(brine.saltGrams).toBeCloseTo(263.0, 0);
      expect(brine.waterGrams).toBeCloseTo(5260, -0.3);
      expect(brine.waterPhaseSalt).toBeCloseTo(0.0217, 4);
    });
    it('8 % more is made, never the whole drum', () => {
      expect(brine.make.saltGrams).toBeCloseTo(284.0, 0);
      expect(brine.make.waterGrams).toBeCloseTo(5681, -0.3);
      expect(brine.make.brineGrams).toBeLessThan(6000);
    });
    it('what does not go in is refused, with what does', () => {
      const outcome = brineForVessel({ ...W3, solids: [{ grams: 11_000, gramsPerMl: 0.96 }], mostPacking: 0.62 });
      expect(outcome.ok).toBeFalse();
      expect(!outcome.ok && outcome.refusal.message).toContain('will not go in');
    });
  });

  describe('W23: a hydrometer away from its temperature', () => {
    it('5.0 % read at 5 °C is 4.59 %', () =>
      expect(hydrometerStrength({ readStrength: 0.05, celsius: 5 })).toBeCloseTo(0.0459, 4));
    it('5.0 % read at 30 °C is 5.43 %', () =>
      expect(hydrometerStrength({ readStrength: 0.05, celsius: 30 })).toBeCloseTo(0.0543, 4));
    it('at its own temperature it reads true', () =>
      expect(hydrometerStrength({ readStrength: 0.05, celsius: 20 })).toBeCloseTo(0.05, 6));
  });

  it('1 L of water and 50 g of salt make 1.0154 L of 4.77 %', () => {
    const strength = 50 / (998.21 + 50);
    expect(strength).toBeCloseTo(0.0477, 4);
    expect((998.21 + 50) / brineDensity({ strength })).toBeCloseTo(1015.4, 0);
  });
  it('thinning and strengthening', () => {
    expect(valueOf(adjustBrine({ brineGrams: 1000, strength: 0.05, wanted: 0.04 })).addWaterGrams).toBeCloseTo(250, 6);
    expect(valueOf(adjustBrine({ brineGrams: 1000, strength: 0.04, wanted: 0.05 })).addSaltGrams).toBeCloseTo(10.53, 2);
  });

  it('law: every scale of strength there and back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.255, noNaN: true }),
        fc.constantFrom(...STRENGTH_SCALES),
        (strength, scale) => {
          expect(valueOf(strengthFrom({ scale, value: strengthOnAllScales(strength)[scale] }))).toBeCloseTo(
            strength,
            5,
          );
        },
      ),
    );
  });
  it('law: density there and back, at any temperature', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 0.26, noNaN: true }),
        fc.integer({ min: 1, max: 40 }),
        (strength, celsius) => {
          expect(strengthFromDensity({ gramsPerMl: brineDensity({ strength, celsius }), celsius })).toBeCloseTo(
            strength,
            6,
          );
        },
      ),
    );
  });
  it('law: an adjusted brine has the strength wanted, and its parts add up', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 100, max: 90_000 }),
        fc.double({ min: 0.005, max: 0.25, noNaN: true }),
        fc.double({ min: 0.005, max: 0.25, noNaN: true }),
        (brineGrams, strength, wanted) => {
          const {
            addSaltGrams,
            addWaterGrams,
            brineGrams: after,
          } = valueOf(adjustBrine({ brineGrams, strength, wanted }));
          expect((brineGrams * strength + addSaltGrams) / after).toBeCloseTo(wanted, 9);
          expect(brineGrams + addSaltGrams + addWaterGrams).toBeCloseTo(after, 6);
          const { saltGrams, waterGrams } = makeBrine({ brineGrams, strength });
          expect(saltGrams + waterGrams).toBeCloseTo(brineGrams, 9);
        },
      ),
    );
  });

  it('refuses a brine beyond saturation, on every scale', () => {
    for (const [scale, value] of [
      ['ofSolution', 0.3],
      ['ofWater', 0.4],
      ['gramsPerLitre', 330],
      ['specificGravity', 1.3],
      ['salometer', 110],
    ] as const) {
      const outcome = strengthFrom({ scale, value });
      expect(outcome.ok).withContext(scale).toBeFalse();
      expect(!outcome.ok && outcome.refusal.code).toBe('brine.saturated');
    }
    expect(adjustBrine({ brineGrams: 100, strength: 0.1, wanted: 0.3 }).ok).toBeFalse();
  });
  it('refuses a strength that is none', () => {
    expect(strengthFrom({ scale: 'specificGravity', value: 0.9 }).ok).toBeFalse();
    expect(strengthFrom({ scale: 'ofWater', value: -1 }).ok).toBeFalse();
    expect(() => brineDensity({ strength: 0.3 })).toThrowError(RangeError);
    expect(() => hydrometerStrength({ readStrength: 0.05, celsius: 60 })).toThrowError(RangeError);
  });
});

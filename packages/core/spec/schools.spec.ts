import fc from 'fast-check';
import {
  heavySalt,
  kitchenBrine,
  lateIngredient,
  pasteSalt,
  sideWater,
  splitDose,
  spoonGrams,
  spoonsOf,
  tasteReference,
  topUp,
  waterPhaseSalt,
} from '../src/index.js';

const W2 = { saltAmount: 7, saltUnit: 'tbsp', waterAmount: 3, waterUnit: 'qt' };

describe('the schools of salt', () => {
  describe('W2: 7 tablespoons to 3 quarts', () => {
    it('US, fine: 120.8 g in 2,834 g, 4.26 % of the water', () => {
      const [fine] = kitchenBrine({ brine: W2, nationality: 'us', grain: 'fine' });
      expect(fine!.saltGrams).toBeCloseTo(120.8, 1);
      expect(fine!.waterGrams).toBeCloseTo(2834, 0);
      expect(fine!.ofWater).toBeCloseTo(0.0426, 4);
    });
    it('US, flake: 65.6 g, 2.31 %', () => {
      const [flake] = kitchenBrine({ brine: W2, nationality: 'us', grain: 'flake' });
      expect(flake!.saltGrams).toBeCloseTo(65.6, 1);
      expect(flake!.ofWater).toBeCloseTo(0.0231, 4);
    });
    it('Australian spoon and imperial quart: 163.3 g in 3,403 g', () => {
      const [fine] = kitchenBrine({ brine: W2, nationality: 'australian', grain: 'fine' });
      expect(fine!.saltGrams).toBeCloseTo(163.3, 1);
      expect(fine!.waterGrams).toBeCloseTo(3403, -0.3);
      expect(fine!.ofWater).toBeCloseTo(0.048, 4);
    });
    it('nation and grain unknown: the whole spread, 2.3 to 4.8 %', () => {
      const all = kitchenBrine({ brine: W2 }).map(({ ofWater }) => ofWater);
      expect(Math.min(...all)).toBeCloseTo(0.0231, 4);
      expect(Math.max(...all)).toBeCloseTo(0.048, 4);
    });
    it('a spoon weighed in the house settles the grain', () =>
      expect(kitchenBrine({ brine: W2, nationality: 'us', gramsPer15Ml: 16.2 })).toHaveSize(1));
  });

  describe('W5: heavy salt and rinse', () => {
    it('1,000 g leaf, 100 g salt, 90 minutes, three rinses of 2 L/kg', () => {
      const heavy = heavySalt({
        leafGrams: 1000,
        waterFraction: 0.92,
        saltGrams: 100,
        minutes: 90,
        cut: 'leaf',
        rinses: 3,
        litresPerKg: 2,
      });
      expect(heavy.uptake).toBeCloseTo(0.63, 2);
      expect(heavy.soaked).toBeCloseTo(0.062, 4);
      expect(heavy.estimate).toBeCloseTo(0.0272, 4);
      expect(heavy.band.least).toBeLessThan(heavy.estimate);
      expect(heavy.band.most).toBeGreaterThan(heavy.estimate);
    });
    it('6,000 g leaf, 480 g salt, 120 minutes, two rinses of 1.5 L/kg', () => {
      const heavy = heavySalt({
        leafGrams: 6000,
        waterFraction: 0.93,
        saltGrams: 480,
        minutes: 120,
        cut: 'leaf',
        rinses: 2,
        litresPerKg: 1.5,
      });
      expect(heavy.uptake).toBeCloseTo(0.736, 3);
      expect(heavy.soaked).toBeCloseTo(0.0583, 4);
      expect(heavy.estimate).toBeCloseTo(0.0358, 4);
    });
    it('law: salt added to the paste brings leaf and paste to what was wanted', () => {
      fc.assert(
        fc.property(
          fc.double({ min: 0.005, max: 0.03, noNaN: true }),
          fc.double({ min: 0.02, max: 0.05, noNaN: true }),
          fc.integer({ min: 0, max: 60 }),
          (leafSalt, wanted, sauce) => {
            const paste = [{ grams: sauce, waterFraction: 0.65, saltFraction: 0.17 }];
            const { addSaltGrams, leafSaltGrams } = pasteSalt({
              drainedGrams: 6000,
              waterFraction: 0.9,
              leafSalt,
              paste,
              wanted,
            });
            expect(
              waterPhaseSalt({
                saltGrams: leafSaltGrams + addSaltGrams,
                parts: [{ grams: 6000, waterFraction: 0.9 }, ...paste],
              }),
            ).toBeCloseTo(wanted, 6);
          },
        ),
      );
    });
    it('a brine to taste against has its strength', () => {
      const { saltGrams, waterGrams } = tasteReference(0.025);
      expect(saltGrams / (saltGrams + waterGrams)).toBeCloseTo(0.025, 9);
    });
    it('refuses a leaf of no mass', () =>
      expect(() =>
        heavySalt({
          leafGrams: 0,
          waterFraction: 0.9,
          saltGrams: 1,
          minutes: 1,
          cut: 'leaf',
          rinses: 0,
          litresPerKg: 0,
        }),
      ).toThrowError(RangeError));
  });

  describe('water by a side door', () => {
    it('W6: a culture woken in 300 g of water takes 2.34 to 2.28 %; 7.2 g hold it', () => {
      const water = sideWater({
        saltGrams: 264,
        parts: [{ grams: 12_000, waterFraction: 0.92 }],
        joins: { grams: 300, waterFraction: 1 },
      });
      expect(water.before).toBeCloseTo(0.0234, 4);
      expect(water.after).toBeCloseTo(0.0228, 4);
      expect(water.holdGrams).toBeCloseTo(7.2, 1);
    });
    it('W7: 900 g of carrot after the salt: 18 g more, or 1.93 %', () => {
      const late = lateIngredient({
        saltFraction: 0.02,
        saltGrams: 168,
        parts: [{ grams: 8400, waterFraction: 0.92 }],
        late: { grams: 900, waterFraction: 0.88 },
      });
      expect(late.secondDoseGrams).toBeCloseTo(18, 6);
      expect(late.before).toBeCloseTo(0.0213, 4);
      expect(late.withoutDose).toBeCloseTo(0.0193, 4);
    });
    it('W8: 900 g overflowed of 26 kg: 21 g salt in 879 g water, or 2.25 % with plain water', () => {
      const top = topUp({ saltGrams: 572, waterGrams: 26_000 * 0.92, lostGrams: 900, how: 'overflow' });
      expect(top.saltGrams).toBeCloseTo(21, 0);
      expect(top.waterGrams).toBeCloseTo(879, 0);
      expect(top.withPlainWater).toBeCloseTo(0.0225, 4);
    });
    it('law: the salt that holds the water phase holds it', () => {
      fc.assert(
        fc.property(
          fc.integer({ min: 1000, max: 90_000 }),
          fc.double({ min: 0.01, max: 0.05, noNaN: true }),
          fc.integer({ min: 1, max: 5000 }),
          (grams, p, water) => {
            const { before, holdGrams } = sideWater({
              saltGrams: grams * p,
              parts: [{ grams, waterFraction: 0.92 }],
              joins: { grams: water, waterFraction: 1 },
            });
            expect(
              waterPhaseSalt({
                saltGrams: grams * p + holdGrams,
                parts: [
                  { grams, waterFraction: 0.92 },
                  { grams: water, waterFraction: 1 },
                ],
              }),
            ).toBeCloseTo(before, 9);
          },
        ),
      );
    });
  });

  it('law: spoons and grams there and back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.25, max: 60, noNaN: true }),
        fc.constantFrom(14.787, 15, 20),
        fc.double({ min: 6, max: 19, noNaN: true }),
        (spoons, spoonMl, gramsPer15Ml) => {
          expect(spoonsOf({ grams: spoonGrams({ spoons, spoonMl, gramsPer15Ml }), spoonMl, gramsPer15Ml })).toBeCloseTo(
            spoons,
            9,
          );
        },
      ),
    );
  });
  it('law: salt in stages adds up to its one total', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 5 }),
        (totalGrams, shares) => {
          expect(splitDose({ doseGrams: totalGrams, shares, stepGrams: 1 }).reduce((sum, part) => sum + part, 0)).toBe(
            totalGrams,
          );
        },
      ),
    );
  });
});

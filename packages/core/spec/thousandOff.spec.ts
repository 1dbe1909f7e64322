import { otherUnitMeant, thousandOff } from '../src/index.js';

describe('a mass a thousand times off its plan', () => {
  const cases: readonly (readonly [typed: number, planned: number, meant: number | null, words: string])[] = [
    [5_714_000, 5714, 5714, 'grams typed where kilograms are asked'],
    [1_000_000, 20_000, 1000, 'a portion of a kilogram, typed as grams into kilograms'],
    [0.18, 180, 180, 'kilograms typed where grams are asked'],
    [0.05, 180, 50, 'a portion of it, the same way'],
    [5.714, 5714, 5714, 'a decimal mark too many'],
    [5714, 5714, null, 'as planned'],
    [57_140, 5714, null, 'ten times: more than planned, and said as that'],
    [60, 180, null, 'a portion'],
    [2, 180, null, 'a small portion'],
    [540, 180, null, 'three times as much'],
    [400_000_000, 5714, null, 'nothing a slip of units explains'],
    [0.0001, 180, null, 'nor this'],
    [0, 180, null, 'nothing on the scale'],
    [5714, 0, null, 'nothing planned'],
  ];
  for (const [typed, planned, meant, words] of cases)
    it(`${typed} g of ${planned} g: ${words}`, () => expect(thousandOff({ grams: typed, planned })).toBe(meant));
});

describe('a bare figure in the other unit than such a mass is weighed in', () => {
  const TABLE: readonly (readonly [number, 'g' | 'kg', 'g' | 'kg', number | null])[] = [
    [0.9, 'g', 'kg', 900],
    [12, 'g', 'kg', 12_000],
    [50, 'g', 'kg', null],
    [900, 'g', 'kg', null],
    [180_000, 'kg', 'g', 180],
    [2500, 'kg', 'g', null],
    [0.9, 'g', 'g', null],
    [900_000, 'kg', 'kg', null],
    [0, 'g', 'kg', null],
  ];
  for (const [grams, unit, usual, meant] of TABLE)
    it(`${grams} g typed in ${unit}, usually ${usual}: ${meant ?? 'as it is'}`, () =>
      expect(otherUnitMeant({ grams, unit, usual })).toBe(meant));
});

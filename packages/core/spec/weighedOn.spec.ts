import {
  benchUnit,
  decideWeighedOn,
  formatForScale,
  formatWeighed,
  MASS_UNITS,
  type ScaleOfHouse,
} from '../src/index.js';

const BENCH: ScaleOfHouse = { tag: 'SC1', capacityGrams: 6000, stepGrams: 1, inUse: true, passed: true };
const FLOOR: ScaleOfHouse = { tag: 'SC2', capacityGrams: 150_000, stepGrams: 50, inUse: true, passed: null };

describe('a scale that something is weighed on', () => {
  const TABLE: readonly (readonly [string, ScaleOfHouse, number, number, string | null])[] = [
    ['in its range', BENCH, 321, 0, null],
    ['at the end of it', BENCH, 5514, 486, null],
    ['with its bowl beyond it', BENCH, 5515, 486, 'weighs up to 6,000 g'],
    ['ten times too much', BENCH, 28_000, 0, 'weighs up to 6,000 g'],
    ['a spice on the floor scale', FLOOR, 3, 0, 'shows nothing under one'],
    ['one step of it', FLOOR, 50, 0, null],
    ['never held against a weight', FLOOR, 38_000, 0, null],
    ['found wrong', { ...BENCH, passed: false }, 321, 0, 'did not show its weight right'],
    ['out of use', { ...BENCH, inUse: false }, 321, 0, 'is out of use'],
  ];
  for (const [what, scale, grams, tareGrams, says] of TABLE)
    it(`${what}: ${says ?? 'taken'}`, () => {
      const outcome = decideWeighedOn({ ...scale, grams, tareGrams });
      if (says === null) expect(outcome.ok).toBeTrue();
      else {
        expect(outcome.ok || outcome.refusal.message).toContain(says);
        expect(outcome.ok || outcome.refusal.code).toBe('scale.notFit');
        expect(outcome.ok || outcome.refusal.field).toBe('scaleId');
      }
    });
});

describe('masses as they are weighed and as they are wanted', () => {
  it('a tenth somebody weighed stays; a reckoned one goes', () => {
    expect([53.5, 53, 53.48, 0.5, 9.96, 8163, 8163.4, 12_000.5].map(formatWeighed)).toEqual([
      '53.5 g',
      '53 g',
      '53 g',
      '0.5 g',
      '10.0 g',
      '8,163 g',
      '8,163.4 g',
      '12.00 kg',
    ]);
  });

  it('halves and tenths are wanted only where a scale shows them', () => {
    expect([1, 0.5, 0.1, 50].map((step) => formatForScale(12.34, step))).toEqual(['12 g', '12.5 g', '12.3 g', '12 g']);
    expect(formatForScale(31_400, 0.1)).toBe('31.40 kg');
  });

  it('a house has one unit at its bench, or the one such a mass is usually weighed in', () => {
    expect(MASS_UNITS.map((unit) => [benchUnit(unit, 'g'), benchUnit(unit, 'kg')])).toEqual([
      ['g', 'g'],
      ['kg', 'kg'],
      ['g', 'kg'],
    ]);
    expect(benchUnit(undefined, 'kg')).toBe('kg');
  });
});

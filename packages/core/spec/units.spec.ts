import fc from 'fast-check';
import {
  checkCelsius,
  checkMass,
  checkPh,
  celsiusFromFahrenheit,
  fahrenheitFromCelsius,
  formatGrams,
  kitchenVolume,
  parseMass,
  parseNumber,
  parsePh,
  unitKey,
  parseTemperature,
} from '../src/index.js';

const value = (outcome: { ok: boolean }): unknown => (outcome as { value?: unknown }).value;
const code = (outcome: { ok: boolean }): unknown => (outcome as { refusal?: { code: string } }).refusal?.code;

describe('figures as people type them', () => {
  const table: [string, 'comma' | 'point', unknown][] = [
    ['1.5', 'point', 1.5],
    ['1,5', 'point', 1.5],
    ['1,5', 'comma', 1.5],
    ['1250', 'point', 1250],
    ['0,500', 'point', 0.5],
    ['1.234,5', 'point', 1234.5],
    ['1,234.5', 'point', 1234.5],
    ['12 500', 'point', 12500],
    ['-3', 'point', -3],
  ];
  for (const [text, decimalMark, expected] of table) {
    it(`reads “${text}” in a ${decimalMark} house as ${String(expected)}`, () =>
      expect(value(parseNumber({ text, decimalMark }))).toBe(expected));
  }
  it('asks about “1,500”: one and a half, or fifteen hundred', () => {
    const outcome = parseNumber({ text: '1,500', decimalMark: 'point' });
    expect(code(outcome)).toBe('quantity.ambiguous');
    expect((outcome as { refusal: { facts: unknown } }).refusal.facts).toEqual({ asDecimal: 1.5, asThousands: 1500 });
  });
  it('refuses words, and marks that make no number', () => {
    expect(code(parseNumber({ text: 'a handful' }))).toBe('quantity.unreadable');
    expect(code(parseNumber({ text: '1.2.3' }))).toBe('quantity.unreadable');
  });
});

describe('masses', () => {
  const table: [string, number][] = [
    ['850', 850],
    ['1,5 kg', 1500],
    ['2 lb 3 oz', 992.233],
    ['3 oz', 85.0486],
    ['1.25 kg', 1250],
    ['500 mg', 0.5],
  ];
  for (const [text, grams] of table) {
    it(`“${text}” is ${grams} g`, () => expect(value(parseMass({ text, defaultUnit: 'g' }))).toBeCloseTo(grams, 2));
  }
  it('refuses millilitres of a solid, and says why', () => {
    const outcome = parseMass({ text: '60 ml', defaultUnit: 'g', what: 'salt' });
    expect(code(outcome)).toBe('mass.volumeOfSolid');
    expect((outcome as { refusal: { message: string } }).refusal.message).toContain('grams');
  });
  it('takes a volume where the density is known', () =>
    expect(value(parseMass({ text: '2 L', defaultUnit: 'g', gramsPerMl: 1.03 }))).toBeCloseTo(2060, 6));
  it('asks for the nation of a quart', () =>
    expect(code(parseMass({ text: '3 qt', defaultUnit: 'g', gramsPerMl: 1 }))).toBe('quantity.spread'));
  it('refuses nothing, less than nothing and beyond any scale', () => {
    expect(code(checkMass({ grams: 0 }))).toBe('mass.notPositive');
    expect(code(checkMass({ grams: -5 }))).toBe('mass.notPositive');
    expect(code(checkMass({ grams: Number.NaN }))).toBe('mass.notPositive');
    expect(code(checkMass({ grams: 9e9 }))).toBe('mass.absurd');
  });
  it('reads back what it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 9999 }),
        (grams) => value(parseMass({ text: formatGrams(grams).replace(',', ''), defaultUnit: 'g' })) === grams,
      ),
    );
  });
});

describe('kitchen volumes have a nationality', () => {
  it('a US and an imperial quart differ by a fifth', () => {
    expect(kitchenVolume({ amount: 1, unit: 'qt', nationality: 'us' }).mostMl).toBeCloseTo(946, 0);
    expect(kitchenVolume({ amount: 1, unit: 'qt', nationality: 'imperial' }).mostMl).toBeCloseTo(1137, 0);
  });
  it('an unknown tablespoon spreads from 14.8 to 20 mL', () => {
    const spread = kitchenVolume({ amount: 1, unit: 'tbsp' });
    expect(spread.leastMl).toBeCloseTo(14.8, 1);
    expect(spread.mostMl).toBe(20);
  });
  it('there is no metric quart', () =>
    expect(() => kitchenVolume({ amount: 1, unit: 'qt', nationality: 'metric' })).toThrowError(RangeError));
});

describe('temperature and pH', () => {
  it('reads Fahrenheit when it is said', () => expect(value(parseTemperature({ text: '68 F' }))).toBeCloseTo(20, 6));
  it('refuses 140 °C', () => expect(code(checkCelsius(140))).toBe('temperature.outOfRange'));
  it('goes there and back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 130, noNaN: true }),
        (c) => Math.abs(celsiusFromFahrenheit(fahrenheitFromCelsius(c)) - c) < 1e-9,
      ),
    );
  });
  it('refuses pH 45 and guesses at the slipped mark', () => {
    const outcome = parsePh({ text: '45' });
    expect(code(outcome)).toBe('ph.outOfScale');
    expect((outcome as { refusal: { message: string } }).refusal.message).toContain('4.5');
  });
  it('asks again at pH 2.1 and 8, and takes it when confirmed', () => {
    expect(code(checkPh({ ph: 2.1 }))).toBe('ph.askAgain');
    expect(code(checkPh({ ph: 8 }))).toBe('ph.askAgain');
    expect(value(checkPh({ ph: 8, confirmedUnusual: true }))).toBe(8);
  });
});

describe('words that are names inside every object', () => {
  for (const text of ['constructor', 'toString', 'valueOf', 'hasOwnProperty', '__proto__'])
    it(`“5 ${text}” has no unit`, () => {
      expect(unitKey(text)).toBeUndefined();
      expect(parseMass({ text: `5 ${text}`, defaultUnit: 'g' }).ok).toBeFalse();
    });
});

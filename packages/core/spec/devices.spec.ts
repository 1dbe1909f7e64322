import fc from 'fast-check';
import {
  portionsFor,
  readDeviceLine,
  readLabel,
  writeLabel,
  rangeFor,
  takeReading,
  UNIT_GRAMS,
  writeHello,
  writeReading,
  writeTemperature,
  type ScaleReading,
  type ScaleUnit,
} from '../src/index.js';

const reading = (over: Partial<ScaleReading> = {}): ScaleReading => ({
  value: 192,
  unit: 'g',
  grams: 192,
  settled: true,
  tareGrams: 214,
  range: 1,
  ...over,
});
const take = (over: Partial<ScaleReading> = {}, unitConfirmed = false) =>
  takeReading({ standing: { state: 'reading', reading: reading(over) }, unitConfirmed, what: 'salt' });
const codeOf = (outcome: { ok: true } | { ok: false; refusal: { code: string } }): string =>
  outcome.ok ? 'accepted' : outcome.refusal.code;

describe('the lines of the bench', () => {
  it('a reading has its figure, unit, tare and range', () =>
    expect(readDeviceLine('READ 192 g settled tare=214 range=1')).toEqual({ verb: 'read', reading: reading() }));
  it('a probe says how warm it is; what is no temperature is no figure', () => {
    expect(readDeviceLine(writeTemperature(84.55))).toEqual({ verb: 'temp', celsius: 84.5 });
    for (const line of ['TEMP', 'TEMP warm', 'TEMP 8e1', 'TEMP 84,5', 'TEMP 1234'])
      expect(readDeviceLine(line).verb).withContext(line).toBe('garbled');
  });
  it('ounces are understood as ounces', () => {
    const line = readDeviceLine('READ 6.77 oz settled tare=0 range=1');
    expect(line.verb === 'read' && line.reading.grams).toBeCloseTo(191.926, 2);
  });
  it('a scale says who it is and what it can', () =>
    expect(readDeviceLine('HELLO scale name=Bench_scale_A simulated=yes ranges=3000x1,15000x5')).toEqual({
      verb: 'hello',
      kind: 'scale',
      name: 'Bench scale A',
      simulated: true,
      ranges: [
        { capacityGrams: 3000, stepGrams: 1 },
        { capacityGrams: 15_000, stepGrams: 5 },
      ],
    }));
  it('a printer says what it has left, and what is the matter', () =>
    expect([readDeviceLine('PRINTED 7 labels=41'), readDeviceLine('STATE jammed labels=41')]).toEqual([
      { verb: 'printed', job: '7', labels: 41 },
      { verb: 'state', state: 'jammed', labels: 41 },
    ]));
  it('a scanned code keeps its blanks', () =>
    expect(readDeviceLine('SCAN NY26 327 A')).toEqual({ verb: 'scan', code: 'NY26 327 A' }));
  for (const broken of [
    'READ 192',
    'READ 19x g settled tare=0 range=1',
    'READ 192 g',
    'READ 192 mL settled tare=0 range=1',
    'EAD 192 g settled tare=0 range=1',
    'READ 192 g sett',
    'STATE asleep labels=2',
    '',
    'SCAN',
  ]) {
    it(`“${broken}” is garbled, and no figure`, () => expect(readDeviceLine(broken).verb).toBe('garbled'));
  }
  it('what a scale writes is read back as it was', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: -2000, max: 30_000 }),
        fc.constantFrom(...(Object.keys(UNIT_GRAMS) as ScaleUnit[])),
        fc.boolean(),
        fc.integer({ min: 0, max: 3000 }),
        (value, unit, settled, tareGrams) => {
          const line = readDeviceLine(writeReading({ value, unit, settled, tareGrams, range: 1 }));
          expect(
            line.verb === 'read' && [
              line.reading.value,
              line.reading.unit,
              line.reading.settled,
              line.reading.tareGrams,
            ],
          ).toEqual([value, unit, settled, tareGrams]);
        },
      ),
    ));
  it('a hello is read back as it was', () =>
    expect(readDeviceLine(writeHello({ kind: 'printer', name: 'Label printer', simulated: true }))).toEqual({
      verb: 'hello',
      kind: 'printer',
      name: 'Label printer',
      simulated: true,
      ranges: [],
    }));
  it('no text ever becomes a mass by accident', () =>
    fc.assert(
      fc.property(fc.string(), (text) => {
        const line = readDeviceLine(text);
        expect(line.verb === 'read' ? Number.isFinite(line.reading.grams) : true).toBeTrue();
      }),
    ));
});

describe('taking what is on the scale', () => {
  it('a settled figure in grams', () => expect(take()).toEqual({ ok: true, value: { grams: 192, tareGrams: 214 } }));
  it('not while it moves', () => expect(codeOf(take({ settled: false }))).toBe('device.refused'));
  it('not in ounces, until somebody says so', () => {
    const ounces = { unit: 'oz' as const, value: 6.77, grams: 191.93 };
    expect(codeOf(take(ounces))).toBe('device.wrongUnit');
    expect(codeOf(take(ounces, true))).toBe('accepted');
  });
  it('not an empty or lifted bowl', () =>
    expect([codeOf(take({ value: 0, grams: 0 })), codeOf(take({ value: -214, grams: -214 }))]).toEqual([
      'mass.notPositive',
      'mass.notPositive',
    ]));
  it('a silent scale and an overloaded one say what to do', () =>
    expect([
      codeOf(takeReading({ standing: { state: 'silent' } })),
      codeOf(takeReading({ standing: { state: 'over' } })),
    ]).toEqual(['device.silent', 'quantity.range']));
});

describe('ranges and portions', () => {
  const ranges = [
    { capacityGrams: 3000, stepGrams: 1 },
    { capacityGrams: 15_000, stepGrams: 5 },
  ];
  it('the finest range that takes it', () =>
    expect([rangeFor(ranges, 400), rangeFor(ranges, 3001), rangeFor(ranges, 16_000)]).toEqual([0, 1, null]));
  it('27.5 kg in a bowl of 1.2 kg on a scale of 15 kg: two portions', () =>
    expect(portionsFor({ grams: 27_500, capacityGrams: 15_000, stepGrams: 5, tareGrams: 1200 })).toEqual([
      13_750, 13_750,
    ]));
  it('portions add up exactly, and none is over', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200_000 }), fc.integer({ min: 0, max: 2000 }), (grams, tareGrams) => {
        const parts = portionsFor({ grams, capacityGrams: 15_000, stepGrams: 5, tareGrams });
        expect(Math.round(parts.reduce((sum, part) => sum + part, 0) * 1000)).toBe(grams * 1000);
        expect(Math.max(...parts)).toBeLessThanOrEqual(15_000 - tareGrams + 5);
      }),
    ));
  it('a bowl as heavy as the scale can take is no bowl', () =>
    expect(() => portionsFor({ grams: 10, capacityGrams: 3000, stepGrams: 1, tareGrams: 3000 })).toThrowError(
      RangeError,
    ));
});

describe('a label on its way to the printer', () => {
  const label = {
    widthMm: 62,
    heightMm: 29,
    texts: [
      { xMm: 27, yMm: 2.5, points: 15, bold: true, words: 'NY26-327-A-D1' },
      { xMm: 27, yMm: 9, points: 9, bold: false, words: 'Baby turnips with lemon thyme' },
    ],
    symbol: { xMm: 2, yMm: 3, mm: 22, content: 'http://127.0.0.1/lots/NY26-327-A-D1' },
  };
  it('is read back as it was written', () => expect(readLabel(writeLabel('7', label))).toEqual({ job: '7', label }));
  it('a line break in a name does not break the label', () =>
    expect(
      readLabel(writeLabel('7', { ...label, texts: [{ ...label.texts[0]!, words: 'two\nlines' }] }))?.label.texts[0]!
        .words,
    ).toBe('two lines'));
  it('cut short or mixed up, it is no label', () =>
    expect([
      readLabel(writeLabel('7', label).slice(0, -1)),
      readLabel(['LABEL 7 62x29', 'READ 192 g', 'END']),
      readLabel(['LABEL 7 62x29', 'TEXT a 2 9 bold x', 'END']),
      readLabel([]),
    ]).toEqual([null, null, null, null]));
});

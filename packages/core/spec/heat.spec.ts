import fc from 'fast-check';
import {
  boilingPoint,
  compareHeat,
  decideProcess,
  decideShelfStable,
  heatedJars,
  type HeatKey,
  type HeatKnown,
  type HeatLimits,
  type HeatPoint,
  type HeatRecord,
  heatStands,
  lethality,
  type LoadStanding,
  readHeatLog,
  spansAtLeast,
} from '../src/index.js';

const HOUR = 3_600_000;
const START = Date.parse('2026-11-02T14:00:00Z');
const minutes = (...points: [number, number][]): HeatPoint[] =>
  points.map(([minute, celsius]) => ({ minute, celsius }));

/** The same course written down every half minute, as a logger would; `without` leaves a stretch out. */
const course = (corners: [number, number][], without?: [number, number]): HeatPoint[] => {
  const found: HeatPoint[] = [];
  for (let minute = 0; minute <= corners.at(-1)![0]; minute += 0.5) {
    if (without && minute > without[0] && minute < without[1]) continue;
    const next = corners.findIndex(([at]) => at >= minute);
    const [[a, from], [b, to]] = [corners[Math.max(0, next - 1)]!, corners[next]!];
    found.push({ minute, celsius: b === a ? to : from + ((to - from) * (minute - a)) / (b - a) });
  }
  return found;
};
/** 60 to 85 °C in five minutes, twelve at 85, then ten degrees a minute down for three. */
const W17: [number, number][] = [
  [0, 60],
  [5, 85],
  [17, 85],
  [20, 55],
];
const REF = { refC: 93.33, z: 8.89 };

/** Midpoints of a thousandth of a minute: another way to the same sum. */
const fine = (points: readonly HeatPoint[], { refC, z }: typeof REF): number => {
  let sum = 0;
  for (let i = 1; i < points.length; i += 1) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const steps = Math.max(1, Math.round((b.minute - a.minute) * 1000));
    const each = (b.minute - a.minute) / steps;
    for (let k = 0; k < steps; k += 1)
      sum += 10 ** ((a.celsius + ((b.celsius - a.celsius) * (k + 0.5)) / steps - refC) / z) * each;
  }
  return sum;
};

describe('lethality', () => {
  it('W17: 1.52 min at 93.33 °C, z 8.89', () => {
    expect(lethality(course(W17), REF)).toBeCloseTo(1.52, 2);
    expect(lethality(course(W17), REF)).toBeCloseTo(fine(course(W17), REF), 3);
  });
  // Handbook 8.5: minutes that are worth one minute at the reference.
  for (const [celsius, worth, digits] of [
    [93.33, 1, 2],
    [74, 150, -1],
    [80, 31.6, 0],
    [85, 8.7, 1],
    [90, 2.4, 1],
  ] as const)
    it(`${worth} min at ${celsius} °C are one at 93.33`, () =>
      expect(1 / lethality(minutes([0, celsius], [1, celsius]), REF)).toBeCloseTo(worth, digits));
  it('72 °C for 12 min is 0.05 min only', () =>
    expect(
      lethality(
        course([
          [0, 72],
          [12, 72],
        ]),
        REF,
      ),
    ).toBeCloseTo(0.05, 2));
  it('what lies in a gap counts nothing', () => {
    const gap = lethality(course(W17, [7, 10]), REF);
    const hold = lethality(minutes([0, 85], [1, 85]), REF) * 3;
    expect(lethality(course(W17), REF) - gap).toBeCloseTo(hold, 6);
  });
  it('of the hold alone where the process says so', () => {
    const whole = lethality(course(W17), REF);
    const hold = lethality(course(W17), { ...REF, fromC: 85 });
    expect(hold).toBeCloseTo(12 / 8.65, 1);
    expect(hold).toBeLessThan(whole);
  });
  it('any log that a kettle can give, against the same sum in a thousand steps', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -25, max: 25 }), { minLength: 1, maxLength: 12 }), (changes) => {
        let celsius = 70;
        const points = [0, ...changes].map((by, minute) => {
          celsius = Math.min(100, Math.max(20, celsius + by));
          return { minute, celsius };
        });
        const other = fine(points, REF);
        return Math.abs(lethality(points, REF) - other) <= 0.01 * other;
      }),
    ));
  it('water boils a degree lower each 300 m', () => {
    expect(boilingPoint(0)).toBe(100);
    expect(boilingPoint(1500)).toBe(95);
  });
});

describe('where a log stays hot', () => {
  it('straight from point to point, and ended by a gap', () => {
    expect(spansAtLeast(minutes([0, 80], [1, 90], [2, 80]), 85)).toEqual([{ from: 0.5, to: 1.5 }]);
    expect(spansAtLeast(course(W17), 85)).toEqual([{ from: 5, to: 17 }]);
    expect(spansAtLeast(course(W17, [7, 10]), 85)).toEqual([
      { from: 5, to: 7 },
      { from: 10, to: 17 },
    ]);
  });
  it('as a walk in small steps finds it', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 80, max: 90 }), { minLength: 2, maxLength: 10 }), (temperatures) => {
        const points = temperatures.map((celsius, minute) => ({ minute, celsius }));
        let walked = 0;
        for (let minute = 0.0005; minute < temperatures.length - 1; minute += 0.001) {
          const a = Math.floor(minute);
          const here = temperatures[a]! + (temperatures[a + 1]! - temperatures[a]!) * (minute - a);
          if (here >= 85.5) walked += 0.001;
        }
        const said = spansAtLeast(points, 85.5).reduce((sum, { from, to }) => sum + to - from, 0);
        return Math.abs(said - walked) < 0.02;
      }),
      { numRuns: 50 },
    ));
});

describe('a log as it is written down', () => {
  it('clock or minutes, comma or point, °C or °F', () => {
    const same = minutes([0, 85], [1, 85.5], [2.5, 86]);
    expect(readHeatLog('14:05 85\n14:06 85,5\n14:07:30; 86 °C')).toEqual({ points: same, startsAt: 845, problems: [] });
    expect(readHeatLog('time temperature\n0 min 185 °F\n1\t185.9F\n2.5|186.8 f').points).toEqual(same);
    expect(readHeatLog('0 185\n1 185.9\n2,5 186.8', 'F').points).toEqual(same);
  });
  it('over midnight', () =>
    expect(readHeatLog('23:59 85\n00:00 85').points.map(({ minute }) => minute)).toEqual([0, 1]));
  const asked: [string, string, RegExp][] = [
    ['out of order', '14:05 85\n14:07 85\n14:06 85', /^Line 3, “14:06 85”: not after/],
    ['twice', '14:05 85\n14:05 86', /^Line 2.*not after/],
    ['no figure', '14:05 hot', /^Line 1, “14:05 hot”: a time and a temperature/],
    ['clock and minutes', '14:05 85\n3 86', /two ways/],
    ['too hot to be', '14:05 850', /850 °C was given/],
    ['°F that nobody named', '0 120\n1 125', /is the log in °F/],
  ];
  for (const [what, text, words] of asked)
    it(`${what}: asked, by its line, and the others stay`, () => {
      const read = readHeatLog(text);
      expect(read.problems.length).toBe(1);
      expect(read.problems[0]).toMatch(words);
    });
});

const limits: HeatLimits = {
  method: 'hotFill',
  maxPh: 4,
  sizeMl: 250,
  processC: 85,
  minutes: 12,
  fillC: 82,
  initialC: null,
  headspaceMm: 6,
  turnedSeconds: 120,
  coverMm: null,
  restMinutes: null,
  cooledC: 40,
  lethality: { ...REF, minutes: 1.2, countsComeUp: false },
  altitudeM: 200,
};
const record: HeatRecord = {
  startedAt: START,
  points: course(W17),
  first: 1,
  last: 140,
  fills: [
    { serial: 1, celsius: 84 },
    { serial: 70, celsius: 83.5 },
    { serial: 140, celsius: 82.2 },
  ],
  initialC: null,
  headspaceMm: 6,
  turnedSeconds: 150,
  coverMm: null,
  restMinutes: null,
  cooledC: 38,
  criticalKept: true,
};
const known: HeatKnown = {
  ph: 3.6,
  largestMl: 150,
  critical: 'Solids under 30 %',
  valid: true,
  seals: { at: START + 20 * HOUR, failed: [] },
};
const clock = (minute: number): string => `minute ${Math.round(minute * 10) / 10}`;
const rows = (change: { limits?: object; record?: object; known?: object } = {}) =>
  compareHeat({ ...limits, ...change.limits }, { ...record, ...change.record }, { ...known, ...change.known }, clock);
const bath = {
  limits: { method: 'waterBath', fillC: null, initialC: 60, coverMm: 25, restMinutes: 5 },
  record: { fills: [], initialC: 62, coverMm: 30, restMinutes: 5 },
};

describe('a load against its process', () => {
  it('met point by point', () => {
    expect(rows().filter(({ state }) => state !== 'met')).toEqual([]);
    expect(heatStands(rows())).toBe('met');
    expect(rows(bath).filter(({ state }) => state !== 'met')).toEqual([]);
  });
  const table: [string, Parameters<typeof rows>[0], HeatKey, 'notMet' | 'missing', RegExp][] = [
    ['run out', { known: { valid: false } }, 'valid', 'notMet', /run out/],
    ['too large a bottle', { known: { largestMl: 500 } }, 'container', 'notMet', /500 mL/],
    ['pH 4.1', { known: { ph: 4.1 } }, 'acid', 'notMet', /4\.10/],
    ['no pH', { known: { ph: null } }, 'acid', 'missing', /no blended/],
    [
      'a minute short',
      {
        record: {
          points: course([
            [0, 60],
            [5, 85],
            [16, 85],
            [20, 45],
          ]),
        },
        limits: { lethality: null },
      },
      'held',
      'notMet',
      /^11 min at a stretch, from minute 5 to minute 16$/,
    ],
    [
      'a gap of three minutes',
      { record: { points: course(W17, [7, 10]) }, limits: { lethality: null } },
      'held',
      'notMet',
      /not met from minute 7 to minute 10: no temperature/,
    ],
    [
      'a dip',
      { record: { points: minutes([0, 86], [2, 86], [3, 84], [4, 86], [6, 86]) }, limits: { lethality: null } },
      'held',
      'notMet',
      /not met from minute 2\.5 to minute 3\.5: below/,
    ],
    [
      'never hot enough',
      { record: { points: minutes([0, 80], [2, 82]) }, limits: { lethality: null } },
      'held',
      'notMet',
      /^82 °C at most/,
    ],
    ['no log', { record: { points: [] }, limits: { lethality: null } }, 'held', 'missing', /no temperature/],
    [
      'too little lethality',
      { limits: { lethality: { ...REF, minutes: 5, countsComeUp: true } } },
      'lethality',
      'notMet',
      /^F 1\.52 min$/,
    ],
    [
      'the last bottle cold',
      { record: { fills: [{ serial: 140, celsius: 79 }] } },
      'fill',
      'notMet',
      /79 °C in bottle 140/,
    ],
    [
      'nothing of the last bottle',
      { record: { fills: [{ serial: 1, celsius: 84 }] } },
      'fill',
      'missing',
      /last bottle, 140/,
    ],
    ['turned too short', { record: { turnedSeconds: 60 } }, 'turned', 'notMet', /60 s/],
    ['not said', { record: { turnedSeconds: null } }, 'turned', 'missing', /not written down/],
    ['too warm to stack', { record: { cooledC: 40 } }, 'cooled', 'notMet', /40 °C/],
    ['critical not kept', { record: { criticalKept: false } }, 'critical', 'notMet', /not kept/],
    ['seals not looked at', { known: { seals: null } }, 'seals', 'missing', /left alone/],
    [
      'seals after three hours',
      { known: { seals: { at: START + 3 * HOUR, failed: [] } } },
      'seals',
      'missing',
      /too early/,
    ],
    [
      'a bath high up',
      {
        ...bath,
        limits: { ...bath.limits, processC: 96, altitudeM: 1500, lethality: null },
        record: {
          ...bath.record,
          points: course([
            [0, 97],
            [13, 97],
          ]),
        },
      },
      'altitude',
      'notMet',
      /95 °C in 1500 m/,
    ],
    ['cold jars into the bath', { ...bath, record: { ...bath.record, initialC: 40 } }, 'initial', 'notMet', /40 °C/],
    ['too little water', { ...bath, record: { ...bath.record, coverMm: 20 } }, 'cover', 'notMet', /20 mm/],
    ['lifted at once', { ...bath, record: { ...bath.record, restMinutes: 1 } }, 'rest', 'notMet', /1 min/],
  ];
  for (const [what, change, key, state, words] of table)
    it(`${what}: ${state}, and nothing else`, () => {
      const found = rows(change).filter((row) => row.state !== 'met');
      expect(found.map((row) => [row.key, row.state])).toEqual([[key, state]]);
      expect(found[0]!.now).toMatch(words);
      expect(heatStands(rows(change))).toBe(state);
    });
  it('a seal that fails holds its jar, not the load', () => {
    const row = rows({ known: { seals: { at: START + 20 * HOUR, failed: [7] } } }).find(({ key }) => key === 'seals')!;
    expect([row.state, row.now]).toEqual(['met', '139 tight; not tight: 7']);
  });
  it('what the process does not ask for has no line', () =>
    expect(
      rows({ limits: { turnedSeconds: null, lethality: null }, known: { critical: null, valid: null } }).map(
        ({ key }) => key,
      ),
    ).toEqual(['container', 'acid', 'held', 'fill', 'headspace', 'cooled', 'seals']));
});

describe('what goes on file, and what never keeps ambient', () => {
  it('a process that cannot be meant is asked about', () => {
    expect(decideProcess(limits).ok).toBeTrue();
    for (const [change, field] of [
      [{ maxPh: 4.8 }, 'maxPh'],
      [{ fillC: null }, 'fillC'],
      [{ method: 'waterBath' }, 'initialC'],
    ] as const) {
      const said = decideProcess({ ...limits, ...change });
      expect(said.ok ? null : said.refusal.field).toBe(field);
    }
  });
  it('nothing under oil, nothing of low acid put in later, nothing above its pH', () => {
    const said = (of: object) => decideShelfStable({ ph: 3.7, maxPh: 4, oils: [], lowAcid: [], ...of }).ok;
    const asked = [{}, { ph: null }, { ph: 4 }, { ph: 4.01 }, { oils: ['Rape oil'] }, { lowAcid: ['Garlic'] }];
    expect(asked.map(said)).toEqual([true, false, true, false, false, false]);
  });
});

describe('jars by their heat', () => {
  const load = (first: number, last: number, at: number, more: Partial<LoadStanding> = {}): LoadStanding => ({
    first,
    last,
    at,
    order: at,
    stands: 'met',
    failed: [],
    ...more,
  });
  it('a failed load holds exactly its own; a seal its own jar; what is heated anew counts', () => {
    expect(heatedJars({ first: 1, last: 40 }, [])).toEqual([{ first: 1, last: 40, heat: 'unheated' }]);
    expect(
      heatedJars({ first: 1, last: 40 }, [
        load(1, 12, 1, { failed: [5] }),
        load(13, 24, 2, { stands: 'notMet' }),
        load(25, 36, 3, { stands: 'missing' }),
        load(20, 24, 4),
      ]),
    ).toEqual([
      { first: 1, last: 4, heat: 'met' },
      { first: 5, last: 5, heat: 'notTight' },
      { first: 6, last: 12, heat: 'met' },
      { first: 13, last: 19, heat: 'notMet' },
      { first: 20, last: 24, heat: 'met' },
      { first: 25, last: 36, heat: 'missing' },
      { first: 37, last: 40, heat: 'unheated' },
    ]);
  });
  it('as somebody finds it who asks jar by jar', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            first: fc.integer({ min: 1, max: 20 }),
            long: fc.integer({ min: 0, max: 12 }),
            stands: fc.constantFrom('met' as const, 'notMet' as const, 'missing' as const),
            failed: fc.array(fc.integer({ min: 0, max: 12 }), { maxLength: 2 }),
          }),
          { maxLength: 6 },
        ),
        (given) => {
          const loads = given.map(({ first, long, stands, failed }, at) =>
            load(first, first + long, at, {
              stands,
              failed: failed.filter((one) => one <= long).map((one) => first + one),
            }),
          );
          const found = heatedJars({ first: 1, last: 24 }, loads);
          for (let serial = 1; serial <= 24; serial += 1) {
            const last = [...loads].reverse().find((one) => one.first <= serial && serial <= one.last);
            const expected = !last ? 'unheated' : last.failed.includes(serial) ? 'notTight' : last.stands;
            expect(found.find((one) => one.first <= serial && serial <= one.last)!.heat).toBe(expected);
          }
          expect(found.reduce((sum, { first, last }) => sum + last - first + 1, 0)).toBe(24);
        },
      ),
      { numRuns: 200 },
    ));
});

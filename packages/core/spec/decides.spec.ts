import * as core from '../src/index.js';
import type { Outcome, PhPoint } from '../src/index.js';

/**
 * Every function that decides, each of its facts in turn not known: left out, null, no number, below nought, beyond any
 * measure, blank. What nobody knows is never read milder than the strictest value it could have. Source: handbook 3.3.
 */
type Facts = Readonly<Record<string, unknown>>;
interface Decide {
  readonly by: (facts: never) => Outcome<unknown>;
  /** Facts on which it says yes. */
  readonly sound: Facts;
  /** Of each fact that can turn it to no the value that does. */
  readonly strict: Facts;
  /** What is no lack of knowledge: a value that says something of its own. */
  readonly known?: Readonly<Record<string, readonly unknown[]>>;
}
/** What nobody knows, by the kind of fact it is. */
const UNKNOWN: Readonly<Record<string, readonly unknown[]>> = {
  number: [undefined, null, NaN, -1, -Infinity, Infinity],
  string: [undefined, null, '', ' '],
  boolean: [undefined, null],
  object: [undefined, null],
};
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const NOW = Date.parse('2026-11-24T10:00:00Z');
const reading = (daysAgo: number, ph: number): PhPoint => ({
  at: NOW - daysAgo * DAY,
  ph,
  sample: 'blended',
  fit: true,
});
const low = [reading(2, 3.6), reading(0.5, 3.6)];
const met = { key: 'acid', words: '', state: 'met', now: '', refusal: null };

const LIMITS = {
  method: 'waterBath',
  maxPh: 4.1,
  sizeMl: 500,
  processC: 85,
  minutes: 10,
  fillC: null,
  initialC: 60,
  headspaceMm: null,
  turnedSeconds: null,
  coverMm: 25,
  restMinutes: 5,
  cooledC: null,
  lethality: null,
  altitudeM: 300,
};
const optional = [undefined, null];
const DECIDES: Readonly<Record<string, Decide>> = {
  decideVesselSalt: {
    by: core.decideVesselSalt,
    sound: { tag: 'C1', waterPhaseSalt: 0.022, isReviewer: false, reason: null, doing: 'why' },
    strict: { waterPhaseSalt: 0.012 },
    // Beyond every band it stalls, and no reason is asked for that.
    known: { waterPhaseSalt: [Infinity] },
  },
  decideVerdict: {
    by: core.decideVerdict,
    sound: { guide: 'act', said: 'act', isReviewer: false, reason: null },
    strict: { said: 'fine', guide: 'hold' },
  },
  decideAtDoor: {
    by: core.decideAtDoor,
    sound: { what: 'Cabbage', asks: ['variety', 'celsius'], door: { variety: 'x', celsius: 4 }, field: 'lines' },
    strict: { door: {} },
  },
  decideCount: {
    by: core.decideCount,
    sound: { code: 'S', expectedGrams: 1000, countedGrams: 1000, reason: null },
    strict: { expectedGrams: 2000, countedGrams: 10 },
  },
  decideAnswer: {
    by: ({ row, count }: { row: core.CrateRow; count: number }) => core.decideAnswer(row, count),
    sound: { row: { key: 'k', kind: 'customer', how: null, jars: 5, accounted: 0, open: 5, unanswered: 5 }, count: 3 },
    strict: { count: 6, row: undefined },
  },
  decideRecallClose: {
    by: ({ open, rest }: { open: number; rest: string | null }) => core.decideRecallClose(open, rest),
    sound: { open: 0, rest: null },
    strict: { open: 3 },
  },
  decideAnswered: {
    by: core.decideAnswered,
    sound: {
      name: 'damp',
      asks: { kind: 'figure', unit: '%', least: 60, most: 80 },
      figure: 70,
      note: null,
    },
    strict: { figure: 90 },
  },
  decideFill: {
    by: core.decideFill,
    sound: {
      vessel: {
        tag: 'C1',
        brimMl: 10_000,
        maxFill: 0.85,
        minFill: 0.7,
        inUse: true,
        rusts: false,
        takenBy: null,
        weightVolumeMl: 0,
      },
      grams: 8000,
    },
    strict: {
      grams: 12_000,
      'vessel.maxFill': 0.5,
      'vessel.inUse': false,
      'vessel.brimMl': 4000,
      'vessel.weightVolumeMl': 9000,
    },
    known: { 'vessel.weightVolumeMl': [...optional, '', ' '], 'vessel.maxFill': [], grams: [] },
  },
  decideMoment: {
    by: core.decideMoment,
    sound: { happenedAt: NOW, now: NOW },
    strict: { happenedAt: NOW + DAY, now: NOW - DAY },
    // A millisecond before 1970 is a moment.
    known: { happenedAt: [-1] },
  },
  decideSaltWeigh: {
    by: core.decideSaltWeigh,
    sound: {
      batch: {
        basis: 'ofVegetable',
        saltFraction: 0.02,
        produceGrams: 10_000,
        waterGrams: 0,
        saltInGrams: 0,
        tolerance: 0.03,
      },
      grams: 200,
      alreadyIn: false,
    },
    strict: { grams: 300, 'batch.produceGrams': 1000, 'batch.saltInGrams': 200, 'batch.saltFraction': 0.001 },
  },
  decideSaltBeforeFill: {
    by: core.decideSaltBeforeFill,
    sound: {
      batch: {
        basis: 'ofVegetable',
        saltFraction: 0.02,
        produceGrams: 10_000,
        waterGrams: 0,
        saltInGrams: 200,
        tolerance: 0.03,
      },
      acceptedReason: null,
    },
    strict: { 'batch.saltInGrams': 100, 'batch.produceGrams': 20_000, 'batch.saltFraction': 0.03 },
  },
  decideWeakStart: {
    by: core.decideWeakStart,
    sound: { waterPhaseSalt: 0.02, isReviewer: false },
    strict: { waterPhaseSalt: 0.01 },
    // Endless salt is not weak; nothing says that it is right either, and the bench asks.
    known: { waterPhaseSalt: [Infinity] },
  },
  decideConfirmed: {
    by: core.decideConfirmed,
    sound: { wanted: false, confirmed: false },
    strict: { wanted: true },
  },
  decideRelease: {
    by: ({ of }: { of: core.ReleaseCondition[] }) => core.decideRelease(of),
    sound: { of: core.RELEASE_KEYS.map((key) => ({ ...met, key, wayOn: null, mayExcuse: false })) },
    strict: { of: [], 'of.0.state': 'open' },
  },
  decideDraw: {
    by: core.decideDraw,
    sound: {
      balance: { code: 'L', metered: true, toleranceGrams: 20, atGrams: 500, leastLaterGrams: 500 },
      grams: 400,
    },
    strict: { grams: 900, 'balance.atGrams': 100, 'balance.leastLaterGrams': 100 },
    known: { 'balance.atGrams': [Infinity], 'balance.leastLaterGrams': [Infinity] },
  },
  decideRest: {
    by: core.decideRest,
    sound: { tag: 'C1', inGrams: 10_000, leftGrams: 100, weighedGrams: 100, reason: null },
    strict: { leftGrams: 5000, weighedGrams: -5000 },
    // A few grams less than nothing is what the tolerance is for.
    known: { weighedGrams: [null, -1, '', ' '], leftGrams: [null, -1, '', ' '] },
  },
  decideDonor: {
    by: core.decideDonor,
    sound: { donor: { code: 'D', onHold: null, points: low, generation: 1 }, acidLimit: 4.2, mostGenerations: 5 },
    strict: { 'donor.generation': 6, acidLimit: 3.0, mostGenerations: 1, 'donor.points': [], 'donor.onHold': 'film' },
    known: { 'donor.generation': [null, '', ' '], 'donor.onHold': [undefined, null, NaN, ''] },
  },
  decideUseBy: {
    by: core.decideUseBy,
    sound: { typed: '2026-12-01', latest: '2026-12-10', days: 30 },
    strict: { typed: '2026-12-20', latest: '2026-11-01' },
    known: { typed: [null] },
  },
  decideStarterAge: {
    by: core.decideStarterAge,
    sound: { code: 'K', useBy: '2026-12-10', today: '2026-12-01' },
    strict: { useBy: '2026-11-20', today: '2026-12-20' },
    known: { useBy: [null] },
  },
  decideBrineUse: {
    by: core.decideBrineUse,
    sound: { code: 'B', touched: 'never', sameBatch: false },
    strict: { touched: null },
  },
  decideBrineClosed: {
    by: core.decideBrineClosed,
    sound: { code: 'B', bookGrams: 1000, leftGrams: 1000, reason: null },
    strict: { leftGrams: 100, bookGrams: 5000 },
    known: { bookGrams: [null, -1, '', ' '] },
  },
  decideClose: {
    by: core.decideClose,
    sound: { code: 'B', lines: [], steps: [], fills: 1, inBowlsGrams: 0, producedGrams: 5000, unanswered: [] },
    strict: { fills: 0, inBowlsGrams: 3000 },
    known: { fills: [Infinity], inBowlsGrams: [null, -1, -Infinity, '', ' '] },
  },
  decideFinish: {
    by: core.decideFinish,
    sound: { name: 'Close', irreversible: true, checks: [{ key: 'a', words: 'a' }], checked: ['a'], note: null },
    strict: { checked: [] },
  },
  decideFrozen: {
    by: core.decideFrozen,
    sound: { code: 'S', name: 'Peas', hasStarter: true },
    strict: { hasStarter: false },
    known: { hasStarter: [-1, -Infinity, Infinity, ' '] },
  },
  decideDrain: {
    by: core.decideDrain,
    sound: { leafGrams: 1000, inBowlsGrams: 1100, drainedGrams: 800, reason: null },
    strict: { drainedGrams: 100, leafGrams: 5000, inBowlsGrams: 500 },
    known: { inBowlsGrams: [Infinity] },
  },
  decideLeafSalt: {
    by: core.decideLeafSalt,
    sound: { way: 'measured', measured: true, tasted: false, reason: null },
    strict: { measured: false },
    known: { measured: [-1, -Infinity, Infinity, ' '] },
  },
  decideUsual: {
    by: core.decideUsual,
    sound: { name: 'Salt', usual: { least: 10, most: 100 }, inGrams: 0, grams: 50, reason: null },
    strict: { grams: 500, inGrams: 400 },
    known: { inGrams: [null, -1, '', ' '], grams: [null, '', ' '] },
  },
  decideTick: {
    by: core.decideTick,
    sound: { name: 'Leaf', material: { kind: 'spice', allergens: [] }, plannedGrams: 5, knowsLot: true, note: null },
    strict: { knowsLot: false, plannedGrams: null },
    known: { knowsLot: [-1, -Infinity, Infinity, ' '] },
  },
  decideStorage: {
    by: core.decideStorage,
    sound: { storage: 'cellar', processOnFile: false, restarts: [], driedUnmeasured: [], coolAllowed: true },
    strict: { coolAllowed: false, restarts: ['Honey'], driedUnmeasured: ['D1'], storage: 'ambient' },
  },
  decideProcess: {
    by: core.decideProcess,
    sound: LIMITS,
    strict: {
      maxPh: 4.7,
      minutes: 0,
      processC: 131,
      sizeMl: 0,
      initialC: null,
      altitudeM: 9000,
      method: 'steam',
      lethality: { refC: 93, z: 0, minutes: 1, countsComeUp: false },
      coverMm: 9000,
    },
    known: { lethality: [undefined, null, NaN, ''], coverMm: [null, ''], altitudeM: [-1] },
  },
  decideShelfStable: {
    by: core.decideShelfStable,
    sound: { ph: 3.8, maxPh: 4.1, oils: [], lowAcid: [] },
    strict: { ph: 4.3, maxPh: 3.5, oils: ['Oil'], lowAcid: ['Garlic'] },
  },
  decideLift: {
    by: core.decideLift,
    sound: { code: 'C', rule: 'late', placedAt: NOW - 3 * DAY, points: low, acidLimit: 4.2, throwOut: false },
    strict: { throwOut: true, placedAt: NOW, acidLimit: 3.0, rule: 'throwOut', points: [] },
    known: { placedAt: [null, -1, -Infinity, '', ' '] },
  },
  decidePackable: {
    by: core.decidePackable,
    sound: {
      code: 'C',
      closed: false,
      onHold: null,
      points: low,
      acidLimit: 4.2,
      lateness: { state: 'met', words: '', reachedAt: NOW - 5 * DAY, deadline: NOW, unread: false },
      latenessLifted: false,
      beforeLedger: false,
      filledAt: NOW - 9 * DAY,
      now: NOW,
      freshHours: 168,
    },
    strict: {
      closed: true,
      onHold: 'film',
      points: [],
      acidLimit: 3.0,
      'lateness.state': 'late',
      now: NOW + 20 * DAY,
      freshHours: 1,
    },
    known: { onHold: [null], freshHours: [Infinity], now: [null, -1, -Infinity, '', ' '] },
  },
  decideReach: {
    by: core.decideReach,
    sound: { taken: [{ lotId: 'a', code: 'A', since: true }], chosen: ['a'], reason: null, isReviewer: true },
    strict: { chosen: [] },
    known: { chosen: [null] },
  },
  decideScaleCheck: {
    by: core.decideScaleCheck,
    sound: { tag: 'S1', stepGrams: 1, capacityGrams: 6000, weightGrams: 2000, shownGrams: 2000 },
    strict: { weightGrams: 7000, capacityGrams: 1000, stepGrams: 500 },
    known: { stepGrams: [null, -1, -Infinity, '', ' '], capacityGrams: [] },
  },
  decideSanitiser: {
    by: core.decideSanitiser,
    sound: { code: 'M', goodUntil: NOW, passed: true, unchecked: null, at: NOW, until: 'ten' },
    strict: { goodUntil: NOW - DAY, passed: false, at: NOW + DAY },
    known: { goodUntil: [Infinity], at: [null, -1, -Infinity, '', ' '] },
  },
  decideRinse: {
    by: core.decideRinse,
    sound: { agent: 'caustic', rinsed: true, noRinse: false },
    strict: { rinsed: false },
    known: { rinsed: [-1, -Infinity, Infinity, ' '] },
  },
  decideWeighedOn: {
    by: core.decideWeighedOn,
    sound: {
      scale: { tag: 'S1', capacityGrams: 6000, stepGrams: 1, inUse: true, passed: true },
      tag: 'S1',
      capacityGrams: 6000,
      stepGrams: 1,
      inUse: true,
      passed: true,
      grams: 300,
      tareGrams: 0,
    },
    strict: { grams: 9000, inUse: false, passed: false, capacityGrams: 100, stepGrams: 500 },
    // Never held against a weight is a state of its own.
    known: {
      passed: optional,
      capacityGrams: [Infinity],
      stepGrams: [null, -1, -Infinity, '', ' '],
      inUse: [-1, -Infinity, Infinity, ' '],
    },
  },
  decideTrained: {
    by: core.decideTrained,
    sound: {
      name: 'Ines',
      task: 'salting',
      trainings: [{ task: 'salting', on: '2026-01-01', until: '2027-01-01' }],
      day: '2026-11-24',
      words: String,
    },
    strict: { trainings: [], day: '2028-01-01', task: 'packing', 'trainings.0.until': '2026-02-01' },
    known: { 'trainings.0.until': [null] },
  },
  decideScope: {
    by: core.decideScope,
    sound: { makes: null, groups: ['vegetable'] },
    strict: { makes: 'meat', groups: ['fish'] },
    // A formula says of itself only what is outside.
    known: { makes: [undefined, null, '', ' '] },
  },
  decideStart: {
    by: core.decideStart,
    sound: { name: 'Kraut', retired: false, holes: [] },
    strict: { retired: true, holes: [{ key: 'a', words: 'a', blocks: true }] },
    known: { retired: [undefined, null, NaN, ''] },
  },
  decideDesign: {
    by: core.decideDesign,
    sound: { text: 'Shake well', producer: 'Yard' },
    strict: { text: 'Probiotic' },
    known: { text: ['', ' '] },
  },
  decideAllergens: {
    by: core.decideAllergens,
    sound: { name: 'Salt', allergens: [] },
    strict: { name: 'Mustard seed' },
    known: { name: ['', ' '] },
  },
  decideTogether: {
    by: core.decideTogether,
    sound: { storage: 'ambient', heat: 'heat' },
    strict: { heat: 'alive' },
  },
};

/** The facts with one of them another: `donor.points` reaches into them. */
function withFact(facts: Facts, path: string, value: unknown): Facts {
  const [key, ...rest] = path.split('.') as [string, ...string[]];
  const inner = rest.length === 0 ? value : withFact(facts[key] as Facts, rest.join('.'), value);
  if (Array.isArray(facts)) return facts.with(Number(key), inner) as unknown as Facts;
  return { ...facts, [key]: inner };
}

const factAt = (facts: Facts, path: string): unknown =>
  path.split('.').reduce<unknown>((inner, key) => (inner as Facts)[key], facts);

const says = (of: Decide, facts: Facts): 'yes' | 'no' => {
  try {
    return of.by(facts as never).ok ? 'yes' : 'no';
  } catch {
    return 'no';
  }
};

describe('what nobody knows is never read milder than the strictest it could be', () => {
  it('every function that decides stands in this table', () => {
    const all = Object.entries(core).flatMap(([name, value]) =>
      /^decide[A-Z]/.test(name) && typeof value === 'function' ? [name] : [],
    );
    expect(Object.keys(DECIDES).sort()).toEqual(all.sort());
  });
  for (const [name, of] of Object.entries(DECIDES)) {
    it(`${name}: says yes when all is sound, and no to each fact that speaks against it`, () => {
      expect(says(of, of.sound)).toBe('yes');
      for (const [path, value] of Object.entries(of.strict))
        expect(says(of, withFact(of.sound, path, value)))
          .withContext(path)
          .toBe('no');
    });
    it(`${name}: and no to each of them that nobody knows`, () => {
      for (const path of Object.keys(of.strict))
        for (const value of UNKNOWN[typeof (factAt(of.sound, path) ?? of.strict[path])]!)
          if (!of.known?.[path]?.some((one) => Object.is(one, value)))
            expect(says(of, withFact(of.sound, path, value)))
              .withContext(`${path}: ${String(value)}`)
              .toBe('no');
    });
  }
});

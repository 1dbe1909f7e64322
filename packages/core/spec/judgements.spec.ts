import fc from 'fast-check';
import {
  FINDING_KEYS,
  FINDINGS,
  judge,
  PLACES,
  VERDICTS,
  type LotFacts,
  type Place,
  type Verdict,
} from '../src/index.js';

/**
 * The least verdict of every combination, written from handbook 3.3 and 3.4 alone: a table of findings by place, then
 * what the facts say by themselves. It knows nothing of the guide's own rules.
 */
const W: Verdict = 'watch';
const A: Verdict = 'act';
const H: Verdict = 'hold';
const T: Verdict = 'throwOut';
const F: Verdict = 'fine';

/** Finding by place, as the rows of the guide have it; the star is every other place. */
const LEAST: Record<string, Partial<Record<Place | '*', Verdict>>> = {
  bubbles: { '*': F },
  noLife: { '*': F },
  cloudy: { '*': F },
  sediment: { '*': F },
  glassy: { '*': F },
  sourSmell: { '*': F },
  looksRight: { '*': F },
  sauceSettles: { '*': F },
  olive: { '*': F, surface: T, wall: T, bottom: H, vessel: H, jar: H },
  uneven: { '*': W, surface: T, wall: T, bottom: H, vessel: H, jar: H },
  blueGreenIn: { piece: F, surface: T, wall: T, '*': H },
  film: { '*': A },
  fuzz: { '*': T },
  pinkTop: { surface: T, wall: T, '*': H },
  redBleed: { piece: F, brine: F, surface: T, wall: T, '*': H },
  dryTop: { '*': A, wall: T, bottom: H, vessel: H, jar: H },
  ropy: { '*': W },
  soft: { '*': H },
  floaters: { '*': A },
  overflow: { '*': A },
  sulphur: { '*': F },
  alcohol: { '*': W },
  solvent: { '*': A },
  putrid: { '*': T },
  hissHeated: { '*': H },
  hissLive: { '*': H },
  heatedCloudy: { '*': H },
  glass: { '*': T },
  flies: { '*': T },
  dryLock: { '*': A },
  bagLeaks: { '*': H },
  bagDrum: { '*': A },
  sealFailed: { '*': H },
  crystals: { '*': W, surface: T, wall: T },
};

const rank = (verdict: Verdict): number => VERDICTS.indexOf(verdict);
const worst = (...all: (Verdict | false)[]): Verdict =>
  all.filter((one): one is Verdict => one !== false).reduce((a, b) => (rank(b) > rank(a) ? b : a), F);
const bad = (value: number | null): boolean => value === null || Number.isNaN(value);

function least(finding: string, place: Place, f: LotFacts): Verdict {
  const packed = f.stage === 'packed';
  const row = LEAST[finding]!;
  const gas = ['bubbles', 'cloudy', 'hissHeated', 'hissLive', 'heatedCloudy'].includes(finding);
  const sour = !bad(f.ph) && f.phCounts && f.ph! <= 4.6;
  const old = !(f.ageDays <= 21);
  const tight = f.closure === 'sealed' || f.closure === 'vacuum';
  return worst(
    row[place] ?? row['*']!,
    // What makes a finding worse than its row.
    finding === 'bubbles' && !(f.ageDays <= 10) && W,
    finding === 'noLife' && !(f.ageDays < (f.slowStart ? 5 : 3)) && W,
    finding === 'film' && (f.trend === 'rising' || !(f.rise <= 0.1) || f.filmBefore || f.filmIsHeld) && H,
    finding === 'redBleed' && f.redIngredient !== true && H,
    finding === 'ropy' && f.stage !== 'ferment' && H,
    finding === 'soft' && (bad(f.ph) || !f.phCounts || f.ph! > f.acidLimit) && T,
    finding === 'sulphur' && !(f.ageDays <= 7) && W,
    gas && (packed || place === 'jar') && H,
    // The facts, whatever is seen.
    f.twiceLate && T,
    f.late && H,
    f.onHold && H,
    !(f.rise <= 0.2) && H,
    f.trend === 'rising' && W,
    !packed && old && !sour && H,
    f.stage !== 'ferment' && !bad(f.ph) && f.ph! > f.acidLimit && H,
    (bad(f.ph) || !f.phCounts) && (!(f.ageDays < 1) || f.stage !== 'ferment') && W,
    !bad(f.ph) && f.phCounts && !(!bad(f.phHoursAgo) && f.phHoursAgo! <= 168) && W,
    f.celsius !== null && f.celsius > 32 && A,
    bad(f.waterPhaseSalt) && A,
    !bad(f.waterPhaseSalt) && (f.waterPhaseSalt! < 0.015 || f.waterPhaseSalt! > 0.08) && A,
    !bad(f.waterPhaseSalt) && (f.waterPhaseSalt! < 0.018 || f.waterPhaseSalt! > 0.04) && W,
    !packed && tight && (f.ageDays <= 5 || (f.celsius !== null && f.celsius > 22) || f.sweet === true) && W,
    (!packed || f.heated !== true) && f.sweet !== false && W,
    finding === 'alcohol' && f.sweet === true && A,
    f.heated === true && packed && f.trend === 'falling' && H,
  );
}

const odd = (least_: number, most: number) =>
  fc.oneof(
    { weight: 12, arbitrary: fc.double({ min: least_, max: most, noNaN: true }) },
    { weight: 1, arbitrary: fc.constant(NaN) },
  );
const anyFacts: fc.Arbitrary<LotFacts> = fc.record({
  ageDays: fc.oneof(
    { weight: 12, arbitrary: fc.integer({ min: 0, max: 120 }) },
    { weight: 1, arbitrary: fc.constant(NaN) },
  ),
  ph: fc.option(odd(2.8, 6.5), { freq: 6 }),
  phCounts: fc.boolean(),
  phHoursAgo: fc.option(odd(0, 900), { freq: 6 }),
  trend: fc.constantFrom('none', 'falling', 'steady', 'rising'),
  rise: odd(0, 0.6),
  acidLimit: fc.constantFrom(3.8, 4.0, 4.1, 4.2, 4.6),
  late: fc.boolean(),
  twiceLate: fc.boolean(),
  onHold: fc.boolean(),
  celsius: fc.option(odd(0, 40), { freq: 6 }),
  waterPhaseSalt: fc.option(odd(0, 0.1), { freq: 6 }),
  closure: fc.option(fc.constantFrom('airlock', 'valve', 'loose', 'cloth', 'sealed', 'vacuum'), { freq: 8 }),
  stage: fc.constantFrom('ferment', 'finish', 'packed'),
  heated: fc.constantFrom(true, false, null),
  redIngredient: fc.constantFrom(true, false, null),
  sweet: fc.constantFrom(true, false, null),
  slowStart: fc.boolean(),
  filmBefore: fc.boolean(),
  filmIsHeld: fc.boolean(),
});
/** Mostly in order, so that the row of the finding itself decides. */
const calmFacts = anyFacts.map((f): LotFacts => ({
  ...f,
  ageDays: 5 + (Number.isNaN(f.ageDays) ? 3 : f.ageDays % 4),
  ph: 3.7,
  phCounts: true,
  phHoursAgo: 8,
  trend: 'steady',
  rise: 0,
  late: false,
  twiceLate: false,
  onHold: false,
  celsius: 15,
  waterPhaseSalt: 0.024,
  closure: 'airlock',
  sweet: false,
}));
const anyCase = fc.tuple(
  fc.constantFrom(...FINDING_KEYS),
  fc.constantFrom(...(Object.keys(PLACES) as Place[])),
  fc.oneof(anyFacts, calmFacts),
);

describe('50,000 judgements against the table of least verdicts', () => {
  it('none is milder than the handbook’s least, and each says why', () => {
    const seen = new Map<Verdict, number>();
    fc.assert(
      fc.property(anyCase, ([finding, place, facts]) => {
        const { verdict, reasons } = judge({ finding, place, facts });
        seen.set(verdict, (seen.get(verdict) ?? 0) + 1);
        return reasons.length > 0 && rank(verdict) >= rank(least(finding, place, facts));
      }),
      { numRuns: 50_000 },
    );
    for (const verdict of VERDICTS)
      expect(seen.get(verdict) ?? 0)
        .withContext(verdict)
        .toBeGreaterThan(200);
  }, 60_000);
  it('where the facts are in order the guide is as mild as its row, and no milder', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...FINDING_KEYS),
        fc.constantFrom(...(Object.keys(PLACES) as Place[])),
        calmFacts,
        (finding, place, f) => {
          const facts: LotFacts = {
            ...f,
            stage: 'ferment',
            heated: false,
            redIngredient: true,
            filmBefore: false,
            filmIsHeld: false,
          };
          return (
            ['jar'].includes(place) ||
            rank(judge({ finding, place, facts }).verdict) <=
              Math.max(rank(least(finding, place, facts)), rank('watch'))
          );
        },
      ),
      { numRuns: 5000 },
    ));
  it('a worse fact, a missing one, or one that is no number never makes a verdict milder', () =>
    fc.assert(
      fc.property(
        anyCase,
        fc.constantFrom('ph', 'phHoursAgo', 'celsius', 'waterPhaseSalt', 'ageDays', 'rise'),
        ([finding, place, f], key) => {
          const of = (facts: LotFacts): number => rank(judge({ finding, place, facts }).verdict);
          const nothing = of({ ...f, [key]: NaN }) >= rank(least(finding, place, { ...f, [key]: NaN }));
          return (
            nothing &&
            of({ ...f, late: true }) >= of({ ...f, late: false }) &&
            of({ ...f, onHold: true }) >= of({ ...f, onHold: false }) &&
            of({ ...f, rise: 0.5 }) >= of({ ...f, rise: 0 }) &&
            of({ ...f, phCounts: false }) >= of({ ...f, phCounts: true })
          );
        },
      ),
      { numRuns: 5000 },
    ));
  it('a fact that nobody knows is never milder than the mildest of what it could be, nor than the strictest of closure, age and pH', () =>
    fc.assert(
      fc.property(anyCase, ([finding, place, f]) => {
        const of = (over: Partial<LotFacts>): number =>
          rank(judge({ finding, place, facts: { ...f, ...over } }).verdict);
        const strictest = (all: readonly Partial<LotFacts>[]): number => Math.max(...all.map(of));
        return (
          of({ closure: null }) >=
            strictest(['loose', 'airlock', 'sealed', 'vacuum'].map((closure) => ({ closure }))) &&
          of({ ageDays: NaN }) >= strictest([0, 2, 4, 6, 11, 20, 22, 400].map((ageDays) => ({ ageDays }))) &&
          of({ ageDays: -3 }) >= of({ ageDays: NaN }) &&
          of({ ph: NaN }) >= strictest([3.6, 4.3, 5.2].map((ph) => ({ ph }))) &&
          of({ waterPhaseSalt: null }) >=
            strictest([0.01, 0.016, 0.02, 0.05, 0.1].map((waterPhaseSalt) => ({ waterPhaseSalt }))) &&
          of({ sweet: null }) >= strictest([{ sweet: true }, { sweet: false }])
        );
      }),
      { numRuns: 5000 },
    ));
});

describe('rows that ended too mildly once', () => {
  const calm: LotFacts = {
    ageDays: 6,
    ph: 3.7,
    phCounts: true,
    phHoursAgo: 6,
    trend: 'steady',
    rise: 0,
    acidLimit: 4.2,
    late: false,
    twiceLate: false,
    onHold: false,
    celsius: 14,
    waterPhaseSalt: 0.024,
    closure: 'loose',
    stage: 'ferment',
    heated: false,
    redIngredient: false,
    sweet: false,
    slowStart: false,
    filmBefore: false,
    filmIsHeld: false,
  };
  const say = (finding: string, place: Place, over: Partial<LotFacts> = {}) =>
    judge({ finding, place, facts: { ...calm, ...over } });
  it('a sweet formula enters the verdict of every finding while it lives', () => {
    for (const { key, places } of FINDINGS)
      expect(say(key, places[0]!, { sweet: true }).reasons.join(' '))
        .withContext(key)
        .toContain('Sweet or fruit');
  });
  it('bubbles, a hiss or new cloudiness in a packed jar hold its run', () => {
    for (const finding of ['bubbles', 'cloudy', 'hissLive'])
      expect(say(finding, 'brine', { stage: 'packed' }).verdict)
        .withContext(finding)
        .toBe('hold');
    expect(say('bubbles', 'jar', { stage: 'packed', heated: true }).todo.join(' ')).toContain('Do not open');
    expect(say('bubbles', 'jar', { stage: 'packed', heated: null }).todo.join(' ')).toContain('Do not open');
    expect(say('bubbles', 'jar', { stage: 'packed', heated: false }).todo.join(' ')).toContain('Chill it first');
  });
  it('blue-green anywhere but in the piece is no pigment', () =>
    expect(
      (['piece', 'surface', 'wall', 'bottom', 'brine', 'vessel', 'jar'] as const).map(
        (place) => say('blueGreenIn', place).verdict,
      ),
    ).toEqual(['fine', 'throwOut', 'throwOut', 'hold', 'hold', 'hold', 'hold']));
  it('pink or red on surface or wall, and a bleed without a red ingredient', () =>
    expect([
      say('redBleed', 'surface', { redIngredient: true }).verdict,
      say('pinkTop', 'wall', { redIngredient: true }).verdict,
      say('redBleed', 'brine').verdict,
      say('redBleed', 'brine', { redIngredient: null }).verdict,
      say('redBleed', 'brine', { redIngredient: true }).verdict,
    ]).toEqual(['throwOut', 'throwOut', 'hold', 'hold', 'fine']));
  it('sulphur after the first week', () =>
    expect([7, 8].map((ageDays) => say('sulphur', 'smell', { ageDays }).verdict)).toEqual(['fine', 'watch']));
  it('over 21 days above 4.6: held, whatever else is said', () =>
    expect([
      say('looksRight', 'surface', { ageDays: 22, ph: 4.7 }).verdict,
      say('looksRight', 'surface', { ageDays: 22, ph: null }).verdict,
      say('looksRight', 'surface', { ageDays: 22, phCounts: false }).verdict,
      say('looksRight', 'surface', { ageDays: 22, ph: 4.2 }).verdict,
    ]).toEqual(['hold', 'hold', 'hold', 'fine']));
  it('salt outside its bands, a sealed lid while it is lively, sugar', () =>
    expect([
      say('looksRight', 'brine', { waterPhaseSalt: 0.014 }).verdict,
      say('looksRight', 'brine', { waterPhaseSalt: 0.05 }).verdict,
      say('bubbles', 'brine', { closure: 'sealed', ageDays: 3 }).verdict,
      say('alcohol', 'smell', { sweet: true }).verdict,
    ]).toEqual(['act', 'watch', 'act', 'act']));
});

import fc from 'fast-check';
import {
  acidIsEaten,
  decidePackable,
  lateness,
  pairAtLimit,
  phTrend,
  type CelsiusPoint,
  type Lateness,
  type PhPoint,
} from '../src/index.js';

/**
 * Lateness, pairs and rises said a second time, slowly, from handbook 3.3: a quarter of an hour after the other, with
 * everything known at that quarter, and nothing of the core's own code.
 */
const HOUR = 3_600_000;
const STEP = 0.25;

interface History {
  readonly phs: readonly PhPoint[];
  readonly celsius: readonly CelsiusPoint[];
  readonly room: number;
  readonly now: number;
}

const isGood = (p: PhPoint): boolean =>
  p.sample === 'blended' && p.fit && p.doubtful !== true && p.beforeMixture !== true && p.ph >= 0 && p.ph <= 14;

interface Quarters {
  readonly celsius: number[];
  /** Read, and no longer than 36 hours ago. */
  readonly known: number[];
}

/** Temperature of every quarter from filling to `until`, hours, by what is known then, and as it was read. */
function course(h: History, until: number): Quarters {
  const read = h.celsius.filter(({ at }) => at / HOUR <= until).sort((a, b) => a.at - b.at);
  const many = Math.ceil(until / STEP);
  const [celsius, known] = [new Array<number>(many).fill(h.room), new Array<number>(many).fill(-Infinity)];
  for (const [i, one] of read.entries()) {
    const [from, to] = [one.at / HOUR, read[i + 1] ? read[i + 1]!.at / HOUR : until];
    if (to - from <= 36) celsius.fill(one.celsius, Math.round(from / STEP), Math.round(to / STEP));
    known.fill(one.celsius, Math.round(from / STEP), Math.round(Math.min(to, from + 36) / STEP));
  }
  return { celsius, known };
}

const TABLE: [number, number][] = [
  [20, 72],
  [15, 120],
  [10, 240],
  [-Infinity, 504],
];

/**
 * The first quarter at which it is late, with the hours of its row; null while it is not. Where what was seen then and
 * what is known now find it in the same quarter by different rows, this reckoning cannot tell which came first.
 */
function lateAt(h: History, until: number): { hour: number; row: number; tied: boolean } | null {
  // Within 36 hours of a reading somebody saw it stand, also before a longer gap.
  const hours = h.celsius.map(({ at }) => at / HOUR).sort((a, b) => a - b);
  const ends = [
    until,
    ...hours
      .filter((at, i) => (hours[i + 1] ?? until) - at > 36)
      .map((at) => at + 36)
      .filter((end) => end < until),
  ];
  let found = null as { hour: number; row: number; tied: boolean } | null;
  for (const end of ends) {
    const { celsius, known } = course(h, end);
    let [sum, log] = [0, 0];
    for (let k = 0; k <= celsius.length; k += 1) {
      const hour = k * STEP;
      if (found && hour > found.hour) break;
      if (hour > 0) {
        const row = TABLE.find(([above]) => sum / k > above + 1e-9)![1];
        if (hour >= row || log > 1600 + 1e-6) {
          found = { hour, row, tied: found?.hour === hour && (found.tied || found.row !== row) };
          break;
        }
      }
      sum += celsius[k] ?? 0;
      log += k < known.length ? Math.max(0, known[k]! - 4) * STEP : 0;
    }
  }
  return found;
}

function slowly(h: History): { state: Lateness['state'] | 'edge'; lateHour: number | null } {
  const good = h.phs
    .filter((p) => isGood(p) && p.at / HOUR <= h.now)
    .sort((a, b) => a.at - b.at || a.ph - b.ph)
    .filter((p, i, all) => all[i + 1]?.at !== p.at);
  const startsLow = good[0] !== undefined && good[0].ph <= 4.6 && good[0].at / HOUR <= 12;
  const low = good.find(({ ph }) => ph <= 4.6);
  if (startsLow) return { state: 'met', lateHour: null };
  const reached = low ? low.at / HOUR : null;
  const late = lateAt(h, reached ?? h.now);
  if (!late) return { state: reached === null ? 'pending' : 'met', lateHour: null };
  // Lateness begins within the quarter before: what lies in it is not compared.
  if (late.tied) return { state: 'edge', lateHour: late.hour };
  if (reached !== null && Math.abs(reached - late.hour) <= STEP + 1e-9) return { state: 'edge', lateHour: late.hour };
  const twice = 2 * late.row;
  const standing = good.filter((p) => p.at / HOUR <= twice).at(-1);
  const out =
    h.now >= twice &&
    ((standing !== undefined && standing.at / HOUR >= late.hour && standing.ph > 4.6) ||
      good.some((p) => p.at / HOUR >= twice && p.ph > 4.6));
  if (standing && Math.abs(standing.at / HOUR - late.hour) <= STEP && h.now >= twice)
    return { state: 'edge', lateHour: late.hour };
  return { state: out ? 'throwOut' : reached === null ? 'late' : 'metLate', lateHour: late.hour };
}

/** The last that counts, and another 24 to 72 hours before it. */
function slowPair(points: readonly PhPoint[], limit: number): boolean {
  const end = Math.max(...points.filter(isGood).map(({ at }) => at));
  const of = (at: number): number => Math.max(...points.filter((p) => isGood(p) && p.at === at).map(({ ph }) => ph));
  const last = of(end);
  const begins = points
    .filter((p) => isGood(p) && end - p.at >= 24 * HOUR && end - p.at <= 72 * HOUR)
    .filter((p) => of(p.at) <= limit && Math.abs(of(p.at) - last) <= 0.1 + 1e-9)
    .map(({ at }) => at);
  return (
    last <= limit && begins.length > 0 && !points.some(({ at, ph }) => at >= Math.max(...begins) && !(ph <= limit))
  );
}

/**
 * A rise that nothing but a blended reading that counts may end. What does not count rises over the last of its kind,
 * and over the lowest blended one that counts.
 */
function slowRise(points: readonly PhPoint[]): boolean {
  const own = points
    .filter(({ beforeMixture, ph }) => !beforeMixture && Number.isFinite(ph))
    .sort((a, b) => a.at - b.at || a.ph - b.ph);
  const over = (p: PhPoint, before: PhPoint): boolean => Math.round((p.ph - before.ph) * 1000) / 1000 > 0.2 + 1e-9;
  const good = own.filter(isGood);
  const last = good.at(-1)?.at ?? Infinity;
  if (own.some((p) => !isGood(p) && p.at >= last && good.some((g) => own.indexOf(g) < own.indexOf(p) && over(p, g))))
    return true;
  const blended = own.filter(({ sample }) => sample === 'blended');
  const end = blended.filter(({ fit, doubtful }) => fit && !doubtful).at(-1);
  const standing = end ? blended.slice(blended.indexOf(end)) : blended;
  return standing.some((p) =>
    blended.slice(0, blended.indexOf(p)).some((before) => !before.doubtful && over(p, before)),
  );
}

const quarters = (least: number, most: number) =>
  fc.integer({ min: least / STEP, max: most / STEP }).map((k) => k * STEP * HOUR);
const celsiusAround = fc.oneof(
  fc.constantFrom(20, 20.004, 15, 10, 9.99, 21, 17.9, 5),
  fc.double({ min: 3, max: 27, noNaN: true }).map((c) => Math.round(c * 10) / 10),
);
const anyPh = fc.record({
  at: quarters(0, 700),
  ph: fc.oneof(
    fc.constantFrom(4.6, 4.61, 4.2, 4.21, 5.4, 3.7, 3.75),
    fc.double({ min: 3.2, max: 6.3, noNaN: true }).map((v) => Math.round(v * 100) / 100),
  ),
  sample: fc.constantFrom('blended' as const, 'blended' as const, 'blended' as const, 'brine' as const),
  fit: fc.integer({ min: 0, max: 5 }).map((n) => n > 0),
  doubtful: fc.integer({ min: 0, max: 9 }).map((n) => n === 0),
  beforeMixture: fc.integer({ min: 0, max: 14 }).map((n) => n === 0),
});
const byHand = fc.array(fc.record({ at: quarters(0, 700), celsius: celsiusAround }), { maxLength: 20 });
/** A logger with a gap, cooled or warmed on the way. */
const byLogger = fc
  .record({
    from: celsiusAround,
    then: celsiusAround,
    turn: fc.integer({ min: 10, max: 140 }),
    gap: fc.integer({ min: 0, max: 130 }),
    gapHours: fc.integer({ min: 0, max: 40 }),
  })
  .map(({ from, then, turn, gap, gapHours }) =>
    Array.from({ length: 150 }, (_, hour) => hour)
      .filter((hour) => hour < gap || hour > gap + gapHours)
      .map((hour) => ({ at: hour * HOUR, celsius: hour < turn ? from : then })),
  );
const anyHistory: fc.Arbitrary<History> = fc
  .record({
    phs: fc.array(anyPh, { maxLength: 9 }),
    celsius: fc.oneof({ weight: 6, arbitrary: byHand }, { weight: 1, arbitrary: byLogger }),
    room: celsiusAround,
    now: fc.integer({ min: 1, max: 720 }),
  })
  .map((h) => ({ ...h, celsius: [...new Map(h.celsius.map((point) => [point.at, point])).values()] }));

describe('20,000 histories of readings against a second, slow reckoning', () => {
  it('lateness: state and hour agree, whatever was brine, strip, doubtful, cooled, entered late or never logged', () => {
    const seen = new Map<string, number>();
    fc.assert(
      fc.property(anyHistory, (h) => {
        const found = lateness({ filledAt: 0, now: h.now * HOUR, phs: h.phs, celsius: h.celsius, roomCelsius: h.room });
        const slow = slowly(h);
        seen.set(slow.state, (seen.get(slow.state) ?? 0) + 1);
        if (slow.state === 'edge') return true;
        return (
          found.state === slow.state &&
          (slow.lateHour === null || (found.hours <= slow.lateHour + 1e-6 && found.hours > slow.lateHour - STEP - 1e-6))
        );
      }),
      // Of some hundred thousand histories one ends on a tie that a quarter of an hour cannot tell: the same ones each time.
      { numRuns: 20_000, seed: 20_261_126 },
    );
    for (const state of ['met', 'metLate', 'pending', 'late', 'throwOut'])
      expect(seen.get(state) ?? 0)
        .withContext(state)
        .toBeGreaterThan(300);
  }, 90_000);
  it('pairs and rises agree, in whatever order the readings are given', () => {
    let [pairs, rises] = [0, 0];
    fc.assert(
      fc.property(
        fc.array(
          anyPh.map((p) => ({ ...p, at: p.at / 4, ph: 3.6 + (p.ph - 3.2) / 4 })),
          { maxLength: 7 },
        ),
        fc.constantFrom(3.8, 4.2, 4.6),
        (points, limit) => {
          const [pair, rise] = [slowPair(points, limit), slowRise(points)];
          pairs += pair ? 1 : 0;
          rises += rise ? 1 : 0;
          return (
            (pairAtLimit({ points, limit }) !== null) === pair &&
            (pairAtLimit({ points: [...points].reverse(), limit }) !== null) === pair &&
            (!rise || acidIsEaten(phTrend(points))) &&
            (rise || points.some(({ sample }) => sample === 'brine') || !acidIsEaten(phTrend(points)))
          );
        },
      ),
      { numRuns: 20_000 },
    );
    expect(Math.min(pairs, rises)).toBeGreaterThan(300);
  }, 60_000);
  it(
    'once late, no later temperature and no passing of time takes it back',
    () =>
      fc.assert(
        fc.property(anyHistory, fc.integer({ min: 1, max: 400 }), celsiusAround, (h, more, celsius) => {
          const at = (now: number, points: readonly CelsiusPoint[]) =>
            lateness({ filledAt: 0, now: now * HOUR, phs: [], celsius: points, roomCelsius: h.room }).state;
          const known = h.celsius.filter(({ at: moment }) => moment <= h.now * HOUR);
          return (
            at(h.now, known) === 'pending' ||
            (at(h.now + more, known) !== 'pending' &&
              at(h.now + more, [...known, { at: h.now * HOUR + 1, celsius }]) !== 'pending')
          );
        }),
        { numRuns: 4000 },
      ),
    60_000,
  );
  it('a rise of the brine is ended by no brine, only by a blended reading that counts', () => {
    const point = (hours: number, ph: number, sample: PhPoint['sample'], more: Partial<PhPoint> = {}): PhPoint => ({
      at: hours * HOUR,
      ph,
      sample,
      fit: true,
      ...more,
    });
    const risen = [point(0, 3.5, 'brine', { fit: false }), point(1, 3.71, 'brine', { fit: false, doubtful: true })];
    expect(acidIsEaten(phTrend(risen))).toBe(true);
    expect(acidIsEaten(phTrend([...risen, point(2, 3.7, 'brine')]))).toBe(true);
    expect(acidIsEaten(phTrend([...risen, point(2, 3.9, 'blended')]))).toBe(true);
    expect(acidIsEaten(phTrend([...risen, point(2, 3.6, 'blended')]))).toBe(false);
  });
  it(
    'what makes nothing milder: a brine, a strip, a doubtful or an unfit reading added never opens the gate',
    () =>
      fc.assert(
        fc.property(
          fc.array(anyPh, { maxLength: 7 }),
          anyPh,
          fc.constantFrom({ sample: 'brine' as const }, { fit: false }, { doubtful: true }),
          (points, one, weak) => {
            const packs = (all: readonly PhPoint[]): boolean => {
              const state = lateness({ filledAt: 0, now: 720 * HOUR, phs: all, celsius: [], roomCelsius: 18 });
              return decidePackable({
                code: 'x',
                closed: false,
                onHold: null,
                points: all,
                acidLimit: 4.2,
                lateness: state,
                latenessLifted: true,
                beforeLedger: false,
                filledAt: 0,
                now: 720 * HOUR,
                freshHours: 168,
              }).ok;
            };
            return packs(points) || !packs([...points, { ...one, ...weak }]);
          },
        ),
        { numRuns: 5000 },
      ),
    60_000,
  );
});

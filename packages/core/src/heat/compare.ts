import { boilingPoint, gapsOf, type HeatPoint, type HeatSpan, lethality, spansAtLeast } from './lethality.js';
import type { HeatLimits } from './process.js';

const HOUR = 3_600_000;

/** Jars are left alone so long before their seals are looked at. Hours. Source: handbook 4.3. */
export const UNDISTURBED_HOURS = 12;

/** What was written down of one load. °C, mm; null: not written down. */
export interface HeatRecord {
  readonly startedAt: number;
  readonly points: readonly HeatPoint[];
  readonly first: number;
  readonly last: number;
  readonly fills: readonly { readonly serial: number; readonly celsius: number }[];
  readonly initialC: number | null;
  readonly headspaceMm: number | null;
  readonly turnedSeconds: number | null;
  readonly coverMm: number | null;
  readonly restMinutes: number | null;
  readonly cooledC: number | null;
  /** Its other critical factors were kept, as the process names them. */
  readonly criticalKept: boolean | null;
}

/** What else is known of the load. */
export interface HeatKnown {
  /** Blended, by a fit meter, before it was filled. */
  readonly ph: number | null;
  readonly largestMl: number;
  /** Of the process: what else it asks for, in its words. */
  readonly critical: string | null;
  /** Of the process on the day it was heated; null: it has no end. */
  readonly valid: boolean | null;
  readonly seals: { readonly at: number; readonly failed: readonly number[] } | null;
}

export const HEAT_KEYS = [
  'valid',
  'container',
  'acid',
  'altitude',
  'initial',
  'held',
  'lethality',
  'fill',
  'headspace',
  'turned',
  'cover',
  'rest',
  'cooled',
  'critical',
  'seals',
] as const;
export type HeatKey = (typeof HEAT_KEYS)[number];

export interface HeatRow {
  readonly key: HeatKey;
  readonly words: string;
  readonly state: 'met' | 'notMet' | 'missing';
  readonly now: string;
}

/** A moment of the log in the clock of the house. */
export type HeatClock = (minute: number) => string;

type Line = Omit<HeatRow, 'key'>;

const line = (words: string, state: HeatRow['state'], now: string): Line => ({ words, state, now });
const degrees = (celsius: number): string => `${Math.round(celsius * 10) / 10} °C`;
const minutesWords = (minutes: number): string => `${Math.round(minutes * 10) / 10} min`;

/** One figure against its limit; a limit the process does not set asks for nothing. */
function atLeast(words: string, limit: number | null, given: number | null, say: (figure: number) => string): Line[] {
  if (limit === null) return [];
  return [
    given === null
      ? line(`${words}: ${say(limit)} or more`, 'missing', 'not written down')
      : line(`${words}: ${say(limit)} or more`, given >= limit - 1e-9 ? 'met' : 'notMet', say(given)),
  ];
}

/**
 * A load against its process, point by point: met, not met with its times, or missing. What a process does not ask for
 * has no line. Source: handbook 4.3.
 */
export function compareHeat(limits: HeatLimits, record: HeatRecord, known: HeatKnown, clock: HeatClock): HeatRow[] {
  const mm = (figure: number): string => `${figure} mm`;
  const bath = limits.method === 'waterBath';
  const rows: Record<HeatKey, Line[]> = {
    valid: inForce(known),
    container: [
      line(
        `In containers up to ${limits.sizeMl} mL`,
        known.largestMl <= limits.sizeMl ? 'met' : 'notMet',
        `${known.largestMl} mL`,
      ),
    ],
    acid: [
      known.ph === null
        ? line(`pH ${limits.maxPh} or lower at filling`, 'missing', 'no blended reading by a fit meter before it')
        : line(
            `pH ${limits.maxPh} or lower at filling`,
            known.ph <= limits.maxPh ? 'met' : 'notMet',
            `pH ${known.ph.toFixed(2)}`,
          ),
    ],
    altitude: bath ? [altitude(limits)] : [],
    initial: bath ? atLeast('In the jars when the bath begins', limits.initialC, record.initialC, degrees) : [],
    held: [held(limits, record.points, clock)],
    lethality: lethal(limits, record.points),
    fill: bath ? [] : fill(limits, record),
    headspace: atLeast('Headspace', limits.headspaceMm, record.headspaceMm, mm),
    turned: atLeast('Turned, or steam on the lids', limits.turnedSeconds, record.turnedSeconds, (s) => `${s} s`),
    cover: bath ? atLeast('Water above the lids', limits.coverMm, record.coverMm, mm) : [],
    rest: bath ? atLeast('Rest before they are lifted', limits.restMinutes, record.restMinutes, minutesWords) : [],
    cooled: cooled(limits, record),
    critical: critical(record, known),
    seals: [seals(record, known)],
  };
  return HEAT_KEYS.flatMap((key) => rows[key].map((row) => ({ key, ...row })));
}

function inForce({ valid }: HeatKnown): Line[] {
  if (valid === null) return [];
  return [
    valid
      ? line('The process is valid', 'met', 'on the day it was heated')
      : line('The process is valid', 'notMet', 'it had run out when this was heated'),
  ];
}

function altitude({ processC, altitudeM }: HeatLimits): Line {
  const boils = boilingPoint(altitudeM);
  return line(
    `The bath can reach ${degrees(processC)}`,
    boils >= processC ? 'met' : 'notMet',
    `water boils at ${degrees(boils)} in ${altitudeM} m`,
  );
}

function held({ processC, minutes }: HeatLimits, points: readonly HeatPoint[], clock: HeatClock): Line {
  const words = `${degrees(processC)} held for ${minutesWords(minutes)}`;
  if (points.length === 0) return line(words, 'missing', 'no temperature was written down');
  const spans = spansAtLeast(points, processC);
  const long = ({ from, to }: HeatSpan): number => to - from;
  const best = [...spans].sort((a, b) => long(b) - long(a))[0];
  const times = ({ from, to }: HeatSpan): string => `from ${clock(from)} to ${clock(to)}`;
  if (best && long(best) >= minutes - 1e-6) return line(words, 'met', `${minutesWords(long(best))}, ${times(best)}`);
  const hottest = Math.max(...points.map(({ celsius }) => celsius));
  if (!best) return line(words, 'notMet', `${degrees(hottest)} at most`);
  // What broke it: between the first moment it was hot enough and the last.
  const breaks = spans.slice(1).map((span, i): HeatSpan => ({ from: spans[i]!.to, to: span.from }));
  const gaps = gapsOf(points);
  const why = breaks
    .map((broken) => {
      const gap = gaps.find(({ from, to }) => from < broken.to && to > broken.from);
      return gap ? `not met ${times(gap)}: no temperature` : `not met ${times(broken)}: below`;
    })
    .join('; ');
  return line(words, 'notMet', `${minutesWords(long(best))} at a stretch, ${times(best)}${why && `; ${why}`}`);
}

function lethal({ lethality: limit, processC }: HeatLimits, points: readonly HeatPoint[]): Line[] {
  if (!limit) return [];
  const words = `F ${limit.minutes} min at ${limit.refC} °C, z ${limit.z}`;
  if (points.length === 0) return [line(words, 'missing', 'no temperature was written down')];
  const sum = lethality(points, { ...limit, ...(limit.countsComeUp ? {} : { fromC: processC }) });
  return [line(words, sum >= limit.minutes - 1e-9 ? 'met' : 'notMet', `F ${sum.toFixed(2)} min`)];
}

function fill({ fillC }: HeatLimits, { fills, last }: HeatRecord): Line[] {
  if (fillC === null) return [];
  const words = `${degrees(fillC)} or more in every bottle, the last too`;
  const cold = fills.filter(({ celsius }) => celsius < fillC);
  if (cold.length > 0)
    return [
      line(words, 'notMet', cold.map(({ serial, celsius }) => `${degrees(celsius)} in bottle ${serial}`).join('; ')),
    ];
  const ofLast = fills.find(({ serial }) => serial === last);
  if (!ofLast) return [line(words, 'missing', `nothing is written down of the last bottle, ${last}`)];
  const least = Math.min(...fills.map(({ celsius }) => celsius));
  return [line(words, 'met', `${degrees(least)} at least, ${degrees(ofLast.celsius)} in the last`)];
}

function cooled({ cooledC: limit }: HeatLimits, { cooledC }: HeatRecord): Line[] {
  if (limit === null) return [];
  const words = `Cooled to less than ${degrees(limit)}`;
  if (cooledC === null) return [line(words, 'missing', 'not written down')];
  return [line(words, cooledC < limit ? 'met' : 'notMet', degrees(cooledC))];
}

function critical({ criticalKept }: HeatRecord, { critical: asks }: HeatKnown): Line[] {
  if (!asks) return [];
  return [
    criticalKept === null
      ? line(asks, 'missing', 'not said')
      : line(asks, criticalKept ? 'met' : 'notMet', criticalKept ? 'kept' : 'not kept'),
  ];
}

function seals({ startedAt, points, first, last }: HeatRecord, { seals: test }: HeatKnown): Line {
  const words = `Seals, ${UNDISTURBED_HOURS} h later at least, jar by jar`;
  if (!test) return line(words, 'missing', 'left alone until then');
  const ended = startedAt + (points.at(-1)?.minute ?? 0) * 60_000;
  if (test.at < ended + UNDISTURBED_HOURS * HOUR)
    return line(words, 'missing', 'looked at too early: they are left alone first');
  const failed = test.failed.length;
  const all = last - first + 1;
  return line(
    words,
    failed < all ? 'met' : 'notMet',
    failed === 0 ? `all ${all} tight` : `${all - failed} tight; not tight: ${test.failed.join(', ')}`,
  );
}

/** Met, not met, or waiting for what is missing. */
export const heatStands = (rows: readonly HeatRow[]): 'met' | 'notMet' | 'missing' =>
  rows.some(({ state }) => state === 'notMet')
    ? 'notMet'
    : rows.some(({ state }) => state === 'missing')
      ? 'missing'
      : 'met';

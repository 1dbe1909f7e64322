import { counted } from '../units/print.js';
import { accept, refuse, type Outcome, type RefusalCode } from '../refusal.js';
import type { AskedCheck } from '../formula/index.js';
import type { Lateness } from './lateness.js';
import { phStanding, type PhPoint } from './readings.js';
import { acidIsEaten, pairAtLimit, phTrend } from './trend.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** What is asked of a vessel before jars are packed from it. */
export const GATE_KEYS = ['closed', 'hold', 'pair', 'acid', 'rising'] as const;
export type GateKey = (typeof GATE_KEYS)[number];

export interface GateRow {
  readonly key: GateKey;
  readonly words: string;
  readonly state: 'met' | 'open' | 'watch' | 'hold';
  /** What stands there now. */
  readonly now: string;
  /** What is said to who packs all the same; null when it is met. */
  readonly refusal: { readonly code: RefusalCode; readonly message: string } | null;
}

export interface GateInput {
  readonly code: string;
  readonly closed: boolean;
  /** The reasons of its open holds, or null. */
  readonly onHold: string | null;
  readonly points: readonly PhPoint[];
  readonly acidLimit: number;
  readonly lateness: Pick<Lateness, 'state' | 'words' | 'reachedAt' | 'deadline' | 'unread'>;
  /** A reviewer has ended its hold for lateness, on two readings. */
  readonly latenessLifted: boolean;
  /** Nothing is known of its early days. */
  readonly beforeLedger: boolean;
  readonly filledAt: number;
  readonly now: number;
  /** Readings older than this open the condition again. */
  readonly freshHours: number;
}

/**
 * The one list of what a vessel must meet before it is packed: shown on its page, and asked at the packing table.
 * Two blended readings for every vessel, acid in time, no rise, no hold. Source: handbook 3.3, 4.6.
 * @throws {RangeError} a house limit that is no number, or above 4.6
 */
export function packingGate(input: GateInput): GateRow[] {
  if (!(input.acidLimit <= 4.6)) throw new RangeError('no house limit lies above 4.6');
  return [
    pairRow(input),
    acidRow(input),
    risingRow(input),
    holdRow(input),
    ...(input.closed === false ? [] : [closedRow(input)]),
  ];
}

/** The first thing that keeps a vessel from being packed, the gravest first. */
export function decidePackable(input: GateInput): Outcome<void> {
  return firstRefusal(packingGate(input), {
    acidLimit: input.acidLimit,
    lastPh: phStanding(input.points).last?.ph ?? null,
  });
}

/** Of a list of conditions the gravest that is not met, as the answer; each `rows` stands once. */
export function firstRefusal(rows: readonly GateRow[], facts: Readonly<Record<string, unknown>>): Outcome<void> {
  const found = new Map(rows.map((row) => [row.key, row]));
  for (const key of GATE_KEYS) {
    const refusal = found.get(key)?.refusal;
    if (refusal) return refuse(refusal.code, refusal.message, { facts: { ...facts } });
  }
  return accept(undefined);
}

const met = (row: Pick<GateRow, 'key' | 'words' | 'now'>): GateRow => ({ ...row, state: 'met', refusal: null });

function pairRow({ code, points, acidLimit, now, freshHours, beforeLedger }: GateInput): GateRow {
  const words = `pH ${acidLimit} or lower twice, 24 to 72 h apart, blended, meter fit`;
  const pair = pairAtLimit({ points, limit: acidLimit });
  const { counting: last, last: any, strict } = phStanding(points);
  const fresh = last !== null && now - last.at <= freshHours * HOUR;
  if (pair && fresh) return met({ key: 'pair', words, now: `${pair[0].ph.toFixed(2)} and ${pair[1].ph.toFixed(2)}` });
  const row = { key: 'pair' as const, words, state: 'open' as const };
  if (!any)
    return {
      ...row,
      now: 'no pH yet',
      refusal: {
        code: 'pack.noPh',
        message: `${code} has no pH reading. Read its pH, on a blended sample, before packing.`,
      },
    };
  const kind = `${any.sample === 'brine' ? ', brine only' : ''}${any.fit ? '' : ', for watching only'}${any.doubtful ? ', off its trend' : ''}${any.beforeMixture ? ', before something was poured in' : ''}`;
  const shown = `pH ${any.ph.toFixed(2)}${kind}`;
  if (!(strict! <= acidLimit)) {
    return {
      ...row,
      now: shown,
      refusal: {
        code: 'pack.phAboveLimit',
        message: `The pH of ${code} stands at ${strict!.toFixed(2)}, above the house limit of ${acidLimit}. Wait at the right temperature and read again; do not add acid to save it.`,
      },
    };
  }
  if (pair) {
    const days = Math.floor((now - last!.at) / DAY);
    return {
      ...row,
      now: `${last!.ph.toFixed(2)}, ${counted(days, 'day')} old`,
      refusal: {
        code: 'pack.twoReadings',
        message: `The last blended reading of ${code} is ${counted(days, 'day')} old, longer than its plan grants. Read it again before packing.`,
      },
    };
  }
  const mixed = points.some(({ beforeMixture }) => beforeMixture);
  const why = mixed
    ? `Something was poured into ${code}: it is a new thing, and what was read before no longer counts. `
    : beforeLedger
      ? `${code} is from before these records: nothing is known of its early days. `
      : '';
  return {
    ...row,
    now: last ? `${shown}: one more, a day apart` : shown,
    refusal: {
      code: 'pack.twoReadings',
      message: `${why}Two blended readings of ${code} at ${acidLimit} or lower, 24 to 72 hours apart and within 0.1, with a meter fit for release, are wanted before it is packed. Brine-only readings and strips do not count.`,
    },
  };
}

function acidRow({ code, lateness, latenessLifted, filledAt, beforeLedger, points }: GateInput): GateRow {
  const { state, words, reachedAt, deadline, unread } = lateness;
  const day = (at: number): string => `day ${((at - filledAt) / DAY).toFixed(1)}`;
  const row = { key: 'acid' as const, words };
  if (state === 'met')
    return met({
      ...row,
      now: reachedAt === null || reachedAt <= filledAt ? 'from the start' : `reached on ${day(reachedAt)}`,
    });
  if (state === 'metLate' && latenessLifted)
    return met({ ...row, now: `late, ${day(reachedAt!)}; its hold was ended by a reviewer` });
  if (state === 'pending') {
    const asked = {
      code: 'pack.twoReadings' as const,
      message: `${code} has not reached 4.6 on a blended reading that counts. Read it, blended, before packing.`,
    };
    return {
      ...row,
      state: 'open',
      now: beforeLedger ? 'before these records' : `until ${day(deadline)}`,
      refusal: beforeLedger && points.length > 0 ? null : asked,
    };
  }
  const looked = unread ? ', nobody looked in time' : '';
  return {
    ...row,
    state: 'hold',
    now: `past its deadline${looked}`,
    refusal: {
      code: 'pack.late',
      message: `Acid came too late in ${code} (${words}${looked}). It is held until a reviewer ends that on two blended readings.`,
    },
  };
}

function risingRow({ code, points }: GateInput): GateRow {
  const trend = phTrend(points);
  const row = {
    key: 'rising' as const,
    words: 'pH not rising',
    now:
      trend.rise > 0.1
        ? `up by ${trend.rise.toFixed(2)}`
        : trend.direction === 'none'
          ? 'too few readings'
          : trend.direction,
  };
  if (acidIsEaten(trend))
    return {
      ...row,
      state: 'hold',
      refusal: {
        code: 'pack.rising',
        message: `The pH of ${code} has risen by ${trend.rise.toFixed(2)}: the acid is being eaten. It is not packed.`,
      },
    };
  if (trend.direction === 'rising') return { ...row, state: 'watch', refusal: null };
  return trend.direction === 'none' ? { ...row, state: 'open', refusal: null } : met(row);
}

function holdRow({ code, onHold }: GateInput): GateRow {
  if (onHold === null) return met({ key: 'hold', words: 'No hold on it', now: 'none' });
  return {
    key: 'hold',
    words: 'No hold on it',
    state: 'hold',
    now: onHold,
    refusal: {
      code: 'lot.onHold',
      message: `${code} is on hold: ${onHold}. Lift the hold, with a reason, before packing.`,
    },
  };
}

const closedRow = ({ code }: GateInput): GateRow => ({
  key: 'closed',
  words: 'Something stands in it',
  state: 'open',
  now: 'emptied',
  refusal: { code: 'lot.closed', message: `${code} is emptied and closed. Nothing more can be packed from it.` },
});

/** A week where a plan asks for no pH of its own. */
const USUAL_FRESH_HOURS = 7 * 24;

/**
 * How long a pH reading stands for its vessel: the interval its plan asks at that age. Without a plan for the pH a
 * week. Source: handbook 3.1.
 */
export function freshHours(input: { plan: readonly AskedCheck[]; ageDays: number }): number {
  const spans = input.plan
    .filter(({ what }) => what === 'ph')
    .flatMap(({ rule }): number[] => {
      if (rule.kind === 'every') return rule.forDays !== null && input.ageDays > rule.forDays ? [] : [rule.hours];
      if (rule.kind === 'aroundCrossing') return [];
      if (rule.kind === 'untilQuiet') return [rule.hours];
      const days = [...rule.days].sort((a, b) => a - b);
      const next = days.find((day) => day > input.ageDays);
      const before = days.findLast((day) => day <= input.ageDays);
      if (next !== undefined) return [(next - (before ?? 0)) * 24];
      return rule.thenEveryDays ? [rule.thenEveryDays * 24] : [];
    });
  return spans.length > 0 ? Math.min(...spans) : USUAL_FRESH_HOURS;
}

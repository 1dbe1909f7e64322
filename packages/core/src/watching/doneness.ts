import { counted } from '../units/print.js';
import { type Doneness, NO_LAST_DAY } from '../formula/index.js';
import { counting, phStanding, type PhPoint } from './readings.js';
import { AGREE_WITHIN } from './trend.js';

const HOUR = 3_600_000;

export interface Condition {
  /** Which part of the rule it is. */
  readonly key: 'ph' | 'stable' | 'acid' | 'days' | 'colour' | 'taste' | 'gas';
  readonly words: string;
  readonly met: boolean;
  /** What stands there now. */
  readonly now: string;
}

/**
 * Every part of a doneness rule, met or not met. "Ready" is said by a person, with these shown. Only readings that
 * count meet anything; what was read higher since opens it again, and so does a reading older than the plan's interval
 * (`freshHours`). Source: handbook 3.3, 3.5.
 */
export function donenessMet(input: {
  done: Doneness;
  points: readonly PhPoint[];
  ageDays: number;
  acidPercent: number | null;
  colourThrough: boolean;
  tasteSignedOff: boolean;
  quietSince: number | null;
  now: number;
  freshHours?: number;
}): Condition[] {
  const { done, now, freshHours = Infinity } = input;
  const { counting: last, strict } = phStanding(input.points);
  const read = counting(input.points);
  const fresh = last !== null && now - last.at <= freshHours * HOUR;
  const at =
    last === null
      ? 'no blended reading that counts'
      : !fresh
        ? `pH ${last.ph.toFixed(2)}, ${counted(Math.floor((now - last.at) / (24 * HOUR)), 'day')} old`
        : strict! > last.ph
          ? `pH ${strict!.toFixed(2)} read since`
          : `pH ${last.ph.toFixed(2)}`;
  const low = (limit: number): boolean => fresh && last.ph <= limit && strict! <= limit;
  const conditions: (Condition | null)[] = [
    done.phAtMost === null
      ? null
      : { key: 'ph', words: `pH ${done.phAtMost} or lower`, met: low(done.phAtMost), now: at },
    done.stableHours === null
      ? null
      : {
          key: 'stable',
          words: `the same ${done.stableHours} h later, within ${AGREE_WITHIN}`,
          met: fresh && isStable(read, done.stableHours) && strict! <= last.ph + AGREE_WITHIN,
          now: read.length < 2 ? 'one more reading' : at,
        },
    done.acidAtLeast === null
      ? null
      : {
          key: 'acid',
          words: `titratable acidity ${done.acidAtLeast} % or more`,
          met: input.acidPercent !== null && input.acidPercent >= done.acidAtLeast,
          now: input.acidPercent === null ? 'not titrated' : `${input.acidPercent.toFixed(2)} %`,
        },
    done.days === null
      ? null
      : {
          key: 'days',
          words: daysWords(done.days),
          met: input.ageDays >= done.days.from && input.ageDays <= done.days.to,
          now: `day ${input.ageDays}`,
        },
    !done.colourThrough
      ? null
      : {
          key: 'colour',
          words: 'colour all the way through',
          met: input.colourThrough,
          now: input.colourThrough ? 'seen' : 'not seen yet',
        },
    !done.tasteSignOff
      ? null
      : {
          key: 'taste',
          words: 'taste signed off',
          met: input.tasteSignedOff,
          now: input.tasteSignedOff ? 'signed off' : 'not yet',
        },
    done.gasQuietDays === null
      ? null
      : {
          key: 'gas',
          words: `gas quiet for ${counted(done.gasQuietDays, 'day')}`,
          met: input.quietSince !== null && now - input.quietSince >= done.gasQuietDays * 24 * HOUR,
          now:
            input.quietSince === null
              ? 'gas seen, or not looked at'
              : `quiet for ${counted(Math.floor((now - input.quietSince) / (24 * HOUR)), 'day')}`,
        },
  ];
  return conditions.filter((one): one is Condition => one !== null);
}

/** Without an end that anybody gave, only its beginning is said. */
const daysWords = ({ from, to }: { from: number; to: number }): string =>
  to >= NO_LAST_DAY ? `day ${from} or later` : from === to ? `day ${from}` : `day ${from} to ${to}`;

function isStable(read: readonly PhPoint[], hours: number): boolean {
  const last = read.at(-1);
  const other = last && read.findLast(({ at }) => last.at - at >= hours * HOUR);
  return other !== undefined && Math.abs(other.ph - last!.ph) <= AGREE_WITHIN + 1e-9;
}

/** The formula's own window, as moments; null when it has none. Source: handbook 3.5. */
export function readyWindow(input: { done: Doneness | null; usualDays: number; filledAt: number }): {
  from: number;
  to: number;
} {
  const days = input.done?.days ?? { from: Math.round(input.usualDays * 0.8), to: Math.round(input.usualDays * 1.5) };
  return { from: input.filledAt + days.from * 24 * HOUR, to: input.filledAt + days.to * 24 * HOUR };
}

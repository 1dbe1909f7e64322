import type { Doneness } from '../formula/index.js';
import { AGREE_WITHIN, type PhPoint } from './trend.js';

const HOUR = 3_600_000;

export interface Condition {
  readonly words: string;
  readonly met: boolean;
  /** What stands there now. */
  readonly now: string;
}

/**
 * Every part of a doneness rule, met or not met. "Ready" is said by a person, with these shown. Source: handbook 3.5.
 */
export function donenessMet(input: { done: Doneness; points: readonly PhPoint[]; ageDays: number; acidPercent: number | null; colourThrough: boolean; tasteSignedOff: boolean; quietSince: number | null; now: number }): Condition[] {
  const { done, now } = input;
  const points = [...input.points].filter(({ doubtful }) => !doubtful).sort((a, b) => a.at - b.at);
  const last = points.at(-1);
  const at = last ? `pH ${last.ph.toFixed(2)}` : 'no pH yet';
  const conditions: (Condition | null)[] = [
    done.phAtMost === null ? null : { words: `pH ${done.phAtMost} or lower`, met: last !== undefined && last.ph <= done.phAtMost, now: at },
    done.stableHours === null ? null : { words: `the same ${done.stableHours} h later, within ${AGREE_WITHIN}`, met: isStable(points, done.stableHours), now: points.length < 2 ? 'one more reading' : at },
    done.acidAtLeast === null ? null : { words: `titratable acidity ${done.acidAtLeast} % or more`, met: input.acidPercent !== null && input.acidPercent >= done.acidAtLeast, now: input.acidPercent === null ? 'not titrated' : `${input.acidPercent.toFixed(2)} %` },
    done.days === null ? null : { words: `day ${done.days.from} to ${done.days.to}`, met: input.ageDays >= done.days.from && input.ageDays <= done.days.to, now: `day ${input.ageDays}` },
    !done.colourThrough ? null : { words: 'colour all the way through', met: input.colourThrough, now: input.colourThrough ? 'seen' : 'not seen yet' },
    !done.tasteSignOff ? null : { words: 'taste signed off', met: input.tasteSignedOff, now: input.tasteSignedOff ? 'signed off' : 'not yet' },
    done.gasQuietDays === null ? null : { words: `gas quiet for ${done.gasQuietDays} days`, met: input.quietSince !== null && now - input.quietSince >= done.gasQuietDays * 24 * HOUR, now: input.quietSince === null ? 'gas seen, or not looked at' : `quiet for ${Math.floor((now - input.quietSince) / (24 * HOUR))} days` },
  ];
  return conditions.filter((one): one is Condition => one !== null);
}

function isStable(points: readonly PhPoint[], hours: number): boolean {
  const last = points.at(-1);
  const other = last && points.findLast(({ at, sample }) => last.at - at >= hours * HOUR && sample === last.sample);
  return other !== undefined && Math.abs(other.ph - last!.ph) <= AGREE_WITHIN + 1e-9;
}

/** The formula's own window, as moments; null when it has none. Source: handbook 3.5. */
export function readyWindow(input: { done: Doneness | null; usualDays: number; filledAt: number }): { from: number; to: number } {
  const days = input.done?.days ?? { from: Math.round(input.usualDays * 0.8), to: Math.round(input.usualDays * 1.5) };
  return { from: input.filledAt + days.from * 24 * HOUR, to: input.filledAt + days.to * 24 * HOUR };
}

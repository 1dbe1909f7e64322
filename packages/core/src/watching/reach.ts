import { accept, refuse, type Outcome } from '../refusal.js';
import { counting, type PhPoint } from './readings.js';

/** Something that was taken out of a vessel, or made of what was. */
export interface Taken {
  readonly lotId: string;
  readonly code: string;
  /** After the last reading of the vessel that counted as in order. */
  readonly since: boolean;
}

/**
 * The last moment at which a vessel was known to be in order: its last reading that counts, at or under the limit. Null
 * where there is none: then everything since it was filled is in doubt. Source: handbook 3.4.
 */
export function lastInOrder(
  points: readonly PhPoint[],
  acidLimit: number,
): { readonly at: number; readonly ph: number } | null {
  const good = counting(points).findLast(({ ph }) => ph <= acidLimit);
  return good ? { at: good.at, ph: good.ph } : null;
}

export interface Reach {
  readonly hold: readonly string[];
  readonly leftOut: readonly string[];
}

/**
 * What a hold on a vessel reaches of what was taken from it. Without a word everything since its last reading in order
 * is held with it, since a fault is older than the look that finds it. What left after that is left out only by a
 * reviewer; whatever is left out by name wants a reason. Source: handbook 3.4.
 */
export function decideReach(input: {
  readonly taken: readonly Taken[];
  readonly chosen: readonly string[] | null;
  readonly reason: string | null;
  readonly isReviewer: boolean;
}): Outcome<Reach> {
  const { taken, chosen, isReviewer } = input;
  if (chosen === null)
    return accept({
      hold: taken.filter(({ since }) => since).map(({ lotId }) => lotId),
      leftOut: taken.filter(({ since }) => !since).map(({ lotId }) => lotId),
    });
  const strange = chosen.filter((lotId) => !taken.some((one) => one.lotId === lotId));
  if (strange.length > 0)
    return refuse(
      'hold.notTaken',
      'Something was named that was never taken from this vessel. Look at the list again: it has changed meanwhile.',
      { field: 'reach' },
    );
  const out = taken.filter(({ lotId }) => !chosen.includes(lotId));
  if (out.length > 0 && !input.reason?.trim())
    return refuse(
      'hold.leftOut',
      `${out.map(({ code }) => code).join(', ')} was taken from it and would not be held. Hold it too, or write why it is left out: the trace shows both.`,
      { field: 'reach', facts: { leftOut: out.map(({ code }) => code) } },
    );
  const after = out.filter(({ since }) => since);
  if (after.length > 0 && !isReviewer)
    return refuse(
      'hold.leftOut',
      `${after.map(({ code }) => code).join(', ')} was taken after its last reading in order: only a reviewer leaves that out, with a reason.`,
      { field: 'reach', facts: { leftOut: after.map(({ code }) => code) } },
    );
  return accept({
    hold: taken.filter(({ lotId }) => chosen.includes(lotId)).map(({ lotId }) => lotId),
    leftOut: out.map(({ lotId }) => lotId),
  });
}

import { formatGrams, type Loss } from '@clear-tally/core';

export const SAMPLE_WORDS = { blended: 'blended sample', brine: 'brine only' } as const;

export function countWords(facts: Record<string, unknown>, reason: string | null): string {
  const difference = Number(facts['differenceGrams'] ?? 0);
  const words =
    Math.abs(difference) < 0.5
      ? 'as the ledger says'
      : `${formatGrams(Math.abs(difference))} ${difference < 0 ? 'less' : 'more'} than the ledger said`;
  return reason ? `${words}: ${reason}` : words;
}

/** What was held with it, and what was left out, with the reason. */
export function reachWords(facts: Record<string, unknown>): string[] {
  const codes = (key: string): string => (facts[key] as string[] | undefined)?.join(', ') ?? '';
  return [
    codes('heldToo') && `held with it: ${codes('heldToo')}`,
    codes('leftOut') &&
      `left out: ${codes('leftOut')}${facts['leftOutReason'] ? ` (${String(facts['leftOutReason'])})` : ', taken before its last reading in order'}`,
  ].filter(Boolean);
}

export function unticked(facts: Record<string, unknown>): string | null {
  const left = facts['unchecked'] as string[] | undefined;
  return left?.length ? `not ticked: ${left.join('; ')}` : null;
}

export const TASTE_SAYS = { signedOff: 'signed off', wait: 'wait', backToRoom: 'back to the room' } as const;

export const listed = (what: string, names: unknown): string | null =>
  Array.isArray(names) && names.length > 0 ? `${what}: ${names.join(', ')}` : null;

export const TASTE_WORDS = {
  tooSalty: 'tastes too salty',
  between: 'tastes right',
  tooWeak: 'tastes too weak',
} as const;

export function leafWords(body: {
  tasted: keyof typeof TASTE_WORDS | null;
  measured: { waterPhaseSalt: number; how: string } | null;
}): string | null {
  return (
    [
      body.measured && `${(body.measured.waterPhaseSalt * 100).toFixed(2)} % by ${body.measured.how}`,
      body.tasted && TASTE_WORDS[body.tasted],
    ]
      .filter(Boolean)
      .join(' · ') || null
  );
}

/** Where something went that is nowhere any more, in the words of the book. */
export const LOSS_WORDS: Readonly<Record<Loss, string>> = {
  trim: 'trimmed off',
  drip: 'drip',
  gas: 'gas',
  spoiled: 'spoiled',
  sample: 'sample or tasting',
  retained: 'kept back',
  overflow: 'ran over',
  evaporation: 'evaporated',
  rinse: 'rinsed off',
  spill: 'spilt',
  residue: 'stayed in bowls',
  leftover: 'left over',
  thrownOut: 'thrown out',
  returned: 'sent back',
  broken: 'broken',
  countDifference: 'difference of a count',
};

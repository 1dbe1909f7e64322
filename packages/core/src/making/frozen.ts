import { accept, type Outcome, refuse } from '../refusal.js';

/**
 * Frost kills most of what would begin the ferment: frozen produce goes in with a starter, or with the word of somebody
 * why not. Source: handbook 3.4, no sign of life; 7.
 */
export function decideFrozen(input: {
  readonly code: string;
  readonly name: string;
  readonly hasStarter: boolean;
  readonly reason: string | undefined;
}): Outcome<void> {
  return input.hasStarter || input.reason?.trim()
    ? accept(undefined)
    : refuse(
        'produce.frozen',
        `${input.code}, ${input.name}, was frozen, and nothing is in this batch that begins it: it may not start by itself. Add a starter or kept brine first (“Something else goes in”), or write why it goes in without one. It is given until day 5 to show life.`,
        { field: 'frozenReason' },
      );
}

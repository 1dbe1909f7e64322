import { accept, refuse, type Outcome } from '../refusal.js';
import type { Hole } from '../scaling/holes.js';

/** A batch starts from a formula that is in use and has no safety-relevant hole. Source: handbook 7. */
export function decideStart(input: { name: string; retired: boolean; holes: readonly Hole[] }): Outcome<void> {
  if (input.retired)
    return refuse(
      'formula.retired',
      `${input.name} is retired. Copy it, or take it back into use, before starting a batch.`,
      { field: 'formulaId' },
    );
  const open = input.holes.filter(({ blocks }) => blocks);
  if (open.length > 0) {
    return refuse(
      'formula.hole',
      `A batch cannot start while this is open: ${open.map(({ words }) => words).join(' ')} Settle it in a new version of the formula.`,
      { field: 'formulaId', facts: { holes: open.map(({ key }) => key) } },
    );
  }
  return accept(undefined);
}

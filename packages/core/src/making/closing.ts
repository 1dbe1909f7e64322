import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';
import type { SheetLine } from './lines.js';

export interface StepStanding {
  readonly key: string;
  readonly name: string;
  readonly state: 'open' | 'begun' | 'done' | 'skipped';
}

/** What clings to bowls, boards and hands of what was weighed in. */
export const CLINGS = 0.02;

/**
 * A batch is closed when every formula line is weighed, ticked or left out with a reason, every step is done
 * or skipped by name, something is filled and the bowls are empty. Source: handbook 7.
 */
export function decideClose(input: {
  code: string;
  lines: readonly SheetLine[];
  steps: readonly StepStanding[];
  fills: number;
  inBowlsGrams: number;
  producedGrams: number;
  unanswered: readonly string[];
}): Outcome<void> {
  const { code, lines, steps, fills, inBowlsGrams, producedGrams, unanswered } = input;
  if (!(fills > 0))
    return refuse(
      'making.nothingFilled',
      `Nothing of ${code} is filled yet. Fill it, or record what became of it as a loss.`,
    );
  const open = lines.filter((line) => line.state === 'open');
  if (open.length > 0)
    return refuse(
      'making.linesOpen',
      `Not settled: ${open.map((line) => line.name).join(', ')}. Each line of the formula is weighed, ticked, or left out with a reason.`,
      { facts: { lines: open.map((line) => line.key) } },
    );
  const undone = steps.filter((step) => step.state === 'open' || step.state === 'begun');
  if (undone.length > 0)
    return refuse(
      'making.stepsOpen',
      `Not done: ${undone.map((step) => step.name).join(', ')}. Finish each step, or skip it with a reason: it is named at review.`,
      { facts: { steps: undone.map((step) => step.key) } },
    );
  if (!(inBowlsGrams <= Math.max(20, (producedGrams > 0 ? producedGrams : 0) * CLINGS))) {
    return refuse(
      'making.bowlsNotEmpty',
      `${formatGrams(inBowlsGrams)} is still in the bowls of ${code}. Fill it, or record where it went.`,
      { facts: { inBowlsGrams } },
    );
  }
  if (unanswered.length > 0)
    return refuse(
      'brine.unanswered',
      `What is left of ${unanswered.join(', ')}: did it touch the product, or never? Answer that first.`,
      { facts: { lots: unanswered } },
    );
  return accept(undefined);
}

/**
 * A step is done when its target is met: left open, it wants a reason that the book keeps.
 * An irreversible step goes ahead when its checklist is ticked; what is not ticked is named with a reason.
 */
export function decideFinish(input: {
  name: string;
  irreversible: boolean;
  checks: readonly { key: string; words: string }[];
  checked: readonly string[];
  note: string | null;
  open?: string | null;
}): Outcome<{ unchecked: string[] }> {
  if (input.open && !input.note?.trim())
    return refuse(
      'making.stepOpen',
      `${input.name}: ${input.open}. Do it, or write why it is left so: the book keeps the reason.`,
      { field: 'note', facts: { open: input.open } },
    );
  const unchecked = input.checks.filter(({ key }) => !input.checked.includes(key)).map(({ words }) => words);
  if (unchecked.length > 0 && !input.note?.trim()) {
    return refuse(
      'making.unchecked',
      `${input.name}: not ticked is “${unchecked.join('”, “')}”. ${input.irreversible ? 'This step cannot be taken back. ' : ''}Tick it, or write why it goes on without.`,
      { field: 'checked', facts: { unchecked } },
    );
  }
  return accept({ unchecked });
}

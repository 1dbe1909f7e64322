import { accept, type Outcome, refuse } from '../refusal.js';

/** What leaves nothing behind: water and steam, what goes off into the air, and what a pickle holds itself. */
const HARMLESS =
  /^(?:(?:hot|boiling|boiled|cold|warm|clean|plain)\s+)*(?:water|steam)$|^(?:(?:white|spirit|wine)\s+)?(?:vinegar|ethanol|alcohol|grain spirit)(?:[\s,]+[\d.,]+\s*%)?$/i;

/**
 * Whether an agent asks for a rinse unless its own sheet says otherwise. One that nobody knows here asks for it, too:
 * residues stop the culture. Source: handbook 6.
 */
export const leavesResidue = (agent: string): boolean => agent.trim() !== '' && !HARMLESS.test(agent.trim());

/** A cleaning with what may stop a ferment is rinsed, or its sheet asks for no rinse and somebody says so. */
export const decideRinse = (input: {
  readonly agent: string;
  readonly rinsed: boolean;
  readonly noRinse: boolean;
}): Outcome<null> =>
  input.rinsed || input.noRinse || !leavesResidue(input.agent)
    ? accept(null)
    : refuse(
        'cleaning.rinse',
        `“${input.agent}” may leave something behind that stops a ferment. Rinse it and say so, or say that its sheet asks for no rinse at this strength.`,
        { field: 'rinsed' },
      );

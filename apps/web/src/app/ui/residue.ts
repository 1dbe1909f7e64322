/** What leaves nothing behind: water and steam, what goes off into the air, and what a pickle holds itself. */
const HARMLESS =
  /^(?:(?:hot|boiling|boiled|cold|warm|clean|plain)\s+)*(?:water|steam)$|^(?:(?:white|spirit|wine)\s+)?(?:vinegar|ethanol|alcohol|grain spirit)(?:[\s,]+[\d.,]+\s*%)?$/i;

/**
 * Whether an agent asks for a rinse unless its own sheet says otherwise. One that nobody knows here asks for it, too:
 * residues stop the culture. Source: handbook 6.
 */
export const leavesResidue = (agent: string): boolean => agent.trim() !== '' && !HARMLESS.test(agent.trim());

import { SALT_BASES } from '../salt/bases.js';
import type { ScalableFormula } from './formula.js';

/** Something a recipe leaves open. */
export interface Hole {
  /** `produce`, `salt`, `basis`, `water`, or `line-<index>`. */
  readonly key: string;
  readonly words: string;
  /** A batch cannot start while it is open. */
  readonly blocks: boolean;
}

/**
 * What nobody has said yet. A formula is kept with its holes; the safety-relevant ones (produce, salt, water,
 * a starter) keep a batch from starting. Source: handbook 7.
 */
export function formulaHoles(formula: Pick<ScalableFormula, 'produce' | 'saltBasis' | 'saltFraction' | 'waterPerProduce' | 'lines'>): Hole[] {
  const holes: Hole[] = [];
  if (formula.produce.length === 0) holes.push({ key: 'produce', words: 'No produce is named.', blocks: true });
  if (formula.saltBasis === null) holes.push({ key: 'basis', words: `Salt of what? “Per cent” has ${SALT_BASES.length} meanings, and this recipe does not say which.`, blocks: true });
  if (formula.saltFraction === null) holes.push({ key: 'salt', words: 'How much salt is not settled.', blocks: true });
  if (formula.waterPerProduce === null) holes.push({ key: 'water', words: 'How much water is not settled.', blocks: true });
  formula.lines.forEach((line, index) => {
    if (line.amount !== null || line.scaleBy === 'toTaste') return;
    holes.push({ key: `line-${index}`, words: `${line.name}: ${line.written ? `“${line.written}” is` : 'there is'} no amount to weigh.`, blocks: line.isStarter ?? false });
  });
  return holes;
}

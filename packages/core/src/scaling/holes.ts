import { SALT_BASES } from '../salt/bases.js';
import type { ScalableFormula } from './formula.js';

/** Words of a step that heats. */
const HEAT = /\b(heat|pasteuri[sz]|hot[- ]?fill|water[- ]?bath|kettle|retort|simmer)/i;

/** Something a recipe leaves open. */
export interface Hole {
  /** `produce`, `salt`, `basis`, `water`, `heat`, or `line-<index>`. */
  readonly key: string;
  readonly words: string;
  /** A batch cannot start while it is open. */
  readonly blocks: boolean;
}

/**
 * What nobody has said yet. A formula is kept with its holes; the safety-relevant ones (produce, salt, water,
 * a starter) keep a batch from starting. Source: handbook 7.
 */
export function formulaHoles(
  formula: Pick<
    ScalableFormula,
    'produce' | 'saltBasis' | 'saltFraction' | 'waterPerProduce' | 'lines' | 'heated' | 'steps'
  >,
): Hole[] {
  const holes: Hole[] = [];
  if (formula.produce.length === 0) holes.push({ key: 'produce', words: 'No produce is named.', blocks: true });
  if (formula.saltBasis === null)
    holes.push({
      key: 'basis',
      words: `Salt of what? “Per cent” has ${SALT_BASES.length} meanings, and this recipe does not say which.`,
      blocks: true,
    });
  if (formula.saltFraction === null) holes.push({ key: 'salt', words: 'How much salt is not settled.', blocks: true });
  if (formula.waterPerProduce === null)
    holes.push({ key: 'water', words: 'How much water is not settled.', blocks: true });
  formula.lines.forEach((line, index) => {
    // A starter is weighed, never to taste: how much of it went in decides how fast acid comes.
    if (line.scaleBy === 'toTaste' ? !line.isStarter : line.amount !== null) return;
    holes.push({
      key: `line-${index}`,
      words: `${line.name}: ${line.written ? `“${line.written}” is` : 'there is'} no amount to weigh.`,
      blocks: line.isStarter ?? false,
    });
  });
  if (formula.heated && !(formula.steps ?? []).some(({ words }) => HEAT.test(words)))
    holes.push({
      key: 'heat',
      words: 'It is heated, and no step says how: the scheduled process, its temperature and its minutes.',
      blocks: false,
    });
  return holes;
}

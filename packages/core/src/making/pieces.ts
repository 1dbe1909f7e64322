import { formatGrams } from '../units/format.js';

/**
 * What was counted as it was weighed, with what one of them weighs: 5,714 g in twelve heads.
 * @param name what they are called, "heads"; left out: pieces
 * @example piecesWords({ grams: 5714, pieces: 12, name: 'heads' }) //=> '12 heads, 476 g each'
 */
export function piecesWords({
  grams,
  pieces,
  name,
}: {
  grams: number;
  pieces: number;
  name?: string | null | undefined;
}): string {
  const one = pieces === 1;
  const called = name?.trim() || (one ? 'piece' : 'pieces');
  return `${pieces} ${called}${one ? '' : `, ${formatGrams(grams / pieces)} each`}`;
}

import { CLAIM_KINDS, CLAIM_PATTERNS, type ClaimKind } from './claimWords.js';

/** Words that may not stand on a label as they are, as they were given. */
export interface Claim {
  readonly words: string;
  readonly why: ClaimKind;
}

export const CLAIM_REASONS: Readonly<Record<ClaimKind, string>> = {
  health: 'it says something about health: no health claim stands on a label of this house, whatever is meant by it',
  safe: 'nothing is called safe on a label of this house: it meets limits, and who eats it decides',
  children: 'it speaks to children or their parents: who may eat it is no word for a label',
  pregnancy: 'it speaks of pregnancy: who may eat it is no word for a label',
  alcohol: 'a word about alcohol is held until the product was tested and the report is in the house',
  low: 'it says that something is low in it or not there: that is a claim with limits of its own in law',
  rich: 'it says that it is rich in something: that is a claim with limits of its own in law',
  unrefrigerated: 'how it keeps is said by the record of its run, and by nothing else on the label',
  age: 'a word about age is held until the record of the run says so',
};

/** Letters of other scripts, and signs, that look like these. */
const LOOKALIKES: Readonly<Record<string, string>> = Object.fromEntries([
  ['а', 'a'],
  ['α', 'a'],
  ['@', 'a'],
  ['с', 'c'],
  ['ϲ', 'c'],
  ['е', 'e'],
  ['ε', 'e'],
  ['і', 'i'],
  ['ι', 'i'],
  ['ı', 'i'],
  ['ј', 'j'],
  ['к', 'k'],
  ['κ', 'k'],
  ['ο', 'o'],
  ['о', 'o'],
  ['ø', 'o'],
  ['р', 'p'],
  ['ρ', 'p'],
  ['ѕ', 's'],
  ['$', 's'],
  ['т', 't'],
  ['τ', 't'],
  ['υ', 'u'],
  ['у', 'y'],
  ['х', 'x'],
  ['ν', 'v'],
  ['ł', 'l'],
  ['ß', 'ss'],
  ['æ', 'ae'],
  ['œ', 'oe'],
  ['đ', 'd'],
  ['н', 'h'],
  ['м', 'm'],
  ['в', 'b'],
]);
/** Figures written for letters, inside a word only. */
const FIGURES: Readonly<Record<string, string>> = { 0: 'o', 1: 'i', 3: 'e', 4: 'a', 5: 's', 7: 't' };

/** A text as it is read by somebody who is not meant to notice: no accents, no look-alikes, its words one blank apart. */
export function plainWords(text: string): string {
  const letters = [
    ...text
      .normalize('NFKD')
      .toLowerCase()
      .replace(/[\p{M}\p{Cf}]/gu, ''),
  ]
    .map((letter) => LOOKALIKES[letter] ?? letter)
    .join('');
  return letters
    .replace(/(?<=\p{L})[013457](?=\p{L})/gu, (figure) => FIGURES[figure]!)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** Single letters in a row are one word spelt out: "p r o b i o t i c". */
const spelt = (plain: string): string =>
  plain.replace(/(?<![\p{L}\p{N}])(?:\p{L} ){3,}\p{L}(?![\p{L}\p{N}])/gu, (letters) => letters.replaceAll(' ', ''));

const pattern = (words: string): string => (words.endsWith('*') ? `${words.slice(0, -1)}[\\p{L}\\p{N}]*` : words);
const BY_KIND = CLAIM_KINDS.map((why): [ClaimKind, RegExp] => [
  why,
  new RegExp(
    `(?<![\\p{L}\\p{N}])(?:${Object.values(CLAIM_PATTERNS[why]).flat().map(pattern).join('|')})(?![\\p{L}\\p{N}])`,
    'gu',
  ),
]);

/**
 * What a text claims that a label may not, in any script, spacing or accent, by kind. Source: handbook 4.4, 6, 7.
 * @example labelClaims('Pröbìotic!') //=> [{ words: 'probiotic', why: 'health' }]
 */
export function labelClaims(text: string): Claim[] {
  const plain = spelt(plainWords(text));
  return BY_KIND.flatMap(([why, words]) => [...plain.matchAll(words)].map(([found]) => ({ words: found, why })));
}

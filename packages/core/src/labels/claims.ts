/** A word that may not stand on a label as it is. */
export interface Claim {
  readonly words: string;
  readonly why: 'health' | 'alcohol' | 'age';
}

// Stems, in the word or at its beginning: who writes one means the others.
const HEALTH =
  /\b(?:probiotic\w*|prebiotic\w*|immun\w*|gut|digesti\w*|microbio\w*|detox\w*|cleans(?:e|es|ing)|heal(?:s|ing|th\w*)|cure[sd]?|medicin\w*|therap\w*|anti-?inflammator\w*|anti-?oxidant\w*|superfood\w*|wellness|vitality|boosts?|good for (?:you|your)|lowers?|prevents?|fights?)\b/gi;
const ALCOHOL = /\b(?:alcohol(?:[ -]?free)?|non-?alcoholic)\b|\b0[.,]0 ?%/gi;
const AGE = /\b(?:aged|matured|barrel-?aged|\d+[ -](?:years?|months?)[ -](?:old|aged))\b/gi;

export const CLAIM_WORDS: Readonly<Record<Claim['why'], string>> = {
  health: 'it says something about health: no health claim stands on a label of this house, whatever is meant by it',
  alcohol: 'a word about alcohol is held until the product was tested and the report is in the house',
  age: 'a word about age is held until the record of the run says so',
};

/** What a text claims that a label may not: about health never, about alcohol and age not before it was tested. Source: handbook 4.4, 7. */
export function labelClaims(text: string): Claim[] {
  const found = (pattern: RegExp, why: Claim['why']): Claim[] =>
    [...text.matchAll(pattern)].map(([words]) => ({ words, why }));
  return [...found(HEALTH, 'health'), ...found(ALCOHOL, 'alcohol'), ...found(AGE, 'age')];
}

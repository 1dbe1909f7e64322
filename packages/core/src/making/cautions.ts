import type { Station } from './stations.js';

export interface Caution {
  readonly words: string;
  /** Goggles, gloves: put on before the step begins. */
  readonly wear: boolean;
}

const say = (words: string, wear = false): Caution => ({ words, wear });

/**
 * Cautions at the place where they matter, few and short. `materialCautions` are those of the materials in hand.
 * Source: handbook 6 and 7 ("protective wear at the step, not on a poster").
 */
export function cautionsAt(input: { station: Station; materialCautions: readonly string[]; brined: boolean; closure?: string | null; sanitise: boolean }): readonly Caution[] {
  const own = input.materialCautions.map((words) => say(words, /glove|goggle|mask/i.test(words)));
  switch (input.station) {
    case 'weigh': case 'prepare': case 'flavour': case 'starter': return own;
    case 'water': return [say('Hot brine burns, and kills a culture: it cools to 30 °C before it meets the produce.')];
    case 'clean': return input.sanitise ? [say('Gloves and goggles with sanitiser. Its dilution and contact time are on its sheet; never mix two of them.', true), say('Rinse where its sheet says: a residue stops the culture.')] : [say('Hot washing is not sterilising.')];
    case 'close': return [say('A sealed vessel without a vent bursts: burp it by the plan, eyes protected.', true)];
    default: return [];
  }
}

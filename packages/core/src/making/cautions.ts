import type { Station } from './stations.js';

export interface Caution {
  readonly words: string;
  /** Goggles, gloves: put on before the step begins. */
  readonly wear: boolean;
}

const say = (words: string, wear = false): Caution => ({ words, wear });

/** What a formula's own words say of a step: blades, lye, heat. */
const BLADES = /\b(slic|shred|cut|chop|mandolin|blend|blade|knife|grat|mill)/i;
const LYE = /\blye\b|caustic|sodium hydroxide/i;
const HOT = /\b(hot|boil|cook|simmer|warm|steam|scald)/i;

/**
 * Cautions at the place where they matter, few and short. `materialCautions` are those of the materials in hand,
 * `words` what the formula says to the step. Source: handbook 6 and 7 ("protective wear at the step, not on a poster").
 */
export function cautionsAt(input: {
  station: Station;
  materialCautions: readonly string[];
  brined: boolean;
  closure?: string | null;
  sanitise: boolean;
  words?: readonly string[];
}): readonly Caution[] {
  const own = input.materialCautions.map((words) => say(words, /glove|goggle|mask/i.test(words)));
  const said = (input.words ?? []).join(' ');
  const byWords = [
    ...(input.station === 'weigh' || BLADES.test(said)
      ? [say('Blades: a cut-proof glove on the hand that feeds, the guard on; unplug before a hand goes in.', true)]
      : []),
    ...(LYE.test(said)
      ? [
          say(
            'Lye burns skin and eyes: gloves, goggles, always lye into water, never the other way; rinse until no slip is left.',
            true,
          ),
        ]
      : []),
    ...(input.station !== 'water' && HOT.test(said)
      ? [say('Hot liquid burns: a lid against steam, and it cools to 30 °C before it meets a culture.')]
      : []),
  ];
  return [...byStation(input.station, input.sanitise), ...byWords, ...own];
}

function byStation(station: Station, sanitise: boolean): Caution[] {
  switch (station) {
    case 'water':
      return [say('Hot brine burns, and kills a culture: it cools to 30 °C before it meets the produce.')];
    case 'clean':
      return sanitise
        ? [
            say(
              'Gloves and goggles with sanitiser. Its dilution and contact time are on its sheet; never mix two of them.',
              true,
            ),
            say('Rinse where its sheet says: a residue stops the culture.'),
          ]
        : [say('Hot washing is not sterilising.')];
    case 'close':
      return [say('A sealed vessel without a vent bursts: burp it by the plan, eyes protected.', true)];
    default:
      return [];
  }
}

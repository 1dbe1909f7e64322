import { accept, refuse, type Outcome } from '../refusal.js';
import { parseNumber, type DecimalMark } from './parseNumber.js';
import { parseVolume } from './parseVolume.js';

/** As many as one table of vessels takes. */
const MOST = 60;
const MOST_ML = 2_000_000;

/**
 * Vessels by their capacity, one after the other: "30, 30, 15", "2,5; 5" in a house with a decimal comma, "30 L 500 mL"
 * is not one but refused as a list. Millilitres, in the order typed.
 * @example readCapacities({ text: '30, 15' }) //=> { ok: true, value: [30000, 15000] }
 */
export function readCapacities(input: { text: string; decimalMark?: DecimalMark }): Outcome<number[]> {
  // A comma without a blank divides where it is not the decimal mark; "30,15" are two vessels then.
  const words = input.text
    .split(input.decimalMark === 'comma' ? /[;\n]|,(?=\s)|\s+(?=[\d.,])/ : /[;\n,]|\s+(?=[\d.])/)
    .map((word) => word.trim())
    .filter(Boolean);
  if (words.length > MOST)
    return refuse('quantity.unreadable', `${words.length} vessels were given. Up to ${MOST} are fitted at once.`);
  const all: number[] = [];
  for (const word of words) {
    const bare = parseNumber({ text: word, decimalMark: input.decimalMark });
    const ml = bare.ok
      ? accept(bare.value * 1000)
      : parseVolume({ text: word, defaultUnit: 'L', decimalMark: input.decimalMark, what: 'A vessel' });
    if (!ml.ok) return ml;
    if (!(ml.value > 0 && ml.value <= MOST_ML))
      return refuse(
        'quantity.unreadable',
        `“${word}” was given. Litres up to ${MOST_ML / 1000} are accepted, one vessel after the other: 30, 30, 15.`,
      );
    all.push(ml.value);
  }
  return accept(all);
}

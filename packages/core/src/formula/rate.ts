import { accept, refuse, type Outcome } from '../refusal.js';
import { BY_FRACTION, type ScaleBy } from '../scaling/formula.js';
import { formatGrams } from '../units/format.js';
import { spreadWords, unitKey, type Nationality } from '../units/measures.js';
import { parseNumber, type DecimalMark } from '../units/parseNumber.js';
import { readAmount, type Amount } from '../units/readAmount.js';

export interface Rate {
  /** In the unit of the line: a fraction, or grams per litre, vessel, jar or batch. */
  readonly amount: number;
  /** What was understood, for the person to see. */
  readonly understood: string;
}

export interface RateInput {
  readonly text: string;
  readonly scaleBy: ScaleBy;
  /** Mass that an amount in grams is for: the produce (or produce and water, salt, finished mass) of the recipe as written. */
  readonly baseGrams: number | null;
  readonly gramsPerMl?: number | null;
  readonly pieceGrams?: number | null;
  readonly nationality?: Nationality | null;
  readonly decimalMark?: DecimalMark;
  readonly what?: string;
}

/**
 * A line's amount as a maker types it: "11 g per kg", "0.3 %", "126 g", "2 tbsp", "6 cloves". An amount for the
 * whole recipe is divided by the mass it is for. Ranges, handfuls and spoons of solids without a known weight
 * are refused, and stay holes. Source: handbook 2.5, 2.8.
 */
export function readRate(input: RateInput): Outcome<Rate> {
  const text = input.text.trim();
  const what = input.what ?? 'this';
  const fraction = BY_FRACTION.has(input.scaleBy);
  const per = /^(.*?)\s*(?:\/|\bper\b)\s*([\d.,]*)\s*(\p{L}+)\.?(?:\s+of\s+.*)?$/iu.exec(text);
  const percent = /^([\d.,\s]+?)\s*(%|per ?cent)$/i.exec(text);
  if (percent) {
    const number = parseNumber({ text: percent[1]!, decimalMark: input.decimalMark });
    if (!number.ok) return number;
    if (!fraction)
      return refuse(
        'quantity.unknownUnit',
        `“${text}” is a share, and ${what} is counted ${input.scaleBy === 'batch' ? 'per batch' : 'by number'}. Type grams.`,
      );
    return positive(number.value / 100, text, `${round(number.value * 10)} g per kg`);
  }
  if (per) return perUnit(per[1]!, per[2]!, per[3]!, input, what);
  if (/^[\d.,\s]+$/.test(text)) {
    const number = parseNumber({ text, decimalMark: input.decimalMark });
    if (!number.ok) return number;
    if (input.scaleBy === 'saltMass')
      return positive(number.value / 100, text, `${round(number.value)} g per 100 g of salt`);
    return fraction
      ? positive(number.value / 1000, text, `${round(number.value)} g per kg`)
      : positive(number.value, text, `${round(number.value)} g`);
  }
  const amount = readAmount({ text, nationality: input.nationality, decimalMark: input.decimalMark });
  if (!amount.ok) return amount;
  const grams = gramsOf(amount.value, input, what);
  if (!grams.ok) return grams;
  if (!fraction) return positive(grams.value, text, formatGrams(grams.value));
  if (!input.baseGrams)
    return refuse(
      'quantity.unitMissing',
      `“${text}” is an amount for a whole recipe. Say first how much produce the recipe is for, or type g per kg.`,
    );
  return positive(
    grams.value / input.baseGrams,
    text,
    `${formatGrams(grams.value)}, ${round((grams.value / input.baseGrams) * 1000)} g per kg`,
  );
}

/** What a line is counted on, and the words for it after "per". */
const PER: Readonly<Record<ScaleBy, { readonly units: readonly string[]; readonly words: string }>> = {
  mainMass: { units: ['kg', 'g'], words: 'per kg of produce' },
  everything: { units: ['kg', 'g'], words: 'per kg of produce and water' },
  saltMass: { units: ['kg', 'g'], words: 'per kg of salt' },
  finishedMass: { units: ['kg', 'g'], words: 'per kg finished' },
  vesselVolume: { units: ['l', 'ml'], words: 'per litre of vessel' },
  vessel: { units: ['vessel', 'crock', 'drum'], words: 'per vessel' },
  jar: { units: ['jar', 'bottle'], words: 'per jar' },
  batch: { units: ['batch'], words: 'per batch' },
  toTaste: { units: [], words: 'to taste' },
};

/** "11 g per kg", "3 leaves / 10 L": of what the line is counted on, and of nothing else. */
function perUnit(
  amountText: string,
  figureText: string,
  unitText: string,
  input: RateInput,
  what: string,
): Outcome<Rate> {
  const text = input.text.trim();
  const per = PER[input.scaleBy];
  const named = unitText.toLowerCase().replace(/s$/, '');
  const unit = unitKey(unitText) ?? named;
  if (!per.units.includes(unit))
    return refuse(
      'quantity.unknownUnit',
      `“${text}” was given, and ${what} is counted ${per.words}. Type it so, or choose at the line what it is counted on.`,
      { facts: { unit: unitText } },
    );
  const many = figureText === '' ? accept(1) : parseNumber({ text: figureText, decimalMark: input.decimalMark });
  if (!many.ok) return many;
  if (!(many.value > 0)) return refuse('mass.notPositive', `“${text}”: so much for nothing cannot be read.`);
  const amount = readAmount({
    text: amountText,
    defaultUnit: 'g',
    nationality: input.nationality,
    decimalMark: input.decimalMark,
  });
  if (!amount.ok) return amount;
  const grams = gramsOf(amount.value, input, what);
  if (!grams.ok) return grams;
  const base = many.value * (unit === 'g' || unit === 'ml' ? 0.001 : 1);
  return BY_FRACTION.has(input.scaleBy)
    ? positive(
        grams.value / base / 1000,
        text,
        `${round(grams.value / base)} g ${per.words.replace(' of produce', '')}`,
      )
    : positive(grams.value / base, text, `${round(grams.value / base)} g`);
}

function gramsOf(amount: Amount, input: RateInput, what: string): Outcome<number> {
  if (amount.measures === 'mass') return accept(amount.least);
  if (amount.measures === 'pieces') {
    if (!input.pieceGrams)
      return refuse(
        'quantity.unitMissing',
        `Nobody has said what one piece of ${what} weighs. Weigh a few, enter it with the material, or type grams.`,
      );
    return accept(amount.count * input.pieceGrams);
  }
  if (!input.gramsPerMl)
    return refuse(
      'mass.volumeOfSolid',
      `“${input.text.trim()}” is a volume, and how much a volume of ${what} weighs depends on its grain. Weigh it once, or enter its density with the material.`,
    );
  if (amount.most - amount.least > 1e-6)
    return refuse('quantity.spread', `${spreadWords(amount.unit)} Say which country’s it is, or type grams.`, {
      facts: { leastMl: amount.least, mostMl: amount.most },
    });
  return accept(amount.least * input.gramsPerMl);
}

const positive = (amount: number, text: string, understood: string): Outcome<Rate> =>
  amount > 0
    ? accept({ amount, understood })
    : refuse(
        'mass.notPositive',
        `“${text}” was given. An amount is more than zero; leave the line out, or leave it open.`,
      );

const round = (value: number): string => String(Number(value.toPrecision(4)));

import { accept, refuse, type Outcome } from '../refusal.js';
import { KITCHEN_UNITS, NATIONALITIES, PLAIN_UNITS, unitKey, type Nationality } from './measures.js';
import type { DecimalMark } from './parseNumber.js';
import { scanNumber, scanRange, scanSum, scanUnit } from './scan.js';

/** One figure with its unit: "2 lb" of "2 lb 3 oz". */
export interface AmountTerm {
  readonly count: number;
  /** The unit, or the name of the piece, as written. */
  readonly unit: string;
  /** Its key; null for pieces. */
  readonly key: string | null;
}

/** An amount as a recipe writes it. Mass in grams, volume in mL, pieces as a count. */
export interface Amount {
  readonly measures: 'mass' | 'volume' | 'pieces';
  readonly terms: readonly AmountTerm[];
  /** Of the first term. */
  readonly count: number;
  readonly unit: string;
  /** Volumes of unknown nationality lie between the two. */
  readonly least: number;
  readonly most: number;
  /** Words after the amount: "500 g turnips, peeled" leaves "turnips, peeled". Empty unless `words` were allowed. */
  readonly rest: string;
}

export interface AmountInput {
  readonly text: string;
  readonly nationality?: Nationality | null;
  readonly decimalMark?: DecimalMark;
  /** Unit of a bare number. */
  readonly defaultUnit?: string;
  /** Words may follow, as in a line of a recipe. Otherwise what is not read is refused. */
  readonly words?: boolean;
}

const PIECES =
  /^(pieces?|cloves?|leaf|leaves|sprigs?|heads?|bunch(?:es)?|knobs?|bulbs?|berries|pods?|stalks?|slices?|bay|corns?|peppercorns?|kopf|köpfe|zehen?|bund|bünde|knollen?|zweige?|blatt|blätter|stück|stangen?|scheiben?|gousses?|têtes?|bottes?|feuilles?|brins?)(?![\p{L}])/iu;

/**
 * The one reader of amounts, for every field, file and line of a recipe: "¾ cup", "12 500 g", "2 lb 3 oz",
 * "1/4 cup plus 2 tablespoons", "12 cloves". It reads the whole text or refuses it; nothing is dropped, nothing is
 * invented. A range, a letter that may be a spoon or a tonne, "a handful" and an amount without a unit are refused
 * in words that say what to type. Source: handbook 2.5, 2.8, 7.
 * @example readAmount({ text: '3 quarts', nationality: 'us' }) //=> { ok: true, value: { measures: 'volume', least: 2839.059, … } }
 */
export function readAmount(input: AmountInput): Outcome<Amount> {
  const text = input.text.trim();
  const first = scanTerm(text, 0, input);
  if (!first)
    return refuse(
      'quantity.unreadable',
      text === ''
        ? 'No amount is given.'
        : `“${text}” names no figure. It stays open until somebody weighs it: type grams.`,
    );
  if (!first.ok) return first;
  const terms = [first.value.term];
  let { end } = first.value;
  for (;;) {
    const range = scanRange(text, end, input.decimalMark);
    if (range)
      return refuse(
        'quantity.range',
        `“${text}” is a range. A batch needs one figure: weigh it once and type the grams.`,
        { facts: { rest: restAfter(text, range.end, input) } },
      );
    const more = nextTerm(text, end, terms, input);
    if (!more) break;
    if (!more.ok) return more;
    terms.push(more.value.term);
    end = more.value.end;
  }
  const rest = text.slice(end).trim();
  if (rest !== '' && !input.words)
    return refuse(
      'quantity.unreadable',
      `“${text}”: “${rest}” after it cannot be read as part of the amount. Type figures and a unit, such as 850 g or 2 lb 3 oz.`,
    );
  if (/^(per\b|\/)/i.test(rest))
    return refuse(
      'quantity.unreadable',
      `“${text}” is an amount for each of something. It stays open until somebody says of how much: type grams.`,
    );
  return summed(text, terms, rest.replace(/^of\s+/i, ''), input.nationality ?? null);
}

interface Scanned {
  readonly term: AmountTerm;
  readonly end: number;
}

/** A figure and its unit from here on; null where no figure stands. */
function scanTerm(text: string, at: number, input: AmountInput): Outcome<Scanned> | null {
  const number = scanNumber(text, at, input.decimalMark);
  if (!number) return null;
  if (!number.ok) return number;
  const { value: count, end } = number.value;
  if (count <= 0)
    return refuse(
      'mass.notPositive',
      `“${text}”: an amount is more than zero; to take something out, record it as a loss or a correction.`,
    );
  // A range says so before its unit does: "1000-500 g".
  const range = scanRange(text, end, input.decimalMark);
  if (range)
    return refuse(
      'quantity.range',
      `“${text}” is a range. A batch needs one figure: weigh it once and type the grams.`,
      { facts: { rest: restAfter(text, range.end, input) } },
    );
  const unit = scanUnit(text, end);
  if (unit && /^t\.?$/i.test(unit.word))
    return refuse(
      'quantity.ambiguous',
      `“${count} ${unit.word}” could be spoons or tonnes. Type ${count} tbsp, ${count} tsp or ${count} tonnes.`,
    );
  const key = unit ? unitKey(unit.word) : undefined;
  if (unit && key !== undefined) return accept({ term: { count, unit: unit.word, key }, end: unit.end });
  const tail = text.slice(end).trimStart();
  const piece = PIECES.exec(tail);
  if (piece)
    return accept({
      term: { count, unit: piece[1]!.toLowerCase(), key: null },
      end: text.length - tail.length + piece[0].length,
    });
  if (tail === '' && input.defaultUnit !== undefined)
    return accept({ term: { count, unit: input.defaultUnit, key: unitKey(input.defaultUnit)! }, end: text.length });
  const says =
    tail === ''
      ? 'has no unit. Type g, kg, mL, L or a kitchen measure after it.'
      : /^\d/.test(tail)
        ? 'has two figures side by side. Type one figure, or a unit after each.'
        : 'has no unit known here. Use g, kg, oz, lb, mL, L, a kitchen measure, or pieces.';
  return refuse(
    unit && !input.words && !/^\d/.test(tail) ? 'quantity.unknownUnit' : 'quantity.unitMissing',
    `“${text}” ${says}`,
    { facts: { count, tail } },
  );
}

/** "3 oz" after "2 lb", "plus 2 tablespoons": a smaller unit of the same measure, or said to be added. */
function nextTerm(text: string, at: number, terms: readonly AmountTerm[], input: AmountInput): Outcome<Scanned> | null {
  const sum = scanSum(text, at);
  const more = scanTerm(text, sum.end, { ...input, defaultUnit: undefined });
  if (!more) return null;
  // In a line of a recipe a second figure may belong to its words: "500 g turnips" never, "500 g and 2 carrots" does.
  if (!more.ok) return input.words && more.refusal.code === 'quantity.unitMissing' ? null : more;
  const [last, next] = [sizeOf(terms.at(-1)!), sizeOf(more.value.term)];
  if (!last || !next || last.measures !== next.measures)
    return input.words
      ? null
      : refuse(
          'quantity.unreadable',
          `“${text}” adds things that are not measured alike. Type them as one mass or one volume.`,
        );
  if (!sum.said && next.most >= last.least)
    return refuse(
      'quantity.unreadable',
      `“${text}” has two amounts side by side. Type + between them if they are added.`,
    );
  return more;
}

function sizeOf({ key }: AmountTerm): { measures: 'mass' | 'volume'; least: number; most: number } | null {
  if (key === null) return null;
  const plain = PLAIN_UNITS[key];
  if (plain) return { measures: plain.measures, least: plain.inBase, most: plain.inBase };
  const sizes = Object.values(KITCHEN_UNITS[key]!);
  return { measures: 'volume', least: Math.min(...sizes), most: Math.max(...sizes) };
}

/** The sum of the terms; of an unknown nation, the whole spread, one nation at a time. */
function summed(
  text: string,
  terms: readonly AmountTerm[],
  rest: string,
  nationality: Nationality | null,
): Outcome<Amount> {
  const [{ count, unit, key }] = terms as [AmountTerm];
  if (key === null) return accept({ measures: 'pieces', terms, count, unit, least: count, most: count, rest });
  const sums = (nationality ? [nationality] : NATIONALITIES)
    .map((nation) =>
      terms.reduce(
        (sum, term) => sum + term.count * (PLAIN_UNITS[term.key!]?.inBase ?? KITCHEN_UNITS[term.key!]![nation] ?? NaN),
        0,
      ),
    )
    .filter((sum) => !Number.isNaN(sum));
  if (sums.length === 0)
    return refuse(
      'quantity.unknownUnit',
      `No ${nationality ?? 'nation'} has all the measures of “${text}”. Say which country’s they are.`,
    );
  return accept({
    measures: sizeOf(terms[0]!)!.measures,
    terms,
    count,
    unit,
    least: Math.min(...sums),
    most: Math.max(...sums),
    rest,
  });
}

/** What a range is of, where a name follows it. */
function restAfter(text: string, at: number, input: AmountInput): string {
  const unit = scanUnit(text, at);
  return input.words
    ? text
        .slice(unit && unitKey(unit.word) ? unit.end : at)
        .trim()
        .replace(/^of\s+/i, '')
    : '';
}

import type { SaltBasis } from '../salt/index.js';
import { firstOf, shownText } from '../typing/index.js';
import type { DecimalMark } from '../units/parseNumber.js';
import { readAmount } from '../units/readAmount.js';

/** What a line of a recipe is. Whoever reads it has the last word. */
export const LINE_ROLES = ['produce', 'salt', 'water', 'brine', 'starter', 'line', 'packaging', 'step'] as const;
export type LineRole = (typeof LINE_ROLES)[number];

export interface ReadLine {
  readonly written: string;
  readonly name: string;
  /** The amount's own words, ready for the editor; null where none can be weighed. */
  readonly amount: string | null;
  readonly role: LineRole;
  /** Why it is a hole. */
  readonly mark: string | null;
  /** What the reader is not sure of, put as a question; null: it is sure. */
  readonly asked: string | null;
  /** Of salt that is said as a share: of what, where that is said. */
  readonly basis?: SaltBasis | null;
}

export interface LineContext {
  readonly decimalMark?: DecimalMark;
  /** Below a heading such as "Method": what stands there is done, not weighed. */
  readonly isMethod?: boolean;
}

/** A dash is a bullet before a blank only: "-2 g" may be a slip, and is asked about. */
const BULLET = /^(?:[*•·▪◦‣✓☐□→>]+|[-–—]+(?=\s)|\d{1,2}[.)](?=\s*\p{L}))\s*/u;
const PICTURES = /\p{Extended_Pictographic}|\p{Emoji_Modifier}|\u{FE0F}|\u{200D}/gu;
const PIECE = 'heads?|bunch(?:es)?|bulbs?|cloves?|sprigs?|stalks?|leaf|leaves|pods?|slices?|knobs?|pieces?';
const SIZES = '(?:small|medium(?:-sized)?|large|big|good|nice|whole)';
const VERBS =
  /^(?:(?:then|now|first|next|finally|let|after)\b[ ,]*)?(?:add|blend|bring|boil|burp|check|chill|chop|close|combine|cook|cool|cover|crush|cut|dissolve|drain|fill|ferment|grate|grind|heat|keep|leave|let|mash|massage|mix|move|pack|peel|place|pour|press|prick|put|refrigerate|rest|rinse|rub|salt and|seal|shred|simmer|skim|slice|soak|squeeze|stand|stir|store|strain|submerge|taste|toss|top up|trim|turn|wait|wash|weigh|whisk|wipe)\b/i;

/**
 * One line as a notebook has it: "7 tablespoons fine salt", "salt 2.5% of cabbage", "1 bunch lovage", "• ½ cup vinegar",
 * "rest 20 min". What it is not sure of it asks; an amount nobody stated stays a hole. Source: handbook 2.5, 7.
 * @example readLine('salt 2.5% of cabbage') //=> { role: 'salt', amount: '2.5 %', basis: 'ofVegetable', … }
 */
export function readLine(written: string, context: LineContext = {}): ReadLine {
  const shown = firstOf(shownText(written).replace(/\t+/g, ' ').trim(), 300);
  const text = plainOf(shown);
  if (context.isMethod) return step(shown, text);
  const weighed = weighedBehind(shown, text);
  if (weighed) return weighed;
  const share = shareOf(shown, text);
  if (share) return share;
  const behind = amountBehind(shown, text, context.decimalMark);
  if (behind) return behind;
  const amount = readAmount({
    text,
    words: true,
    ...(context.decimalMark ? { decimalMark: context.decimalMark } : {}),
  });
  if (!amount.ok && VERBS.test(text)) return step(shown, text);
  if (amount.ok) {
    const rest = amount.value.rest.replace(/^[,.;]\s*/, '');
    const said = text
      .slice(0, text.length - amount.value.rest.length)
      .replace(/\s+of\s*$/i, '')
      .trim();
    return named(shown, { name: rest || text, amount: said, mark: null, isVolume: amount.value.measures === 'volume' });
  }
  const counted = countedOf(shown, amount.refusal);
  if (counted) return counted;
  const after = amount.refusal.facts?.['rest'];
  const bare =
    typeof after === 'string' && after !== ''
      ? after
      : /^(?:[\d.,\s/¼½¾⅓⅔⅛–-]|\bto\b|\bor\b)*(.*)$/i
          .exec(text)![1]!
          .replace(/^(a|some)\s+(handful|pinch|bit|few)s?\s*(of)?\s*/i, '')
          .trim();
  return named(shown, { name: bare || text, amount: null, mark: amount.refusal.message, isVolume: false });
}

/** Lines of a notebook. Headings are no lines; below "Method" everything is done. */
export function readNotebook(text: string, context: LineContext = {}): ReadLine[] {
  let isMethod = false;
  return text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean)
    .flatMap((line) => {
      const heading = /^[#*\s]*([\p{L} ]{3,40}?)\s*:?\s*[*]*$/u.exec(line)?.[1]?.toLowerCase();
      const isHeading =
        /:\s*[*]*$/.test(line) ||
        line.startsWith('#') ||
        /^(ingredients|zutaten|ingrédients|method|directions|instructions|steps|preparation|zubereitung|préparation)$/.test(
          heading ?? '',
        );
      if (isHeading && heading) {
        isMethod = /^(method|directions|instructions|steps|preparation|zubereitung|préparation|what to do|how)/.test(
          heading,
        );
        return [];
      }
      return (isMethod ? [line] : partsOf(line, context)).map((one) => readLine(one, { ...context, isMethod }));
    })
    .slice(0, MOST_NOTEBOOK_LINES);
}

/** "fennel 1.5 kg, apple 500 g": two things that are each weighed or measured are two lines. */
function partsOf(line: string, context: LineContext): string[] {
  const parts = line.split(/(?:,|;|\+|&)\s+(?=\S)/);
  const isWhole = (part: string): boolean => {
    const read = readLine(part, context);
    const amount = read.amount === null ? null : readAmount({ text: read.amount });
    return amount !== null && amount.ok && amount.value.measures !== 'pieces' && /\p{L}{3}/u.test(read.name);
  };
  return parts.length > 1 && parts.every(isWhole) ? parts : [line];
}

/** A recipe, not a book. */
export const MOST_NOTEBOOK_LINES = 120;

/**
 * Without bullets, numbers of steps and pictures; "a medium head" is one head. Nobody weighs thousandths of a gram into
 * a crock: "1,180 g" and "1.180 g" are thousands, whatever the house's mark.
 */
function plainOf(shown: string): string {
  return shown
    .replace(PICTURES, '')
    .trim()
    .replace(BULLET, '')
    .replace(/\bc(?:uill[eè]res?|\.)?\s*à\s*s(?:oupe|\.)?(?=\s|$)/giu, 'tbsp')
    .replace(/\bc(?:uill[eè]res?|\.)?\s*à\s*c(?:afé|\.)?(?=\s|$)/giu, 'tsp')
    .replace(/(\d{1,3})[.,](\d{3})(?=\s*(?:g|grams?|ml)\b)/gi, '$1$2')
    .replace(new RegExp(`^(?:an?|one)\\s+(?:${SIZES}\\s+)?(?=(?:${PIECE})\\b)`, 'i'), '1 ')
    .replace(new RegExp(`^(\\d+)\\s+${SIZES}\\s+(?=(?:${PIECE})\\b)`, 'i'), '$1 ')
    .trim();
}

/** "2 heads cabbage, 3.2 kg", "cabbage (about 3 lb)": what was weighed goes before what was counted. */
function weighedBehind(shown: string, text: string): ReadLine | null {
  const found =
    /^(.*\p{L}.*?)(?:,\s+|\s*\()(about |ca\.? ?|circa |environ |roughly |~ ?)?(\d[\d.,]*\s*(?:kg|g|lbs?|oz))\)?$/iu.exec(
      text,
    );
  if (!found) return null;
  const [, before, roughly, amount] = found as unknown as [string, string, string | undefined, string];
  const counted = readAmount({ text: before.trim(), words: true });
  if (counted.ok && counted.value.measures !== 'pieces') return null;
  const name = (counted.ok ? counted.value.rest : before.replace(/^[\d\s.,/–-]+/, '')).trim();
  return line(shown, {
    name,
    amount: amount.trim(),
    role: roleOf(name),
    asked: roughly ? `About ${amount.trim()}, it says: weigh it once.` : null,
  });
}

/** So many of something are counted; more without a unit may be grams that lost theirs. */
const MOST_COUNTED = 20;

/** "3 bay leaves", "2 grape leaf": a small whole figure before a name counts the thing itself. */
function countedOf(shown: string, refusal: { readonly facts?: Readonly<Record<string, unknown>> }): ReadLine | null {
  const { count, tail } = refusal.facts ?? {};
  if (typeof count !== 'number' || typeof tail !== 'string') return null;
  if (!Number.isInteger(count) || count > MOST_COUNTED || !/^\p{L}{2}/u.test(tail)) return null;
  const role = roleOf(tail);
  return role === 'line' || role === 'packaging' ? line(shown, { name: tail, amount: `${count} pieces`, role }) : null;
}

/** "salt 35 g", "Dill, 1 bunch", "bay leaves 4": what stands behind a name that begins the line. */
function amountBehind(shown: string, text: string, decimalMark: DecimalMark | undefined): ReadLine | null {
  const found = /^(\p{L}[^\d¼½¾⅓⅔]*?)[\s,:–-]+\(?(?:(about|ca\.?|circa|environ|roughly)\s+)?([\d¼½¾⅓⅔].*?)\)?$/iu.exec(
    text,
  );
  if (!found) return null;
  const [, name, roughly, amount] = found as unknown as [string, string, string | undefined, string];
  if (VERBS.test(text)) return null;
  const role = roleOf(name);
  const bare = /^\d{1,2}$/.test(amount) && Number(amount) <= MOST_COUNTED && (role === 'line' || role === 'packaging');
  const read = readAmount({ text: amount, ...(decimalMark ? { decimalMark } : {}) });
  if (!read.ok && !bare) return null;
  const one = named(shown, {
    name,
    amount: bare ? `${amount} pieces` : amount,
    mark: null,
    isVolume: read.ok && read.value.measures === 'volume',
  });
  return roughly ? { ...one, asked: one.asked ?? `About ${amount}, it says: weigh it once.` } : one;
}

/** "2 % salt", "salt 2.5% of cabbage", "3% ginger": a share, and of what where that is said. */
function shareOf(shown: string, text: string): ReadLine | null {
  const found = /(\d+(?:[.,]\d+)?)\s*(?:%|per ?cent\b)/i.exec(text);
  if (!found) return null;
  const others = `${text.slice(0, found.index)} ${text.slice(found.index + found[0].length)}`
    .replace(/\s+/g, ' ')
    .trim();
  const of = /\b(?:of|by|on|to)\s+(?:the\s+)?(.+)$/i.exec(others);
  const name = (of ? others.slice(0, of.index) : others)
    .replace(/[:,;=–-]\s*$/, '')
    .replace(/^[:,;=–-]\s*/, '')
    .trim();
  const amount = `${found[1]} %`;
  if (/\bbrine\b/i.test(name) && !isKeptBrine(name))
    return {
      ...line(shown, { name: 'salt', amount, role: 'salt' }),
      basis: null,
      asked: `A brine of ${amount}: of its water, or of the whole brine? And how much of it is poured?`,
    };
  if (roleOf(name) !== 'salt') return name === '' ? null : line(shown, { name, amount, role: roleOf(name) });
  const basis = of ? basisOf(of[1]!) : null;
  return {
    ...line(shown, { name, amount, role: 'salt' }),
    basis,
    asked: basis ? null : `${amount} of what: of the produce, of the water, or of everything?`,
  };
}

function basisOf(words: string): SaltBasis | null {
  if (/^(?:weight|mass)$/i.test(words.trim())) return null;
  if (/everything|total|all\b|and (?:the )?water|(?:weight|mass) of (?:it )?all/i.test(words)) return 'ofEverything';
  if (/^(?:the )?(?:water|brine)\b/i.test(words)) return 'ofWater';
  return 'ofVegetable';
}

function named(
  shown: string,
  of: { name: string; amount: string | null; mark: string | null; isVolume: boolean },
): ReadLine {
  const role = roleOf(of.name);
  const asked =
    role === 'salt' && of.isVolume
      ? 'Salt by the spoon: one weighs 9 to 20 g, by the salt and whose spoon it is. Weigh it once.'
      : role === 'brine'
        ? 'Kept brine: which vessel it comes from is asked when the batch is made.'
        : null;
  return line(shown, { name: of.name, amount: of.amount, role, mark: of.mark, asked });
}

function step(shown: string, text: string): ReadLine {
  return line(shown, { name: text, amount: null, role: 'step' });
}

const line = (
  written: string,
  of: { name: string; amount: string | null; role: LineRole; mark?: string | null; asked?: string | null },
): ReadLine => ({
  written,
  name: of.role === 'step' ? of.name : tidy(of.name),
  amount: of.amount,
  role: of.role,
  // Jars and lids are counted at packing.
  mark: of.role === 'packaging' ? null : (of.mark ?? null),
  asked: of.asked ?? null,
});

/** How it is prepared, behind its name: the line's own words keep it. */
const PREPARED =
  /,\s*(?:peeled|cut|sliced|chopped|shredded|grated|washed|whole|halved|quartered|minced|crushed|cored|diced|cubed|finely|roughly|thinly|coarsely|cleaned|pitted|seeded)\b.*$/i;

const tidy = (name: string): string =>
  firstOf(
    name
      .replace(/\s*\((?:to taste|as needed|optional)\)\.?$/i, '')
      .replace(PREPARED, '')
      .replace(/,?\s*(to taste|as needed|optional)\.?$/i, '')
      .replace(/\s*\(amount not given\)$/i, '')
      .replace(/^of\s+/i, '')
      .trim(),
    120,
  ) || firstOf(name, 120);

const isKeptBrine = (name: string): boolean =>
  /\b(?:old|kept|last|previous|left-?over|saved)\b.*\bbrine\b|\bbrine\b.*\b(?:last|previous|earlier|old|kept|other)\b/i.test(
    name,
  );

function roleOf(name: string): LineRole {
  if (isKeptBrine(name)) return 'brine';
  if (
    /\b(?:(?:sea |table |rock |flake |fine |coarse |kosher |pickling )*salt|(?:meer|stein|tafel)?salz|(?:gros )?sel)\b/i.test(
      name,
    ) &&
    !/salted|salt cod/i.test(name)
  )
    return 'salt';
  if (/^\W*(?:(?:cold |filtered |tap |spring |boiled |cooled |warm )*water|wasser|eau)\b/i.test(name)) return 'water';
  if (/\b(?:starter|whey|kefir grains?|live culture|starter culture)\b/i.test(name)) return 'starter';
  if (/^(?:\d+ ?(?:ml|l) )?(?:glass )?(?:jars?|lids?|bottles?|crocks?|airlocks?|labels?|caps?)\b/i.test(name))
    return 'packaging';
  return 'line';
}

/** What a step says of time and warmth: minutes it waits, days it stands, °C from and to. Nothing that is not said. */
export interface StepSays {
  readonly minutes: number | null;
  readonly days: { readonly from: number; readonly to: number } | null;
  readonly celsius: { readonly least: number; readonly most: number } | null;
}

/**
 * @example readStep('Ferment 3 weeks at 16-18 °C') //=> { minutes: null, days: { from: 21, to: 21 }, celsius: { least: 16, most: 18 } }
 */
export function readStep(words: string): StepSays {
  const number = '(\\d+(?:[.,]\\d+)?)(?:\\s*(?:-|–|to)\\s*(\\d+(?:[.,]\\d+)?))?\\s*';
  const span = (unit: string): [number, number] | null => {
    const found = new RegExp(`${number}(?:${unit})\\b`, 'i').exec(words);
    if (!found) return null;
    const from = Number(found[1]!.replace(',', '.'));
    return [from, found[2] === undefined ? from : Number(found[2].replace(',', '.'))];
  };
  const minutes = span('min(?:ute)?s?');
  const hours = span('h(?:ou)?rs?|h');
  const [days, weeks, months] = [span('days?'), span('weeks?'), span('months?')];
  const long = days ?? weeks?.map((many) => many * 7) ?? months?.map((many) => many * 30) ?? null;
  const degrees = new RegExp(`${number}(?:°\\s*|deg(?:rees)?\\s*)([CF])?\\b`, 'i').exec(words);
  const celsius = (text: string): number => {
    const value = Number(text.replace(',', '.'));
    return degrees?.[3]?.toUpperCase() === 'F' ? Math.round(((value - 32) * 50) / 9) / 10 : value;
  };
  // "20-30 min" is no one time: a timer of either would be invented.
  const one = (of: [number, number] | null): number | null => (of && of[0] === of[1] ? of[0] : null);
  const waits = one(minutes) ?? (one(hours) === null ? null : one(hours)! * 60);
  return {
    minutes: waits,
    days: long ? { from: long[0]!, to: long[1]! } : null,
    celsius: degrees ? { least: celsius(degrees[1]!), most: celsius(degrees[2] ?? degrees[1]!) } : null,
  };
}

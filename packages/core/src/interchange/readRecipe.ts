import { accept, refuse, type Outcome } from '../refusal.js';
import { firstOf, shownText } from '../typing/index.js';
import { readAmount } from '../units/readAmount.js';

/** A recipe from elsewhere, with its own words. Nothing is invented: what is not said is a mark. */
export interface ReadRecipe {
  readonly name: string;
  readonly lines: readonly ReadLine[];
  readonly steps: readonly string[];
  readonly note: string | null;
  readonly marks: readonly string[];
}

export interface ReadLine {
  readonly written: string;
  readonly name: string;
  /** The amount's own words, ready for the editor; null where none can be weighed. */
  readonly amount: string | null;
  readonly role: 'produce' | 'salt' | 'water' | 'line';
  /** Why it is a hole. */
  readonly mark: string | null;
}

/** Files are formulas, not films. */
export const MOST_FILE_BYTES = 2_000_000;

/** Refuses a file too large to be formulas before a byte of it is read. */
export function checkFile(input: { name: string; bytes: number }): Outcome<void> {
  if (input.bytes <= MOST_FILE_BYTES) return accept(undefined);
  return refuse(
    'file.tooLarge',
    `${input.name} has ${(input.bytes / 1_000_000).toFixed(1)} MB. Formulas are text: up to 2 MB is read. Nothing was changed.`,
    { field: 'file', facts: { bytes: input.bytes } },
  );
}
const MOST_LINES = 60;

/**
 * schema.org Recipe as JSON-LD (also inside @graph or a list): name, ingredients, instructions.
 * Amounts are parsed; what names no figure, a range or no unit is kept as a hole with its words.
 * Text is taken as text: markup in it stays visible and does nothing.
 */
export function readRecipe(json: unknown): Outcome<ReadRecipe> {
  const recipe = findRecipe(json);
  if (!recipe)
    return refuse(
      'file.unreadable',
      'This file holds no recipe: neither a Clear Tally formula nor a schema.org Recipe was found in it. Nothing was changed.',
    );
  const marks: string[] = [];
  const name = textOf(recipe['name']);
  if (!name) marks.push('The recipe has no name.');
  const ingredients = list(recipe['recipeIngredient'] ?? recipe['ingredients'])
    .map(textOf)
    .filter((text): text is string => text !== null);
  if (ingredients.length === 0) marks.push('The recipe names no ingredients.');
  if (ingredients.length > MOST_LINES)
    marks.push(`Only the first ${MOST_LINES} of ${ingredients.length} ingredients are taken in.`);
  return accept({
    name: name ?? '',
    lines: ingredients.slice(0, MOST_LINES).map(readLine),
    steps: stepsOf(recipe['recipeInstructions']).slice(0, MOST_LINES),
    note: textOf(recipe['description']),
    marks,
  });
}

/** One ingredient line: "7 tablespoons fine salt", "turnips, a handful". */
export function readLine(written: string): ReadLine {
  const text = firstOf(shownText(written).trim(), 300);
  const amount = readAmount({ text, words: true });
  const rest = amount.ok ? amount.value.rest.replace(/^[,.;]\s*/, '') : text;
  const name = rest || text;
  const role = roleOf(name);
  if (amount.ok)
    return {
      written: text,
      name: tidy(name),
      amount: text
        .slice(0, text.length - amount.value.rest.length)
        .replace(/\s+of\s*$/i, '')
        .trim(),
      role,
      mark: null,
    };
  const after = amount.refusal.facts?.['rest'];
  const bare =
    typeof after === 'string' && after !== ''
      ? after
      : /^(?:[\d.,\s/¼½¾⅓⅔⅛–-]|\bto\b|\bor\b)*(.*)$/i
          .exec(text)![1]!
          .replace(/^(a|some)\s+(handful|pinch|bit|few)s?\s*(of)?\s*/i, '')
          .trim();
  return {
    written: text,
    name: tidy(bare || text),
    amount: null,
    role: roleOf(bare || text),
    mark: amount.refusal.message,
  };
}

const tidy = (name: string): string =>
  firstOf(
    name
      .replace(/,?\s*(to taste|as needed|optional)\.?$/i, '')
      .replace(/\s*\(amount not given\)$/i, '')
      .trim(),
    120,
  ) || firstOf(name, 120);

function roleOf(name: string): ReadLine['role'] {
  if (
    /\b(?:sea |table |rock |flake |fine |coarse |kosher |pickling )*salt\b/i.test(name) &&
    !/salted|salt cod/i.test(name)
  )
    return 'salt';
  if (/^\W*(?:cold |filtered |tap |spring |boiled |cooled )*water\b/i.test(name)) return 'water';
  return 'line';
}

function findRecipe(json: unknown, depth = 0): Record<string, unknown> | null {
  if (depth > 6 || json === null || typeof json !== 'object') return null;
  if (Array.isArray(json)) {
    for (const item of json.slice(0, 200)) {
      const found = findRecipe(item, depth + 1);
      if (found) return found;
    }
    return null;
  }
  const record = json as Record<string, unknown>;
  if (list(record['@type']).some((type) => type === 'Recipe' || type === 'https://schema.org/Recipe')) return record;
  return findRecipe(record['@graph'], depth + 1) ?? findRecipe(record['mainEntity'], depth + 1);
}

const list = (value: unknown): unknown[] =>
  Array.isArray(value) ? value : value === undefined || value === null ? [] : [value];

function textOf(value: unknown): string | null {
  if (typeof value === 'number') return String(value);
  if (typeof value !== 'string') return null;
  const text = firstOf(shownText(value).trim(), 1000);
  return text === '' ? null : text;
}

function stepsOf(value: unknown): string[] {
  return list(value).flatMap((step): string[] => {
    if (typeof step === 'string')
      return step
        .split(/\n+/)
        .map((line) => line.trim())
        .filter(Boolean);
    if (step === null || typeof step !== 'object') return [];
    const record = step as Record<string, unknown>;
    if (record['itemListElement'] !== undefined) return stepsOf(record['itemListElement']);
    const text = textOf(record['text']) ?? textOf(record['name']);
    return text ? [text] : [];
  });
}

import { accept, refuse, type Outcome } from '../refusal.js';
import { firstOf, shownText } from '../typing/index.js';
import { type ReadLine, readLine } from './readLine.js';

/** A recipe from elsewhere, with its own words. Nothing is invented: what is not said is a mark. */
export interface ReadRecipe {
  readonly name: string;
  readonly lines: readonly ReadLine[];
  readonly steps: readonly string[];
  readonly note: string | null;
  readonly marks: readonly string[];
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
    lines: ingredients.slice(0, MOST_LINES).map((text) => readLine(text)),
    steps: stepsOf(recipe['recipeInstructions']).slice(0, MOST_LINES),
    note: textOf(recipe['description']),
    marks,
  });
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

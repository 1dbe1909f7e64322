import type { ScaledBatch } from '../scaling/scaleFormula.js';

/**
 * A scaled formula as a schema.org Recipe (JSON-LD). Holes are written as such, so that nobody downstream
 * takes silence for nought. The way back of `readRecipe` for everything that has grams.
 */
export function writeRecipe(input: {
  name: string;
  note: string | null;
  steps: readonly string[];
  scaled: ScaledBatch;
  yieldWords: string;
  saltName: string;
  waterName: string;
}): Record<string, unknown> {
  const { scaled } = input;
  return {
    '@context': 'https://schema.org',
    '@type': 'Recipe',
    name: input.name,
    ...(input.note ? { description: input.note } : {}),
    recipeYield: input.yieldWords,
    recipeIngredient: scaled.lines.map((line) => {
      const name =
        line.role === 'salt'
          ? input.saltName
          : line.role === 'water'
            ? input.waterName
            : line.name.replace(/, trimmed$/, '');
      const trimmed = line.role === 'produce' ? ', trimmed' : '';
      return line.grams === null ? `${name} (amount not given)` : `${plain(line.grams)} ${name}${trimmed}`;
    }),
    recipeInstructions: input.steps.map((text) => ({ '@type': 'HowToStep', text })),
  };
}

/** "1386 g": no thousands mark, which another reader could take for a decimal one. */
const plain = (grams: number): string => `${grams < 10 ? Number(grams.toFixed(2)) : Math.round(grams)} g`;

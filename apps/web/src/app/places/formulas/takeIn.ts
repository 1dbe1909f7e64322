import { firstOf, shownText, type Outcome, type ReadRecipe } from '@clear-tally/core';
import type { FileFormula, FileMaterial } from '@clear-tally/contract';

/** One formula found in a file, sound or marked. */
export interface TakenIn {
  readonly name: string;
  readonly formula: FileFormula | null;
  readonly recipe: ReadRecipe | null;
  readonly materials: readonly FileMaterial[];
  readonly marks: readonly string[];
  /** Whether there is enough of it to open in the editor. */
  readonly open: boolean;
}

interface Issue {
  readonly path: readonly PropertyKey[];
  readonly message: string;
}
type Checked<T> = { success: true; data: T } | { success: false; error: { issues: readonly Issue[] } };
interface Readers {
  readonly fileFormula: { safeParse(value: unknown): unknown };
  readonly fileMaterial: { safeParse(value: unknown): unknown };
  readonly format: string;
  readonly readRecipe: (json: unknown) => Outcome<ReadRecipe>;
}

/**
 * What a file holds. Each formula is read on its own: a broken one does not take the others with it, and of a
 * broken one the lines that are sound are kept. A sentence when nothing can be read at all.
 */
export function takeIn(text: string, readers: Readers): TakenIn[] | string {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return 'This file is no JSON: it breaks off or has characters in places they do not belong. Nothing was changed. Ask for the file again, or type the recipe above.';
  }
  const file = json as { format?: unknown; formatVersion?: unknown; formulas?: unknown; materials?: unknown } | null;
  if (file === null || typeof file !== 'object' || file.format !== readers.format) {
    const recipe = readers.readRecipe(json);
    if (!recipe.ok) return recipe.refusal.message;
    const open = recipe.value.lines.filter((line) => line.mark !== null).map((line) => `${line.written}: ${line.mark}`);
    return [
      {
        name: recipe.value.name,
        formula: null,
        recipe: recipe.value,
        materials: [],
        marks: [...recipe.value.marks, ...open],
        open: recipe.value.lines.length > 0,
      },
    ];
  }
  if (file.formatVersion !== 1)
    return `This file is of version ${String(file.formatVersion).slice(0, 20)} of the format; version 1 is read here. Nothing was changed.`;
  const materials = list(file.materials).map((one) => readers.fileMaterial.safeParse(one) as Checked<FileMaterial>);
  const sound = materials.flatMap((one) => (one.success ? [one.data] : []));
  const lost = materials.length - sound.length;
  const formulas = list(file.formulas)
    .slice(0, 200)
    .map((one) => readFormula(one, readers));
  if (formulas.length === 0) return 'This file holds no formulas. Nothing was changed.';
  return formulas.map((one) => ({
    ...one,
    materials: sound.filter((material) => mentions(one.formula, material.name)),
    marks: [
      ...one.marks,
      ...(lost > 0 ? [`${lost} of the materials in the file cannot be read and are left out.`] : []),
    ],
  }));
}

function readFormula(value: unknown, readers: Readers): TakenIn {
  const whole = readers.fileFormula.safeParse(value) as Checked<FileFormula>;
  const name =
    typeof (value as { name?: unknown } | null)?.name === 'string'
      ? firstOf(shownText((value as { name: string }).name), 120)
      : '';
  if (whole.success) return { name, formula: whole.data, recipe: null, materials: [], marks: [], open: true };
  const { issues } = whole.error;
  const marks = issues
    .slice(0, 8)
    .map((issue) => `${issue.path.map(String).join(' ') || 'the formula'}: ${issue.message}`);
  // The lines at fault go, the rest is tried once more.
  const bad = new Set(
    issues
      .filter((issue) => issue.path[0] === 'lines' && typeof issue.path[1] === 'number')
      .map((issue) => issue.path[1] as number),
  );
  const record = value as { lines?: unknown } | null;
  if (bad.size > 0 && record && Array.isArray(record.lines)) {
    const kept = readers.fileFormula.safeParse({
      ...record,
      lines: record.lines.filter((_, index) => !bad.has(index)),
    }) as Checked<FileFormula>;
    if (kept.success)
      return {
        name,
        formula: kept.data,
        recipe: null,
        materials: [],
        marks: [...marks, `${bad.size} ${bad.size === 1 ? 'line is' : 'lines are'} left out; the rest is sound.`],
        open: true,
      };
  }
  return { name, formula: null, recipe: null, materials: [], marks, open: false };
}

const list = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const mentions = (formula: FileFormula | null, name: string): boolean =>
  (formula !== null && [...formula.produce, ...formula.lines].some((line) => line.material === name)) ||
  formula?.saltMaterial === name;

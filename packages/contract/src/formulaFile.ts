import { z } from 'zod';
import { formulaBody, formulaLine } from './formulas.js';
import { MATERIAL_KINDS, materialDetails } from './materials.js';
import { text } from './shape.js';

/** A formula as a file holds it: materials go by name, because ids belong to one house. */
export const fileFormula = formulaBody.omit({ produce: true, lines: true, saltMaterialId: true }).extend({
  produce: z
    .array(z.strictObject({ material: text(120), share: z.number().gt(0).max(1) }))
    .min(1)
    .max(12),
  lines: z.array(formulaLine.omit({ materialId: true }).extend({ material: text(120) })).max(60),
  saltMaterial: text(120).nullish(),
});

export const fileMaterial = z.strictObject({
  name: text(120),
  kind: z.enum(MATERIAL_KINDS),
  waterFraction: z.number().min(0).max(1),
  saltFraction: z.number().min(0).max(1),
  allergens: z.array(text(40)).max(14),
  caution: text(300).nullable(),
  details: materialDetails.optional(),
});

export const FORMULA_FORMAT = 'clear-tally/formula';

/** The open format of formulas. Masses in grams, shares and strengths as fractions; null is a hole. */
export const formulaFile = z.strictObject({
  format: z.literal(FORMULA_FORMAT),
  formatVersion: z.literal(1),
  formulas: z.array(fileFormula).max(200),
  /** What the formulas name, so that another house knows water, salt and allergens. */
  materials: z.array(fileMaterial).max(500),
});

export type FileFormula = z.infer<typeof fileFormula>;

export type FileMaterial = z.infer<typeof fileMaterial>;

export type FormulaFile = z.infer<typeof formulaFile>;

/** JSON Schema of the format, as it is published. */
export const formulaFileSchema = (): object => ({
  ...z.toJSONSchema(formulaFile, { io: 'input' }),
  $id: '/schemas/formula.json',
  title: 'Clear Tally formulas',
});

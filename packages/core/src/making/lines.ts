/** How a formula line stands on the run sheet. Source: handbook 7: weighed, ticked or left out with a reason. */
export type LineState = 'open' | 'weighed' | 'ticked' | 'leftOut';

export interface SheetLine {
  readonly key: string;
  readonly materialId: string;
  readonly name: string;
  /** Null: to taste, or counted on something not known yet. */
  readonly plannedGrams: number | null;
  readonly inGrams: number;
  readonly state: LineState;
  readonly reason: string | null;
}

/** Portions of one material settle its lines in their order; a mark of a person settles a line that is not weighed. */
export function settleLines(input: {
  planned: readonly { key: string; materialId: string; name: string; grams: number | null }[];
  weighed: readonly { line: string | null; materialId: string; grams: number }[];
  marks: Readonly<Record<string, { how: 'ticked' | 'leftOut'; reason: string | null }>>;
}): SheetLine[] {
  return input.planned.map((line): SheetLine => {
    const only = input.planned.filter((other) => other.materialId === line.materialId).length === 1;
    const inGrams = input.weighed.filter((row) => row.line === line.key || (row.line === null && only && row.materialId === line.materialId)).reduce((sum, row) => sum + row.grams, 0);
    const mark = input.marks[line.key];
    return { key: line.key, materialId: line.materialId, name: line.name, plannedGrams: line.grams, inGrams, state: inGrams > 0 ? 'weighed' : mark?.how ?? 'open', reason: inGrams > 0 ? null : mark?.reason ?? null };
  });
}

import { type LabelDesign, type LabelField } from './design.js';
import type { LabelRun } from './words.js';

/** Width of words in a size, mm, by the face they are printed in. */
export type Measure = (words: string, points: number, bold: boolean) => number;

export interface LaidText extends LabelRun {
  readonly field: LabelField;
  readonly xMm: number;
  readonly yMm: number;
  readonly points: number;
}

export interface LaidOut {
  readonly texts: readonly LaidText[];
  readonly symbol: { readonly xMm: number; readonly yMm: number; readonly mm: number } | null;
  /** Fields that do not fit any more: they stand on no label, and are said. */
  readonly over: readonly LabelField[];
}

const EDGE = 2.5;
const MM_PER_POINT = 25.4 / 72;

/** Words and spaces of runs, one after the other. */
const pieces = (runs: readonly LabelRun[]): LabelRun[] =>
  runs.flatMap(({ words, bold }) => (words.match(/\s+|[^\s]+/g) ?? []).map((word) => ({ words: word, bold })));

/**
 * Sets the fields of a design on its label, one below the other, their lines broken between words; beside the symbol
 * they are shorter. What does not fit is named and left out, never cut.
 */
export function layOut(
  design: LabelDesign,
  words: Readonly<Record<LabelField, readonly LabelRun[]>>,
  measure: Measure,
): LaidOut {
  const { widthMm, heightMm } = design.paper;
  const mm = design.symbol?.mm ?? 0;
  const symbol = design.symbol ? { xMm: widthMm - EDGE - mm, yMm: EDGE, mm } : null;
  const texts: LaidText[] = [];
  const over: LabelField[] = [];
  let y = EDGE;
  for (const { key, on, points } of design.fields) {
    const runs = words[key];
    if (!on || runs.length === 0) continue;
    const line = points * MM_PER_POINT * 1.18;
    const laid: LaidText[] = [];
    let [x, at] = [EDGE, y];
    const right = (): number => (symbol && at < symbol.yMm + mm + 0.5 ? symbol.xMm - 1 : widthMm - EDGE);
    let fits = true;
    for (const piece of pieces(runs)) {
      const wide = measure(piece.words, points, piece.bold);
      const space = /^\s/.test(piece.words);
      if (x + wide > right() + 0.01 && x > EDGE) {
        at += line;
        x = EDGE;
        if (space) continue;
      }
      if (space && x === EDGE) continue;
      if (x + wide > right() + 0.01) fits = false;
      // Words of one weight on one line are one text.
      const before = laid.at(-1);
      const on = before?.yMm === at && before.bold === piece.bold;
      if (on) laid[laid.length - 1] = { ...before, words: before.words + piece.words };
      else if (!space) laid.push({ ...piece, field: key, xMm: x, yMm: at, points });
      x += wide;
    }
    if (!fits || at + line > heightMm - EDGE + 0.2) {
      over.push(key);
      continue;
    }
    texts.push(...laid.map((text) => ({ ...text, words: text.words.trimEnd() })));
    y = at + line + 0.5;
  }
  return { texts, symbol, over };
}

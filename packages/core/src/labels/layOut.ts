import type { LabelDesign, LabelField, LabelPlace } from './design.js';
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
  /** Fields whose words lie over others, or over the symbol. */
  readonly crossed: readonly LabelField[];
}

const EDGE = 2.5;
const MM_PER_POINT = 25.4 / 72;
/** What two things on a label may come into each other without being seen, mm. */
const TOUCH = 0.3;

interface Box {
  readonly xMm: number;
  readonly yMm: number;
  readonly wide: number;
  readonly high: number;
}
const cross = (a: Box, b: Box): boolean =>
  a.xMm + a.wide > b.xMm + TOUCH &&
  b.xMm + b.wide > a.xMm + TOUCH &&
  a.yMm + a.high > b.yMm + TOUCH &&
  b.yMm + b.high > a.yMm + TOUCH;

/** Words and spaces of runs, one after the other. */
const pieces = (runs: readonly LabelRun[]): LabelRun[] =>
  runs.flatMap(({ words, bold }) => (words.match(/\s+|[^\s]+/g) ?? []).map((word) => ({ words: word, bold })));

const lineOf = (points: number): number => points * MM_PER_POINT * 1.18;

/** Lines of one field from a corner on, broken between words; `right` says where a line must end. */
function setLines(
  of: { readonly field: LabelField; readonly points: number; readonly runs: readonly LabelRun[] },
  from: { readonly xMm: number; readonly yMm: number },
  right: (yMm: number) => number,
  measure: Measure,
): { readonly laid: LaidText[]; readonly bottom: number; readonly fits: boolean } {
  const line = lineOf(of.points);
  const laid: LaidText[] = [];
  let [x, at] = [from.xMm, from.yMm];
  let fits = true;
  for (const piece of pieces(of.runs)) {
    const wide = measure(piece.words, of.points, piece.bold);
    const space = /^\s/.test(piece.words);
    if (x + wide > right(at) + 0.01 && x > from.xMm) {
      at += line;
      x = from.xMm;
      if (space) continue;
    }
    if (space && x === from.xMm) continue;
    if (x + wide > right(at) + 0.01) fits = false;
    // Words of one weight on one line are one text.
    const before = laid.at(-1);
    const on = before?.yMm === at && before.bold === piece.bold;
    if (on) laid[laid.length - 1] = { ...before, words: before.words + piece.words };
    else if (!space) laid.push({ ...piece, field: of.field, xMm: x, yMm: at, points: of.points });
    x += wide;
  }
  return { laid: laid.map((text) => ({ ...text, words: text.words.trimEnd() })), bottom: at + line, fits };
}

/**
 * Sets the fields of a design on its label: what has a place of its own stands there, the others one below the other,
 * their lines broken between words; beside the symbol they are shorter. What does not fit is named and left out, never
 * cut; what lies over something else is named.
 */
export function layOut(
  design: LabelDesign,
  words: Readonly<Record<LabelField, readonly LabelRun[]>>,
  measure: Measure,
): LaidOut {
  const { widthMm, heightMm } = design.paper;
  const mm = design.symbol?.mm ?? 0;
  const corner = design.symbol?.place ?? { xMm: widthMm - EDGE - mm, yMm: EDGE };
  const symbol = design.symbol ? { xMm: corner.xMm, yMm: corner.yMm, mm } : null;
  /** Lines that flow end where the symbol begins; one that was put into the left half they run into, and that is said. */
  const makesRoom = !design.symbol?.place || corner.xMm > widthMm / 2;
  const flowRight = (at: number): number =>
    symbol && makesRoom && at < symbol.yMm + mm + 0.5 && at + 1 > symbol.yMm ? symbol.xMm - 1 : widthMm - EDGE;
  const texts: LaidText[] = [];
  const over: LabelField[] = [];
  let y = EDGE;
  for (const { key: field, on, points, place } of design.fields) {
    const runs = words[field];
    if (!on || runs.length === 0) continue;
    const of = { field, points, runs };
    const { laid, bottom, fits } = place
      ? setLines(of, place, () => place.xMm + widthOf(place, widthMm), measure)
      : setLines(of, { xMm: EDGE, yMm: y }, flowRight, measure);
    if (!fits || bottom > heightMm - (place ? 0 : EDGE) + 0.2) {
      over.push(field);
      continue;
    }
    texts.push(...laid);
    if (!place) y = bottom + 0.5;
  }
  return { texts, symbol, over, crossed: crossedIn(design, texts, symbol, measure) };
}

/** As wide as it was drawn; never over the edge of the label. */
const widthOf = (place: LabelPlace, labelWidth: number): number =>
  Math.max(1, Math.min(place.widthMm, labelWidth - 0.5 - place.xMm));

/** Only what was put somewhere by hand can lie over anything. */
function crossedIn(
  design: LabelDesign,
  texts: readonly LaidText[],
  symbol: LaidOut['symbol'],
  measure: Measure,
): LabelField[] {
  if (!design.symbol?.place && !design.fields.some(({ on, place }) => on && place)) return [];
  const boxes = texts.map(({ field, xMm, yMm, words, points, bold }) => ({
    field,
    xMm,
    yMm,
    wide: measure(words, points, bold),
    high: lineOf(points),
  }));
  const around = symbol && { ...symbol, wide: symbol.mm, high: symbol.mm };
  const found = boxes.filter(
    (one) => (around && cross(one, around)) || boxes.some((other) => other.field !== one.field && cross(one, other)),
  );
  return [...new Set(found.map(({ field }) => field))];
}

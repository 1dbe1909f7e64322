import { accept, type Outcome, refuse } from '../refusal.js';
import { CLAIM_REASONS, labelClaims } from './claims.js';

/** What may stand on a jar, filled in from the ledger; `text` is the house's own. */
export const LABEL_FIELDS = [
  'name',
  'ingredients',
  'net',
  'drained',
  'dates',
  'storage',
  'salt',
  'code',
  'producer',
  'text',
] as const;
export type LabelField = (typeof LABEL_FIELDS)[number];
export const LABEL_FIELD_WORDS: Readonly<Record<LabelField, string>> = {
  name: 'Name',
  ingredients: 'Ingredients in order, allergens bold',
  net: 'Net mass',
  drained: 'Drained mass, estimated',
  dates: 'Packed, and until when',
  storage: 'How it is kept, live or heated',
  salt: 'Salt per 100 g',
  code: 'Code of the jar',
  producer: 'Producer',
  text: 'A text of the house',
};
/** What no jar leaves without. */
export const LABEL_MUST: readonly LabelField[] = ['name', 'ingredients', 'net', 'dates', 'storage', 'code', 'producer'];

export const SYMBOL_KINDS = ['qrcode', 'gs1datamatrix', 'gs1-128'] as const;
export type SymbolKind = (typeof SYMBOL_KINDS)[number];
export const SYMBOL_WORDS: Readonly<Record<SymbolKind, string>> = {
  qrcode: 'QR, to its page',
  gs1datamatrix: 'DataMatrix: lot, jar, date',
  'gs1-128': 'Code 128: lot, jar',
};

/** A sheet of labels, or a roll: one label, its page the label itself. Millimetres. */
export interface LabelPaper {
  readonly pageWidthMm: number;
  readonly pageHeightMm: number;
  readonly columns: number;
  readonly rows: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly leftMm: number;
  readonly topMm: number;
  readonly gapXMm: number;
  readonly gapYMm: number;
}

/** Where a field stands on its label, mm from the upper left, and how wide its lines may be. */
export interface LabelPlace {
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
}

export interface LabelDesign {
  readonly paper: LabelPaper;
  /** In the order they stand on the label; what has a place of its own stands there, the others one below the other. */
  readonly fields: readonly {
    readonly key: LabelField;
    readonly on: boolean;
    readonly points: number;
    readonly place?: LabelPlace | null | undefined;
  }[];
  readonly symbol: {
    readonly kind: SymbolKind;
    readonly mm: number;
    readonly place?: Pick<LabelPlace, 'xMm' | 'yMm'> | null | undefined;
  } | null;
  /** Height of the small letters that no line goes under, mm. */
  readonly leastLetterMm: number;
  /** Article number of the product: its symbols with identifiers begin with it. */
  readonly gtin: string | null;
  readonly until: 'bestBefore' | 'useBy';
  readonly untilDays: number | null;
  readonly producer: string;
  readonly text: string;
}

/** An article number of 8, 12, 13 or 14 digits whose check digit is right. */
export function isGtin(text: string): boolean {
  if (!/^(?:\d{8}|\d{12,14})$/.test(text)) return false;
  const digits = [...text].map(Number);
  const check = digits.pop()!;
  const sum = digits.reverse().reduce((all, digit, i) => all + digit * (i % 2 === 0 ? 3 : 1), 0);
  return (10 - (sum % 10)) % 10 === check;
}

/** Small letters of the label's face are so much of its size. */
export const X_HEIGHT = 0.52;
const MM_PER_POINT = 25.4 / 72;

/** Height of the small letters of a size, mm. */
export const letterMm = (points: number): number => points * MM_PER_POINT * X_HEIGHT;

/** What stands against a design, by the field it is about. */
export function designProblems(design: LabelDesign): { readonly field: string; readonly words: string }[] {
  const { paper: p } = design;
  const found: { field: string; words: string }[] = [];
  const across = p.leftMm + p.columns * p.widthMm + (p.columns - 1) * p.gapXMm;
  const down = p.topMm + p.rows * p.heightMm + (p.rows - 1) * p.gapYMm;
  const mm = (figure: number): string => `${Math.round(figure * 10) / 10} mm`;
  if (across > p.pageWidthMm + 0.1)
    found.push({
      field: 'columns',
      words: `${p.columns} across take ${mm(across)} of a page ${mm(p.pageWidthMm)} wide`,
    });
  if (down > p.pageHeightMm + 0.1)
    found.push({ field: 'rows', words: `${p.rows} down take ${mm(down)} of a page ${mm(p.pageHeightMm)} high` });
  for (const { key, on, points } of design.fields)
    if (on && letterMm(points) < design.leastLetterMm - 1e-6)
      found.push({
        field: key,
        words: `${LABEL_FIELD_WORDS[key]}: small letters of ${letterMm(points).toFixed(2)} mm, under ${design.leastLetterMm} mm`,
      });
  for (const key of LABEL_MUST)
    if (!design.fields.some((one) => one.key === key && one.on))
      found.push({ field: key, words: `${LABEL_FIELD_WORDS[key]}: no jar leaves without it` });
  if (!design.producer.trim()) found.push({ field: 'producer', words: 'Producer: name and place are not said yet' });
  if (design.untilDays === null) found.push({ field: 'dates', words: 'Until when it keeps is not said yet' });
  if (design.symbol && design.symbol.kind !== 'qrcode' && !(design.gtin && isGtin(design.gtin)))
    found.push({
      field: 'symbol',
      words: `${SYMBOL_WORDS[design.symbol.kind]}: an article number (GTIN) stands first in it, and ${design.gtin ? `the check digit of ${design.gtin} does not match` : 'none is given'}`,
    });
  for (const field of ['text', 'producer'] as const)
    for (const { words, why } of labelClaims(design[field]))
      found.push({ field, words: `“${words}”: ${CLAIM_REASONS[why]}` });
  return found;
}

/** A design is kept also when something is open yet; what may never stand on a label is refused. */
export function decideDesign(design: LabelDesign): Outcome<void> {
  for (const field of ['text', 'producer'] as const) {
    const [claim] = labelClaims(design[field]);
    if (claim) return refuse('label.claim', `“${claim.words}” was given; ${CLAIM_REASONS[claim.why]}.`, { field });
  }
  return accept(undefined);
}

/** Jars a page takes. */
export const labelsPerPage = ({ columns, rows }: LabelPaper): number => columns * rows;

/** Where the label of a place stands on its page, mm from the upper left; places count from 0, row by row. */
export function labelPlace(paper: LabelPaper, place: number): { page: number; xMm: number; yMm: number } {
  const each = labelsPerPage(paper);
  const on = place % each;
  return {
    page: Math.floor(place / each),
    xMm: paper.leftMm + (on % paper.columns) * (paper.widthMm + paper.gapXMm),
    yMm: paper.topMm + Math.floor(on / paper.columns) * (paper.heightMm + paper.gapYMm),
  };
}

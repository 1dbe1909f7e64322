import { dayProblem } from '../calendar/bounds.js';
import { textFault } from '../typing/index.js';
import { type DecimalMark, parseNumber } from '../units/parseNumber.js';

/** A sheet as it was read: its rows with their numbers in the file, cells as words. */
export interface SheetRead {
  readonly name: string;
  readonly rows: readonly { readonly row: number; readonly cells: readonly string[] }[];
}

export interface CellFault {
  readonly sheet: string;
  /** "B4"; the sheet as a whole where none is named. */
  readonly cell: string | null;
  readonly words: string;
}

const MOST_ROWS = 5000;

/** Words as they are told apart: case and blanks count for nothing. */
export const key = (words: string): string => words.trim().replace(/\s+/g, ' ').toLowerCase();
const bare = (head: string): string => key(head.replace(/\*/g, ''));

/** A row with its cells by head. */
export interface SheetRow {
  readonly sheet: string;
  readonly row: number;
  readonly columns: ReadonlyMap<string, number>;
  readonly cells: readonly string[];
}

/** Reads rows of sheets cell by cell. Every fault names its cell; one does not stop the others. */
export class SheetReading {
  readonly faults: CellFault[] = [];
  /** Rows that name what is in the house already. */
  known = 0;
  private readonly seen = new Map<string, string>();

  constructor(private readonly decimalMark: DecimalMark | undefined) {}

  fault(sheet: string, cell: string | null, words: string): void {
    this.faults.push({ sheet, cell, words });
  }

  /** The rows of a sheet under its heads; starred ones must be there. */
  rowsOf(sheet: string, heads: readonly string[], read: SheetRead | undefined): SheetRow[] {
    const [head, ...rows] = read?.rows ?? [];
    if (!head) return [];
    const columns = new Map<string, number>();
    head.cells.forEach((words, at) => words.trim() !== '' && columns.set(bare(words), at));
    const missing = heads.filter((one) => one.endsWith('*') && !columns.has(bare(one)));
    if (missing.length > 0) {
      this.fault(
        sheet,
        null,
        `The first row names no column ${missing.map((one) => `“${one.replace('*', '')}”`).join(', ')}. It reads: ${head.cells.filter(Boolean).join(', ').slice(0, 160) || 'nothing'}.`,
      );
      return [];
    }
    if (rows.length > MOST_ROWS) {
      this.fault(sheet, null, `${rows.length} rows stand here; ${MOST_ROWS} are read at most. Bring them in parts.`);
      return [];
    }
    return rows
      .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
      .map(({ row, cells }) => ({ sheet, row, columns, cells }));
  }

  at = ({ columns, cells }: SheetRow, head: string): string => (cells[columns.get(bare(head)) ?? -1] ?? '').trim();

  cell({ columns, row }: SheetRow, head: string): string {
    return `${columnLetters(columns.get(bare(head)) ?? 0)}${row}`;
  }

  words(row: SheetRow, head: string, most: number): string | null {
    const words = this.at(row, head);
    const fault =
      words === ''
        ? `${head} is missing.`
        : words.length > most
          ? `${head}: ${most} letters at most.`
          : textFault(words);
    if (fault) this.fault(row.sheet, this.cell(row, head), fault);
    return fault ? null : words;
  }

  number(row: SheetRow, head: string, least: number, most: number): number | null;
  number<O>(row: SheetRow, head: string, least: number, most: number, or: O): number | O | null;
  number(row: SheetRow, head: string, least: number, most: number, ...or: unknown[]): unknown {
    const text = this.at(row, head).replace(/\s*(%|°C|L|mL|kg|g)$/, '');
    if (text === '' && or.length > 0) return or[0];
    const read = parseNumber({ text, ...(this.decimalMark ? { decimalMark: this.decimalMark } : {}) });
    if (read.ok && read.value >= least && read.value <= most) return read.value;
    this.fault(
      row.sheet,
      this.cell(row, head),
      text === '' ? `${head} is missing.` : `${head}: “${text}” was given; ${least} to ${most} is accepted.`,
    );
    return null;
  }

  oneOf<K extends string>(row: SheetRow, head: string, all: readonly K[], or?: K): K | null {
    const said = this.at(row, head);
    const found = all.find((one) => key(one) === key(said)) ?? (said === '' ? or : undefined);
    if (found !== undefined) return found;
    this.fault(row.sheet, this.cell(row, head), `${head}: “${said}” was given; accepted: ${all.join(', ')}.`);
    return null;
  }

  /** Not in the house yet. Named twice in the sheet is a fault; there already is none. */
  fresh(row: SheetRow, head: string, words: string, there: readonly string[]): boolean {
    if (there.some((one) => key(one) === key(words))) {
      this.known += 1;
      return false;
    }
    return this.free(row, head, words, []);
  }

  free(row: SheetRow, head: string, words: string, there: readonly string[]): boolean {
    const before = this.seen.get(`${row.sheet} ${head} ${key(words)}`);
    const taken = there.some((one) => key(one) === key(words));
    if (before === undefined && !taken) {
      this.seen.set(`${row.sheet} ${head} ${key(words)}`, this.cell(row, head));
      return true;
    }
    this.fault(
      row.sheet,
      this.cell(row, head),
      before === undefined ? `${head} ${words} is somebody else’s here.` : `${words} stands in ${before} already.`,
    );
    return false;
  }

  /** A calendar day, `2026-11-24`; null where none is said, undefined where it cannot be read. */
  day(row: SheetRow, head: string): string | null | undefined {
    const said = this.at(row, head);
    if (said === '') return null;
    const fault = /^\d{4}-\d{2}-\d{2}$/.test(said)
      ? dayProblem(said)
      : `“${said}” was given; a day reads like 2026-11-24.`;
    if (fault === null) return said;
    this.faultAt(row, head, fault);
    return undefined;
  }

  faultAt(row: SheetRow, head: string, words: string): void {
    this.fault(row.sheet, this.cell(row, head), words);
  }
}

/** `columnLetters(0) //=> 'A'`, `columnLetters(26) //=> 'AA'` */
function columnLetters(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : columnLetters(Math.floor(at / 26) - 1) + columnLetters(at % 26);
}

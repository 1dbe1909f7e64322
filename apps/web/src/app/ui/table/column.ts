/** What a column of a table holds, and how its cells are written. Masses and volumes have one unit a column. */
export type CellKind = 'words' | 'kg' | 'number' | 'percent' | 'day' | 'moment';

export interface Column<R> {
  /** Its name for what is remembered and for a cell drawn by the page. */
  readonly key: string;
  readonly head: string;
  readonly kind?: CellKind;
  /** What it is sorted and filtered by: words, a figure (grams for kg, a fraction for percent), a moment or a day as ISO 8601. */
  readonly value: (row: R) => string | number | null;
  /** How a cell reads where the figure alone does not say it. */
  readonly words?: (row: R) => string;
  /** Figures after the decimal mark: 2 for kilograms, 1 for per cent, none for others where it is not said. */
  readonly places?: number;
  /** Not shown until somebody asks for it. */
  readonly aside?: boolean;
  /** Something to do, drawn by the page: it is not sorted or filtered, and stays behind when the table leaves. */
  readonly todo?: boolean;
  /** Width on a table that scrolls, CSS. */
  readonly width?: string;
}

/** What a column lets through: words it contains, one of a few, or figures between two. */
export interface Filter {
  readonly has?: string;
  readonly of?: readonly string[];
  readonly least?: number | null;
  readonly most?: number | null;
}

export interface Sort {
  readonly key: string;
  readonly down: boolean;
}

/** How somebody looks at a table. */
export interface View {
  readonly sort: Sort | null;
  readonly filters: Readonly<Record<string, Filter>>;
  /** Columns shown although they stand aside, and those put away. */
  readonly shown: Readonly<Record<string, boolean>>;
}

export const PLAIN_VIEW: View = { sort: null, filters: {}, shown: {} };

const PLACES: Readonly<Partial<Record<CellKind, number>>> = { kg: 2, percent: 1 };

export const placesOf = <R>({ kind, places }: Column<R>): number => places ?? PLACES[kind ?? 'words'] ?? 0;

export const isFigure = (kind: CellKind | undefined): boolean =>
  kind === 'kg' || kind === 'number' || kind === 'percent';

/** Above as many different words a column is searched by letters, not ticked. */
const TICKED = 12;

/** The few words a column knows, in their order; null where it knows many, or figures. */
export function fewWords<R>(rows: readonly R[], column: Column<R>): readonly string[] | null {
  if (isFigure(column.kind) || column.kind === 'day' || column.kind === 'moment') return null;
  const found = new Set<string>();
  for (const row of rows) {
    found.add(column.words?.(row) ?? String(column.value(row) ?? ''));
    if (found.size > TICKED) return null;
  }
  return [...found].sort(byWords.compare);
}

const byWords = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Whether a filter is one at all. */
export const filters = (filter: Filter | undefined): boolean =>
  filter !== undefined &&
  ((filter.has ?? '').trim() !== '' || filter.of !== undefined || filter.least != null || filter.most != null);

/** A figure as its column shows, filters and leaves it: kilograms, per cent. */
export const figureOf = <R>(column: Column<R>, row: R): number | null => {
  const value = column.value(row);
  if (typeof value !== 'number') return null;
  return column.kind === 'kg' ? value / 1000 : column.kind === 'percent' ? value * 100 : value;
};

function passes<R>(column: Column<R>, filter: Filter, row: R, words: string): boolean {
  if ((filter.has ?? '').trim() !== '' && !words.toLowerCase().includes(filter.has!.trim().toLowerCase())) return false;
  if (filter.of !== undefined && !filter.of.includes(words)) return false;
  if (filter.least == null && filter.most == null) return true;
  const figure = figureOf(column, row);
  return figure !== null && figure >= (filter.least ?? -Infinity) && figure <= (filter.most ?? Infinity);
}

/**
 * The rows as somebody looks at them: found by every word typed, filtered by column, sorted. Rows that are equal keep
 * the order they came in; what has no value comes last, whichever way.
 */
export function lookedAt<R>(input: {
  rows: readonly R[];
  columns: readonly Column<R>[];
  view: View;
  find: string;
  words: (column: Column<R>, row: R) => string;
}): readonly R[] {
  const { rows, columns, view, words } = input;
  const typed = input.find.toLowerCase().split(/\s+/).filter(Boolean);
  const filtering = columns.flatMap((column) => {
    const filter = view.filters[column.key];
    return filters(filter) ? [[column, filter!] as const] : [];
  });
  const found =
    typed.length === 0 && filtering.length === 0
      ? rows
      : rows.filter((row) => {
          if (!filtering.every(([column, filter]) => passes(column, filter, row, words(column, row)))) return false;
          if (typed.length === 0) return true;
          const line = columns
            .map((column) => words(column, row))
            .join(' ')
            .toLowerCase();
          return typed.every((word) => line.includes(word));
        });
  const sort = view.sort;
  const by = columns.find(({ key }) => key === sort?.key);
  if (!sort || !by) return found;
  const way = sort.down ? -1 : 1;
  return found
    .map((row, i) => ({ row, i, value: by.value(row) }))
    .sort((a, b) => {
      if (a.value === null || b.value === null || a.value === '' || b.value === '')
        return Number(a.value === null || a.value === '') - Number(b.value === null || b.value === '') || a.i - b.i;
      const order =
        typeof a.value === 'number' && typeof b.value === 'number'
          ? a.value - b.value
          : byWords.compare(String(a.value), String(b.value));
      return order * way || a.i - b.i;
    })
    .map(({ row }) => row);
}

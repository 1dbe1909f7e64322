import { type SQL, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';

export interface Asked {
  readonly from: Date;
  readonly to: Date;
  readonly timeZone: string;
}

export type Cell = string | number | null;

export interface Sheet {
  readonly columns: readonly string[];
  /** Its rows in their order, a page at a time. */
  pages(reader: Reader, asked: Asked): AsyncGenerator<Cell[][]>;
}

/** Rows are read so many at a time: a year of a busy house is never in memory at once. */
const PAGE = 2000;

/** What a sheet asks: of which rows, found by what, in which order. */
interface Question {
  readonly select: SQL;
  readonly from: SQL;
  /** The moment that the days asked for are compared with. */
  readonly at: SQL;
  readonly where?: SQL;
  /** The row a page is read by, and its type; a row may bring several lines. */
  readonly key: SQL;
  readonly type: 'uuid' | 'bigint';
  readonly order: SQL;
}

/**
 * A sheet. Which rows belong to the days asked for is found once; then they are read by their keys, a page at a time:
 * nothing is looked through again for each page, and whoever takes long to fetch it keeps nobody waiting.
 */
export function sheet<R extends { at: Date }>(
  columns: readonly string[],
  { select, from, at, where, key, type, order }: Question,
  cells: (row: R, day: (at: Date) => string) => Cell[],
): Sheet {
  return {
    columns,
    async *pages(reader, asked) {
      const format = new Intl.DateTimeFormat('sv-SE', {
        timeZone: asked.timeZone,
        dateStyle: 'short',
        timeStyle: 'short',
      });
      const found = await rows<{ key: string }>(
        reader,
        sql`select ${key} as key ${from} where ${between(asked, at)}${where ? sql` and ${where}` : sql``} order by ${order}`,
      );
      const keys = [...new Set(found.map((row) => row.key))];
      for (let first = 0; first < keys.length; first += PAGE) {
        const these = sql`any(${sql.param(keys.slice(first, first + PAGE))}::${sql.raw(type)}[])`;
        const page = await rows<R>(
          reader,
          sql`${select} ${from} where ${key} = ${these}${where ? sql` and ${where}` : sql``} order by ${order}`,
        );
        yield page.map((row) => cells(row, (moment) => format.format(new Date(moment))));
      }
    },
  };
}

const between = ({ from, to }: Asked, column: SQL): SQL =>
  sql`${column} >= ${from.toISOString()} and ${column} < ${to.toISOString()}`;

import { sql } from 'drizzle-orm';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { rows } from '../src/db/database.js';
import { openHouse, type TestHouse } from './house.js';
import { columnsIn, sqlOf, type Tables } from './sqlColumns.js';

const SOURCES = new URL('../src/', import.meta.url).pathname;

describe('columns that statements name', () => {
  const tables: Tables = new Map([
    ['lot', new Set(['id', 'code'])],
    ['movement', new Set(['from_lot', 'seq'])],
  ]);

  it('are found by their table, its alias, and in parts of a statement', () => {
    const of = (text: string) => columnsIn(text, tables);
    expect(of('select l.id, l.code from lot l')).toEqual({ asked: 2, unknown: [] });
    expect(of('select l.colour from lot l')).toEqual({ asked: 1, unknown: ['lot.colour'] });
    expect(of('select lot.id from lot where lot.size = 3').unknown).toEqual(['lot.size']);
    expect(of('select 1 from movement m join lot as s on s.id = m.from_lot where m.mass > 0').unknown).toEqual([
      'movement.mass',
    ]);
    expect(of('select m.id from (select from_lot as id from movement) m')).toEqual({ asked: 0, unknown: [] });
    expect(of("select 'l.colour', now() from lot l -- l.size")).toEqual({ asked: 0, unknown: [] });
    expect(of('insert into lot (id) select $ from house h, movement m where m.seq = h.seq').asked).toBe(1);
  });

  it('of a source only what is tagged as SQL', () => {
    expect(sqlOf('const a = `l.id`; const b = sql<{ id: string }>`select ${c} from lot l`;')).toEqual([
      'select  $  from lot l',
    ]);
  });

  describe('of the server', () => {
    let house: TestHouse;
    beforeAll(async () => {
      house = await openHouse('spec_columns');
    }, 60_000);
    afterAll(() => house.close());

    it('are columns of its tables: one that is renamed is missed here before anybody asks for it', async () => {
      const found = await rows<{ table: string; column: string }>(
        house.connection.db,
        sql`select table_name as "table", column_name as "column" from information_schema.columns where table_schema = 'public'`,
      );
      const known = new Map<string, Set<string>>();
      for (const { table, column } of found) known.set(table, (known.get(table) ?? new Set()).add(column));
      const sources = readdirSync(SOURCES, { recursive: true, encoding: 'utf8' }).filter((file) =>
        file.endsWith('.ts'),
      );
      let asked = 0;
      for (const file of sources)
        for (const text of sqlOf(readFileSync(join(SOURCES, file), 'utf8'), file)) {
          const said = columnsIn(text, known);
          asked += said.asked;
          expect(said.unknown).withContext(file).toEqual([]);
        }
      expect(asked).withContext('statements are read at all').toBeGreaterThan(500);
    });
  });
});

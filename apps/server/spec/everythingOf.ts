import { sql } from 'drizzle-orm';
import { rows } from '../src/db/database.js';
import type { TestHouse } from './house.js';

const BESIDE = [
  'journal',
  'entry_lot',
  'credential',
  'sign_in',
  'known_device',
  'rate_limit',
  'look',
  'calendar_key',
  'photo',
  'complaint_contact',
  'taken_back',
  'correction',
  'row_change',
  'changes_kept',
  'movement',
  'reading',
];

/**
 * Everything a house says, table by table, with what only counts the entries told apart by the entry itself, and codes by
 * the lot they are of.
 */
export async function everythingOf(house: TestHouse): Promise<Record<string, string[]>> {
  const { db } = house.connection;
  const entries = new Map(
    (await rows<{ seq: string; id: string }>(db, sql`select seq, entry_id as id from journal`)).map(({ seq, id }) => [
      Number(seq),
      id,
    ]),
  );
  const lots = await rows<{ id: string; code: string; undone: string | null }>(
    db,
    sql`select id, code, undone_seq as undone from lot order by length(code) desc`,
  );
  const tables = await rows<{ name: string }>(
    db,
    sql`select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'`,
  );
  const found: Record<string, string[]> = {};
  for (const name of [
    ...tables.map((table) => table.name).filter((one) => !BESIDE.includes(one)),
    'live_movement',
    'live_reading',
  ]) {
    const all = await rows<{ row: Record<string, unknown> }>(
      db,
      sql`select to_jsonb(t) as row from ${sql.identifier(name)} t`,
    );
    found[name] = all
      .flatMap(({ row }) => {
        const { code, code_key: _key, lots_received: _counter, cancels: _cancels, ...said } = row;
        if (name === 'lot' && said['undone_seq'] !== null) return [];
        if (name === 'lot_balance' && said['in_milligrams'] === 0 && said['out_milligrams'] === 0) return [];
        if (name === 'live_movement') delete said['id'];
        if (name === 'live_reading') delete said['entry_id'];
        if (name === 'live_reading') delete said['seq'];
        for (const field of ['seq', 'entry_seq'])
          if (typeof said[field] === 'number') said[field] = entries.get(said[field]);
        let text = JSON.stringify(said, Object.keys(said).sort());
        void code;
        for (const lot of lots) text = text.replaceAll(lot.code, lot.id);
        return [text];
      })
      .sort();
  }
  return found;
}

import { asc, eq, gt } from 'drizzle-orm';
import type { Reader } from '../../db/database.js';
import { journal } from '../../db/schema/journal.js';
import { photo } from '../../db/schema/stores.js';

const PAGE = 500;

/** The whole house as `houseFile` describes it, piece by piece: a large one never stands in memory. */
export async function* writeHouseFile(reader: Reader, of: { house: string; at: Date }): AsyncGenerator<string> {
  const head = { format: 'clear-tally/house', formatVersion: 1, house: of.house, at: of.at.toISOString() };
  yield `${JSON.stringify(head).slice(0, -1)},\n"photos":[`;
  let between = '';
  for (const { id } of await reader.select({ id: photo.id }).from(photo).orderBy(asc(photo.id))) {
    const [row] = await reader.select().from(photo).where(eq(photo.id, id));
    if (!row) continue;
    const { type, at, bytes } = row;
    yield between + JSON.stringify({ id, type, at: at.toISOString(), base64: Buffer.from(bytes).toString('base64') });
    between = ',\n';
  }
  yield '],\n"entries":[';
  between = '\n';
  for (let seq = 0; ;) {
    const page = await reader.select().from(journal).where(gt(journal.seq, seq)).orderBy(asc(journal.seq)).limit(PAGE);
    if (page.length === 0) break;
    for (const row of page) {
      // Entry and facts stand as they were hashed.
      const [at, by] = [row.recordedAt.toISOString(), row.by];
      yield `${between}{"seq":${row.seq},"recordedAt":"${at}","by":"${by}","entry":${row.entry},"facts":${row.facts},"hash":"${row.hash}"}`;
      between = ',\n';
      seq = row.seq;
    }
  }
  yield '\n]}\n';
}

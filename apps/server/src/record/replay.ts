import { asc, eq, gt } from 'drizzle-orm';
import { entrySchema } from '@clear-tally/contract';
import type { Database } from '../db/database.js';
import { journal, person, photo } from '../db/schema/index.js';
import { recordEntries } from './record.js';

/** Records every entry of one journal into another, empty house, as it was recorded then. */
export async function replay(from: Database, into: Database): Promise<number> {
  // Entries name photos by their hash: they stand there first.
  for (const { id } of await from.select({ id: photo.id }).from(photo)) {
    const [row] = await from.select().from(photo).where(eq(photo.id, id));
    await into.insert(photo).values(row!).onConflictDoNothing();
  }
  let seq = 0;
  for (;;) {
    const page = await from.select().from(journal).where(gt(journal.seq, seq)).orderBy(asc(journal.seq)).limit(500);
    if (page.length === 0) return seq;
    for (const row of page) {
      const entry = entrySchema.parse(JSON.parse(row.entry));
      // Before the first person is added the founder signs; afterwards each person under their own role.
      const [who] = await into.select({ role: person.role }).from(person).where(eq(person.id, row.by));
      await recordEntries(into, { entries: [entry], actor: { id: row.by, role: who?.role ?? 'owner' }, now: row.recordedAt });
      seq = row.seq;
    }
  }
}

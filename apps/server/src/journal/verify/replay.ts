import type { Entry } from '@clear-tally/contract';
import { asc, eq, gt } from 'drizzle-orm';
import type { Database } from '../../db/database.js';
import { journal } from '../../db/schema/journal.js';
import { photo } from '../../db/schema/stores.js';
import { type Actor, recordAsWritten } from '../record.js';

const TOGETHER = 50;
/** Entries after which the database first looks at what has come; then whenever there are twice as many. */
const FIRST_LOOK = 200;

/** Records rows of a journal into another house, in their order, each by the role its person had then. */
export function recordAnew(
  into: Database,
): (page: readonly { by: string; recordedAt: Date; entry: string }[]) => Promise<unknown> {
  const roles = new Map<string, Actor['role']>();
  return (page) =>
    recordAsWritten(
      into,
      page.map((row) => {
        const entry = JSON.parse(row.entry) as Entry;
        // Before the first person is added the founder signs; afterwards each person under their own role.
        const actor = { id: row.by, role: roles.get(row.by) ?? 'owner' } as const;
        if (entry.kind === 'person.add') roles.set(entry.body.personId, entry.body.role);
        return { entries: [entry], actor, now: row.recordedAt };
      }),
    );
}

/**
 * Records every entry of one journal into another, empty house, as it was recorded then: nothing is judged anew that
 * was accepted, and what is computed comes out the same. A house that grows in seconds is asked as if it were empty until
 * its database has looked at it: `look` has it look, now and then.
 * @throws the first entry that cannot be recorded again
 */
export async function replay(
  from: Database,
  into: Database,
  onProgress?: (entries: number) => void,
  look?: () => Promise<unknown>,
): Promise<number> {
  // Entries name photos by their hash: they stand there first.
  for (const { id } of await from.select({ id: photo.id }).from(photo)) {
    const [row] = await from.select().from(photo).where(eq(photo.id, id));
    await into.insert(photo).values(row!).onConflictDoNothing();
  }
  const record = recordAnew(into);
  let seq = 0;
  let nextLook = FIRST_LOOK;
  for (;;) {
    const page = await from
      .select()
      .from(journal)
      .where(gt(journal.seq, seq))
      .orderBy(asc(journal.seq))
      .limit(TOGETHER);
    if (page.length === 0) return seq;
    await record(page);
    seq = page.at(-1)!.seq;
    onProgress?.(seq);
    if (seq < nextLook) continue;
    await look?.();
    nextLook = seq * 2;
  }
}

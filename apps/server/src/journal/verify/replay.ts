import type { Entry } from '@clear-tally/contract';
import { asc, eq, gt } from 'drizzle-orm';
import type { Database } from '../../db/database.js';
import { journal } from '../../db/schema/journal.js';
import { photo } from '../../db/schema/stores.js';
import { type Actor, recordAsWritten } from '../record.js';

const TOGETHER = 50;
/** Entries after which the database first looks at what has come; then whenever there are twice as many. */
const FIRST_LOOK = 200;

/**
 * Records rows of a journal into another house, in their order, each by the role its person had then. A house that grows
 * in seconds is asked as if it were empty until its database has looked at it: `look` has it look, now and then.
 */
export function recordAnew(
  into: Database,
  look?: () => Promise<unknown>,
): (page: readonly { by: string; recordedAt: Date; entry: string }[]) => Promise<void> {
  const roles = new Map<string, Actor['role']>();
  let recorded = 0;
  let nextLook = FIRST_LOOK;
  return async (page) => {
    await recordAsWritten(
      into,
      page.map((row) => {
        const entry = JSON.parse(row.entry) as Entry;
        // Before the first person is added the founder signs; afterwards each person under their own role.
        const actor = { id: row.by, role: roles.get(row.by) ?? 'owner' } as const;
        if (entry.kind === 'person.add') roles.set(entry.body.personId, entry.body.role);
        return { entries: [entry], actor, now: row.recordedAt };
      }),
    );
    recorded += page.length;
    if (recorded < nextLook) return;
    await look?.();
    nextLook = recorded * 2;
  };
}

/**
 * Records every entry of one journal into another, empty house, as it was recorded then: nothing is judged anew that
 * was accepted, and what is computed comes out the same; `look` as in `recordAnew`.
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
  const record = recordAnew(into, look);
  let seq = 0;
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
  }
}

import { eq } from 'drizzle-orm';
import type { Database } from '../../db/database.js';
import { complaint, complaintContact } from '../../db/schema/recall.js';
import { refused } from '../../journal/refused.js';

/** Who complained, beside the book: written, changed, and deleted for good. Null deletes. */
export async function keepContact(db: Database, complaintId: string, words: string | null): Promise<void> {
  const [of] = await db.select({ id: complaint.id }).from(complaint).where(eq(complaint.id, complaintId));
  if (!of) throw refused('complaint.unknown', 'This complaint is not known in this house.', { field: 'complaintId' });
  if (words === null) await db.delete(complaintContact).where(eq(complaintContact.complaintId, complaintId));
  else
    await db
      .insert(complaintContact)
      .values({ complaintId, words })
      .onConflictDoUpdate({ target: complaintContact.complaintId, set: { words } });
}

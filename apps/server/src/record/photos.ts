import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Database, Reader } from '../db/database.js';
import { photo } from '../db/schema/index.js';
import { refused } from './refused.js';
import { bareJpeg, pictureType } from './pictures.js';

/** A photo of paper, or of what stands in a vessel: more is a film. */
export const MOST_PHOTO_BYTES = 6_000_000;

/**
 * Keeps a picture, without what cameras write into it about place and person. The same picture twice is kept once.
 * It is no entry: entries name it by its hash, and the journal's chain covers that.
 */
export async function keepPhoto(db: Database, bytes: Buffer, now: Date): Promise<{ id: string }> {
  if (bytes.length > MOST_PHOTO_BYTES) throw refused('file.tooLarge', `This picture has ${(bytes.length / 1_000_000).toFixed(1)} MB; up to ${MOST_PHOTO_BYTES / 1_000_000} MB are kept. The tablet makes it smaller by itself when it is taken here.`);
  const type = pictureType(bytes);
  if (!type) throw refused('file.unreadable', 'This is no JPEG or PNG picture. Photos are kept in these two.');
  const bare = type === 'image/jpeg' ? bareJpeg(bytes) : bytes;
  if (!bare) throw refused('file.unreadable', 'This JPEG picture is cut or broken. Take it again.');
  const id = createHash('sha256').update(bare).digest('hex');
  await db.insert(photo).values({ id, type, bytes: bare, at: now }).onConflictDoNothing();
  return { id };
}

export async function hasPhoto(reader: Reader, id: string): Promise<boolean> {
  const [found] = await reader.select({ id: photo.id }).from(photo).where(eq(photo.id, id));
  return found !== undefined;
}

export async function loadPhoto(reader: Reader, id: string): Promise<{ type: string; bytes: Buffer } | null> {
  const [found] = await reader.select().from(photo).where(eq(photo.id, id));
  return found ?? null;
}

export async function refuseUnknownPhoto(reader: Reader, id: string | null, field: string): Promise<void> {
  if (id && !(await hasPhoto(reader, id))) throw refused('lot.unknown', 'The photo has not arrived. Send it again, or record without it.', { field });
}

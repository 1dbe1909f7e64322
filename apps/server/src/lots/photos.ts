import { eq, sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { Database, Reader } from '../db/database.js';
import { photo } from '../db/schema/stores.js';
import { refused } from '../journal/refused.js';
import { drawnAnew, pictureType } from './pictures.js';

/** A photo of paper, or of what stands in a vessel: more is a film. */
export const MOST_PHOTO_BYTES = 6_000_000;

/**
 * Keeps a picture drawn anew: nothing of the file that came is kept but its pixels. The same picture twice is kept once.
 * It is no entry: entries name it by its hash, and the journal's chain covers that.
 */
export async function keepPhoto(db: Database, bytes: Buffer, now: Date): Promise<{ id: string; leftBytes: number }> {
  if (bytes.length > MOST_PHOTO_BYTES)
    throw refused(
      'file.tooLarge',
      `This picture has ${(bytes.length / 1_000_000).toFixed(1)} MB; up to ${MOST_PHOTO_BYTES / 1_000_000} MB are kept. The tablet makes it smaller by itself when it is taken here.`,
    );
  const type = pictureType(bytes);
  if (!type) throw refused('file.unreadable', 'This is no JPEG or PNG picture. Photos are kept in these two.');
  const bare = await drawnAnew(bytes);
  if (!bare)
    throw refused('file.unreadable', 'This picture is cut, broken, or larger than any camera makes. Take it again.');
  const id = createHash('sha256').update(bare).digest('hex');
  if (await hasPhoto(db, id)) return { id, leftBytes: MOST_PHOTOS_BYTES - (await photosBytes(db)) };
  const left = MOST_PHOTOS_BYTES - (await photosBytes(db));
  if (bare.length > left) {
    throw refused(
      'file.tooLarge',
      `This house keeps ${MOST_PHOTOS_BYTES / 1e9} GB of photos; ${(Math.max(0, left) / 1e6).toFixed(1)} MB are left, and this one has ${(bare.length / 1e6).toFixed(1)} MB. Record without it, and tell whoever keeps this house’s computer.`,
      { facts: { leftBytes: Math.max(0, left) } },
    );
  }
  await db.insert(photo).values({ id, type: 'image/jpeg', bytes: bare, at: now }).onConflictDoNothing();
  return { id, leftBytes: left - bare.length };
}

/** All photos of a house together. */
export const MOST_PHOTOS_BYTES = Number(process.env['CLEAR_TALLY_PHOTO_GB'] ?? 4) * 1e9;

async function photosBytes(reader: Reader): Promise<number> {
  const [found] = await reader
    .select({ bytes: sql<string>`coalesce(sum(octet_length(${photo.bytes})), 0)` })
    .from(photo);
  return Number(found!.bytes);
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
  if (id && !(await hasPhoto(reader, id)))
    throw refused('lot.unknown', 'The photo has not arrived. Send it again, or record without it.', { field });
}

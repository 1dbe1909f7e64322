import sharp from 'sharp';

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** What a picture is by its first bytes, whatever its name says. */
export function pictureType(bytes: Buffer): 'image/jpeg' | 'image/png' | null {
  if (bytes.subarray(0, 8).equals(PNG)) return 'image/png';
  return bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff ? 'image/jpeg' : null;
}

/** A large camera's. A small file that unfolds to more is a bomb. */
const MOST_PIXELS = 50_000_000;

/** The longer side: enough to read a delivery note by. */
const LONGEST = 2400;

// One picture at a time: several at once would take the memory and the cores of who records.
sharp.concurrency(1);

sharp.cache(false);

/**
 * A picture decoded and drawn anew as JPEG, turned upright: no metadata, no second picture, nothing behind its end.
 * Null when it cannot be decoded whole, or has more pixels than any camera makes (asked before it is decoded).
 */
export async function drawnAnew(bytes: Buffer): Promise<Buffer | null> {
  try {
    return await sharp(bytes, {
      limitInputPixels: MOST_PIXELS,
      failOn: 'truncated',
      animated: false,
      sequentialRead: true,
    })
      .rotate()
      .resize({ width: LONGEST, height: LONGEST, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 84 })
      .timeout({ seconds: 8 })
      .toBuffer();
  } catch {
    return null;
  }
}

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** What a picture is by its first bytes, whatever its name says. */
export function pictureType(bytes: Buffer): 'image/jpeg' | 'image/png' | null {
  if (bytes.subarray(0, 8).equals(PNG)) return 'image/png';
  return bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff ? 'image/jpeg' : null;
}

/** Markers of a JPEG that hold no picture: what a camera says of place, time and maker (APP1 to APP15), and comments. */
const isChatter = (marker: number): boolean => (marker >= 0xe1 && marker <= 0xef) || marker === 0xfe;

/**
 * A JPEG without its metadata. The picture itself is not touched: only whole segments before it are left out.
 * Null when it cannot be followed to its picture: it is cut or broken.
 */
export function bareJpeg(bytes: Buffer): Buffer | null {
  const kept: Buffer[] = [bytes.subarray(0, 2)];
  let at = 2;
  while (at + 4 <= bytes.length && bytes[at] === 0xff) {
    const marker = bytes[at + 1]!;
    // From here on it is picture.
    if (marker === 0xda) return Buffer.concat([...kept, bytes.subarray(at)]);
    const end = at + 2 + bytes.readUInt16BE(at + 2);
    if (end > bytes.length) break;
    if (!isChatter(marker)) kept.push(bytes.subarray(at, end));
    at = end;
  }
  return null;
}

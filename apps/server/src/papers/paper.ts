import PDFDocument from 'pdfkit';
import { FONTS } from './fonts.js';

export const INK = '#1b2a2f';
export const SOFT = '#4d5e63';
export type Sheet = InstanceType<typeof PDFDocument>;

/** A document in the house's faces, written by `write` and collected. */
export async function paper(
  options: PDFKit.PDFDocumentOptions & { info: { Title: string } },
  write: (sheet: Sheet) => void | Promise<void>,
): Promise<Buffer> {
  const sheet = new PDFDocument({
    ...options,
    info: { ...options.info, Producer: 'Clear Tally', Creator: 'Clear Tally' },
  });
  for (const [name, path] of Object.entries(FONTS)) sheet.registerFont(name, path);
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    sheet
      .on('data', (chunk: Buffer) => chunks.push(chunk))
      .on('end', () => resolve(Buffer.concat(chunks)))
      .on('error', reject);
  });
  await write(sheet);
  sheet.end();
  return done;
}

import PDFDocument from 'pdfkit';
import bwipjs from 'bwip-js/node';
import { sql } from 'drizzle-orm';
import { rows, type Reader } from '../db/database.js';
import { refused } from '../record/refused.js';
import { FONTS } from './fonts.js';

/** mm to points. */
const mm = (value: number): number => (value * 72) / 25.4;
const WIDTH = mm(62);
const HEIGHT = mm(29);

interface LabelRow { code: string; name: string; supplier: string | null; supplierLotCode: string | null; at: Date; useBy: string | null; allergens: string[] }

/**
 * Labels of supply lots, 62 × 29 mm, one to a page: code as text and as a QR symbol that leads to its trace,
 * what it is, whose lot, when it came, use-by, allergens.
 */
export async function supplyLabels(reader: Reader, input: { lotIds: readonly string[]; copies: number; timeZone: string; base: string }): Promise<Buffer> {
  const found = await rows<LabelRow>(reader, sql`
    select l.code, l.name, s.name as supplier, l.supplier_lot_code as "supplierLotCode", l.at, l.use_by::text as "useBy", m.allergens
    from lot l join material m on m.id = l.material_id left join supplier s on s.id = l.supplier_id where l.kind = 'supply' and l.id in ${[...input.lotIds]} order by l.seq`);
  if (found.length === 0) throw refused('lot.unknown', 'No supply lot of these is known in this house.', { field: 'lot' });
  const doc = new PDFDocument({ size: [WIDTH, HEIGHT], margin: 0, autoFirstPage: false, info: { Title: 'Supply labels', Producer: 'Clear Tally', Creator: 'Clear Tally' } });
  for (const [name, path] of Object.entries(FONTS)) doc.registerFont(name, path);
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    doc.on('data', (chunk: Buffer) => chunks.push(chunk)).on('end', () => resolve(Buffer.concat(chunks))).on('error', reject);
  });
  const day = new Intl.DateTimeFormat('en-GB', { timeZone: input.timeZone, day: 'numeric', month: 'short', year: 'numeric' });
  for (const row of found) {
    // Its types know neither the options of each symbol nor that it answers without a callback.
    const options = { bcid: 'qrcode', text: `${input.base}/trace/${row.code}`, scale: 4, eclevel: 'M' };
    const symbol: Buffer = await bwipjs.toBuffer(options);
    for (let copy = 0; copy < input.copies; copy += 1) {
      doc.addPage();
      doc.image(symbol, mm(2), mm(3), { width: mm(22), height: mm(22) });
      const left = mm(27);
      const width = WIDTH - left - mm(2);
      const line = (font: keyof typeof FONTS, size: number, text: string, y: number): void => void doc.font(font).fontSize(size).text(text, left, mm(y), { width, height: size * 1.25, ellipsis: true, lineBreak: false });
      line('bold', 15, row.code, 2.5);
      line('bold', 9, row.name, 9);
      line('text', 7.5, [row.supplierLotCode, row.supplier].filter(Boolean).join(', '), 13);
      line('text', 7.5, `came ${day.format(new Date(row.at))}`, 16.6);
      if (row.useBy) line('bold', 7.5, `use by ${day.format(new Date(`${row.useBy}T12:00:00Z`))}`, 20.2);
      if (row.allergens.length > 0) line('bold', 7.5, `allergen: ${row.allergens.join(', ')}`, 23.8);
    }
  }
  doc.end();
  return done;
}

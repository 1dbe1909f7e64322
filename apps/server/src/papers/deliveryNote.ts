import { INK, paper, SOFT } from './paper.js';

/** What a delivery note says: whose, to whom, and every jar by its code. */
export interface DeliveryNote {
  readonly code: string;
  readonly customer: string;
  readonly address: string | null;
  readonly by: string;
  readonly at: string;
  readonly note: string | null;
  readonly lines: readonly {
    readonly name: string;
    readonly run: string;
    readonly packed: string;
    readonly storage: string | null;
    readonly count: number;
    readonly sizeMl: number;
    readonly codes: string;
  }[];
}

const LEFT = 42;
const WIDTH = 511;
const COLUMNS = [LEFT, LEFT + 196, LEFT + 262, LEFT + 330] as const;

/** A delivery note on paper: lot codes for who keeps records on the other side, and room for two signatures. */
export function deliveryNote(note: DeliveryNote, house: { name: string; printedAt: string }): Promise<Buffer> {
  return paper(
    {
      size: 'A4',
      margins: { top: 48, bottom: 48, left: LEFT, right: LEFT },
      info: { Title: `Delivery note ${note.code}` },
    },
    (sheet) => {
      sheet.font('bold').fontSize(20).fillColor(INK).text(`Delivery note ${note.code}`, LEFT);
      sheet.font('text').fontSize(10).fillColor(SOFT).text(`${house.name}, ${note.at}, by ${note.by}`).moveDown(1);
      sheet.font('text').fontSize(10).fillColor(SOFT).text('To');
      sheet.font('bold').fontSize(14).fillColor(INK).text(note.customer);
      if (note.address) sheet.font('text').fontSize(11).text(note.address);
      sheet.moveDown(1.2);
      const head = sheet.y;
      sheet.font('text').fontSize(9).fillColor(SOFT);
      ['Product, run', 'Jars', 'Packed', 'Codes'].forEach((words, i) =>
        sheet.text(words, COLUMNS[i]!, head, { lineBreak: false }),
      );
      rule(head + 14);
      sheet.y = head + 20;
      for (const line of note.lines) {
        if (sheet.y > sheet.page.height - 140) sheet.addPage();
        const y = sheet.y;
        sheet.font('bold').fontSize(11).fillColor(INK).text(line.name, COLUMNS[0], y, { width: 188 });
        sheet.font('text').fontSize(9).fillColor(SOFT).text(line.run, COLUMNS[0], sheet.y, { width: 188 });
        if (line.storage) sheet.text(`Keep at: ${line.storage}`, COLUMNS[0], sheet.y, { width: 188 });
        const after = sheet.y;
        sheet.fontSize(11).fillColor(INK).text(`${line.count} × ${line.sizeMl} mL`, COLUMNS[1], y, { width: 70 });
        sheet.fontSize(10).text(line.packed, COLUMNS[2], y, { width: 66 });
        sheet.fontSize(9.5).text(line.codes, COLUMNS[3], y, { width: WIDTH - (COLUMNS[3] - LEFT) });
        sheet.y = Math.max(after, sheet.y) + 6;
        rule(sheet.y);
        sheet.y += 8;
      }
      const jars = note.lines.reduce((sum, { count }) => sum + count, 0);
      sheet
        .font('bold')
        .fontSize(12)
        .fillColor(INK)
        .text(`${jars} jars`, LEFT, sheet.y + 4);
      if (note.note) sheet.font('text').fontSize(10).text(note.note, LEFT);
      sheet
        .moveDown(3)
        .font('text')
        .fontSize(9)
        .fillColor(SOFT)
        .text('Handed over: ______________________        Received: ______________________', LEFT)
        .moveDown(1.5)
        .text(`${note.code} · printed ${house.printedAt}`, LEFT);

      function rule(y: number): void {
        sheet
          .moveTo(LEFT, y)
          .lineTo(LEFT + WIDTH, y)
          .lineWidth(0.5)
          .strokeColor(SOFT)
          .stroke();
      }
    },
  );
}

import { INK, paper, SOFT } from './paper.js';

/** What somebody with a trolley reads: where to go, how many to take, and which. */
export interface PickSheet {
  readonly code: string;
  readonly customer: string;
  readonly wantedOn: string | null;
  readonly note: string | null;
  readonly picks: readonly {
    readonly where: string;
    readonly run: string;
    readonly name: string;
    readonly sizeMl: number;
    readonly count: number;
    readonly codes: string;
  }[];
  readonly missing: readonly { readonly name: string; readonly sizeMl: number; readonly lacks: number }[];
}

const LEFT = 42;
const WIDTH = 511;
const [TICK, COUNT, WHAT, CODES] = [LEFT, LEFT + 30, LEFT + 118, LEFT + 300] as const;

/** A pick list on paper, place by place, with a box to tick at every line. */
export function pickSheet(list: PickSheet, house: { name: string; printedAt: string }): Promise<Buffer> {
  return paper(
    {
      size: 'A4',
      margins: { top: 48, bottom: 48, left: LEFT, right: LEFT },
      info: { Title: `Pick list ${list.code}` },
    },
    (sheet) => {
      sheet.font('bold').fontSize(20).fillColor(INK).text(`Pick list ${list.code}`, LEFT);
      sheet.font('bold').fontSize(14).text(list.customer);
      sheet
        .font('text')
        .fontSize(10)
        .fillColor(SOFT)
        .text([house.name, list.wantedOn && `wanted ${list.wantedOn}`].filter(Boolean).join(' · '));
      if (list.note) sheet.fillColor(INK).text(list.note);
      let place: string | null = null;
      for (const pick of list.picks) {
        if (sheet.y > sheet.page.height - 110) sheet.addPage();
        if (pick.where !== place) {
          place = pick.where;
          sheet.moveDown(1).font('bold').fontSize(13).fillColor(INK).text(place, LEFT);
          line(sheet.y + 2, INK);
          sheet.y += 8;
        }
        const y = sheet.y;
        sheet
          .rect(TICK, y + 1, 13, 13)
          .lineWidth(0.8)
          .strokeColor(INK)
          .stroke();
        sheet
          .font('bold')
          .fontSize(13)
          .fillColor(INK)
          .text(`${pick.count} × ${pick.sizeMl} mL`, COUNT, y, { width: 84 });
        sheet.fontSize(11).text(pick.name, WHAT, y, { width: 174 });
        const below = sheet.y;
        sheet
          .font('text')
          .fontSize(9.5)
          .text(pick.codes, CODES, y + 1, { width: WIDTH - (CODES - LEFT) });
        sheet.y = Math.max(below, sheet.y) + 5;
        line(sheet.y, SOFT);
        sheet.y += 7;
      }
      const jars = list.picks.reduce((sum, { count }) => sum + count, 0);
      sheet
        .font('bold')
        .fontSize(12)
        .fillColor(INK)
        .text(`${jars} jars`, LEFT, sheet.y + 6);
      for (const { name, sizeMl, lacks } of list.missing)
        sheet.font('text').fontSize(11).text(`Not there: ${lacks} × ${sizeMl} mL of ${name}`, LEFT);
      sheet
        .moveDown(2)
        .font('text')
        .fontSize(9)
        .fillColor(SOFT)
        .text(`Oldest first. Scan what goes into the crate. Printed ${house.printedAt}`, LEFT);

      function line(y: number, colour: string): void {
        sheet
          .moveTo(LEFT, y)
          .lineTo(LEFT + WIDTH, y)
          .lineWidth(0.5)
          .strokeColor(colour)
          .stroke();
      }
    },
  );
}

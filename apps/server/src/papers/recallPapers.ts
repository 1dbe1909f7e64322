import { INK, paper, type Sheet, SOFT } from './paper.js';

/** A notice to one customer, as it went or will go. */
export interface Notice {
  readonly customer: string;
  readonly address: string | null;
  readonly words: string;
}

export interface RecallReport {
  readonly code: string;
  readonly drill: boolean;
  readonly subject: string;
  readonly scope: string;
  readonly reason: string;
  readonly source: string | null;
  /** Word came, list complete, closed: with the minutes since word came. */
  readonly clock: readonly (readonly [what: string, when: string, after: string])[];
  readonly jars: number;
  readonly runs: number;
  readonly places: readonly {
    readonly name: string;
    readonly jars: number;
    readonly accounted: number;
    readonly stretches: readonly string[];
    readonly notes: readonly string[];
  }[];
  readonly lots: readonly string[];
  readonly outcome: string | null;
  readonly restReason: string | null;
}

const LEFT = 48;
const WIDTH = 499;
const margins = { top: 54, bottom: 54, left: LEFT, right: LEFT };

function rule(sheet: Sheet, colour = SOFT): void {
  sheet
    .moveTo(LEFT, sheet.y)
    .lineTo(LEFT + WIDTH, sheet.y)
    .lineWidth(0.5)
    .strokeColor(colour)
    .stroke();
  sheet.y += 7;
}

/** Notices, each on a page of its own. */
export function recallNotices(
  notices: readonly Notice[],
  of: { code: string; house: string; printedAt: string },
): Promise<Buffer> {
  return paper({ size: 'A4', margins, autoFirstPage: false, info: { Title: `Notices ${of.code}` } }, (sheet) => {
    for (const { customer, address, words } of notices) {
      sheet.addPage();
      sheet.font('bold').fontSize(16).fillColor(INK).text(of.house, LEFT);
      sheet.font('text').fontSize(10).fillColor(SOFT).text(`${of.code} · ${of.printedAt}`).moveDown(2);
      sheet.font('bold').fontSize(12).fillColor(INK).text(customer);
      if (address) sheet.font('text').fontSize(11).text(address);
      sheet.moveDown(1.5).font('text').fontSize(11.5).text(words, { width: WIDTH, lineGap: 2 });
    }
  });
}

/** What a recall was, on paper: its clock, every jar by place, what was answered, what is left. */
export function recallReport(of: RecallReport, house: { name: string; printedAt: string }): Promise<Buffer> {
  return paper({ size: 'A4', margins, info: { Title: `Report ${of.code}` } }, (sheet) => {
    const head = (words: string): void => {
      if (sheet.y > sheet.page.height - 140) sheet.addPage();
      sheet.moveDown(1).font('bold').fontSize(13).fillColor(INK).text(words, LEFT);
      sheet.y += 2;
      rule(sheet, INK);
    };
    sheet
      .font('bold')
      .fontSize(20)
      .fillColor(INK)
      .text(`${of.drill ? 'Recall drill' : 'Recall'} ${of.code}`, LEFT);
    sheet.font('text').fontSize(11).text(of.subject);
    sheet.fontSize(10).fillColor(SOFT).text([house.name, of.scope, of.source].filter(Boolean).join(' · '));
    sheet.fillColor(INK).fontSize(11).moveDown(0.5).text(of.reason);
    head('The clock');
    for (const [what, when, after] of of.clock) {
      const y = sheet.y;
      sheet.font('bold').fontSize(10.5).text(what, LEFT, y, { width: 170 });
      sheet.font('text').text(when, LEFT + 176, y, { width: 190 });
      sheet.text(after, LEFT + 370, y, { width: WIDTH - 370, align: 'right' });
      sheet.y += 4;
    }
    const accounted = of.places.reduce((sum, one) => sum + one.accounted, 0);
    head(`${of.jars} jars of ${of.runs} runs: ${accounted} accounted for, ${of.jars - accounted} not`);
    for (const place of of.places) {
      if (sheet.y > sheet.page.height - 110) sheet.addPage();
      const y = sheet.y;
      sheet.font('bold').fontSize(11).fillColor(INK).text(place.name, LEFT, y, { width: 330 });
      const below = sheet.y;
      sheet
        .font('bold')
        .text(`${place.accounted} of ${place.jars}`, LEFT + 340, y, { width: WIDTH - 340, align: 'right' });
      sheet.y = below;
      sheet.font('text').fontSize(9).fillColor(SOFT);
      for (const line of [...place.notes, ...place.stretches]) sheet.text(line, LEFT, sheet.y, { width: WIDTH });
      sheet.y += 3;
      rule(sheet);
    }
    head('Lots it reaches');
    sheet.font('text').fontSize(9.5).fillColor(INK).text(of.lots.join(' · '), LEFT, sheet.y, { width: WIDTH });
    if (of.outcome) {
      head('What came of it');
      sheet.font('text').fontSize(11).text(of.outcome);
      if (of.restReason) sheet.moveDown(0.5).text(`Of the jars nobody can account for: ${of.restReason}`);
    }
    sheet
      .moveDown(3)
      .font('text')
      .fontSize(9)
      .fillColor(SOFT)
      .text('Signed: ______________________        ______________________', LEFT)
      .moveDown(1)
      .text(`${of.code} · printed ${house.printedAt}`, LEFT);
  });
}

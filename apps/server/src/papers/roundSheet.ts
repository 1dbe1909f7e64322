import type { FloorReply } from '@clear-tally/contract';
import { INK, paper, SOFT, type Sheet } from './paper.js';

const LEFT = 42;
const WIDTH = 511;

/** The round on paper, for a dead tablet: every vessel in walking order with what is due, and room to write. */
export function roundSheet(floor: FloorReply, house: { name: string; printedAt: string }): Promise<Buffer> {
  return paper(
    { size: 'A4', margins: { top: 42, bottom: 40, left: LEFT, right: LEFT }, info: { Title: 'Round' } },
    (sheet) => {
      head(sheet, house);
      for (const room of floor.rooms) {
        const vessels = floor.vessels.filter(({ roomId }) => roomId === room.id);
        if (vessels.length === 0) continue;
        newPageFor(sheet, 60);
        sheet
          .moveDown(0.6)
          .font('bold')
          .fontSize(13)
          .fillColor(INK)
          .text(room.name, LEFT)
          .font('text')
          .fontSize(9.5)
          .fillColor(SOFT)
          .text('Room °C: ________      Time: ________      By: ________', LEFT)
          .moveDown(0.3);
        for (const vessel of vessels) {
          newPageFor(sheet, 46);
          const y = sheet.y;
          const open = vessel.checks.filter(({ state }) => state === 'due' || state === 'late');
          sheet
            .font('bold')
            .fontSize(13)
            .fillColor(INK)
            .text(vessel.vesselTag, LEFT, y, { width: 46, lineBreak: false });
          sheet
            .font('text')
            .fontSize(9.5)
            .fillColor(INK)
            .text(
              `day ${vessel.day}, ${vessel.lastPh === null ? 'no pH yet' : `pH ${vessel.lastPh.toFixed(2)}${vessel.phCounts ? '' : ' (does not count)'}`} · ${vessel.name}`,
              LEFT + 48,
              y + 1,
              { width: 250, height: 12, ellipsis: true },
            );
          if (vessel.hold)
            sheet
              .font('bold')
              .fontSize(9)
              .text(`ON HOLD: ${vessel.hold}`, LEFT + 48, y + 14, { width: WIDTH - 60, height: 11, ellipsis: true });
          sheet
            .font('text')
            .fontSize(9.5)
            .fillColor(SOFT)
            .text('pH ______   blended / brine   °C ______', LEFT + 310, y + 1, { width: 210, lineBreak: false });
          sheet
            .fillColor(INK)
            .text(
              open.length === 0
                ? 'nothing due'
                : open.map(({ name, state }) => `[  ] ${name}${state === 'late' ? ' (LATE)' : ''}`).join('    '),
              LEFT + 48,
              y + (vessel.hold ? 27 : 15),
              { width: WIDTH - 60 },
            );
          sheet
            .moveTo(LEFT, sheet.y + 4)
            .lineTo(LEFT + WIDTH, sheet.y + 4)
            .lineWidth(0.4)
            .strokeColor(SOFT)
            .stroke();
          sheet.y += 9;
        }
      }
      sheet
        .moveDown()
        .font('text')
        .fontSize(8.5)
        .fillColor(SOFT)
        .text(
          'Type it in when the tablet lives again: the time it was read and the time it was typed are both kept. Do not taste above pH 4.6, nor from a vessel on hold.',
          LEFT,
          sheet.y,
          { width: WIDTH },
        );
    },
  );
}

function head(sheet: Sheet, house: { name: string; printedAt: string }): void {
  sheet.font('bold').fontSize(19).fillColor(INK).text('Round', LEFT, 42);
  sheet.font('text').fontSize(10).fillColor(SOFT).text(`${house.name} · printed ${house.printedAt}`, LEFT);
}

function newPageFor(sheet: Sheet, height: number): void {
  if (sheet.y + height > sheet.page.height - 50) sheet.addPage();
}

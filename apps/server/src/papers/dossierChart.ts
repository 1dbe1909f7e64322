import type { DossierReply } from '@clear-tally/contract';
import { BEET, HAIR, LEFT, WIDTH } from './dossierTable.js';
import { INK, type Sheet, SOFT } from './paper.js';

/** pH over the days, the limit and the deadline, as the page shows it. */
export function chart(sheet: Sheet, of: DossierReply, vessel: DossierReply['vessels'][number]): void {
  const [x0, y0, w, h] = [LEFT + 26, sheet.y + 8, WIDTH - 40, 120];
  const days = vessel.phs.map(({ at }) => (Date.parse(at) - Date.parse(vessel.filledAt)) / 86_400_000);
  const last = Math.max(1, ...days, Math.min(vessel.deadlineDays ?? 0, 12));
  const [low, high] = [3, Math.max(6.5, ...vessel.phs.map(({ value }) => value))];
  const x = (at: number): number => x0 + (Math.max(0, at) / last) * w;
  const y = (ph: number): number => y0 + h - ((Math.max(low, ph) - low) / (high - low)) * h;
  sheet.font('figures').fontSize(8).fillColor(SOFT);
  for (let ph = low; ph <= high; ph += 1) {
    sheet
      .moveTo(x0, y(ph))
      .lineTo(x0 + w, y(ph))
      .lineWidth(0.4)
      .strokeColor(HAIR)
      .stroke();
    sheet.text(String(ph), LEFT, y(ph) - 4, { width: 20, align: 'right', lineBreak: false });
  }
  const step = Math.max(1, Math.ceil(last / 10));
  for (let day = 0; day <= last; day += step)
    sheet.text(String(day), x(day) - 10, y0 + h + 4, { width: 20, align: 'center', lineBreak: false });
  sheet
    .moveTo(x0, y(of.acidLimit))
    .lineTo(x0 + w, y(of.acidLimit))
    .lineWidth(1)
    .strokeColor(BEET)
    .stroke();
  if (vessel.deadlineDays !== null && vessel.deadlineDays <= last)
    sheet
      .moveTo(x(vessel.deadlineDays), y0)
      .lineTo(x(vessel.deadlineDays), y0 + h)
      .dash(3, { space: 3 })
      .strokeColor(BEET)
      .stroke()
      .undash();
  sheet.lineWidth(1.2).strokeColor(INK);
  vessel.phs.forEach(({ value }, i) =>
    i === 0 ? sheet.moveTo(x(days[i]!), y(value)) : sheet.lineTo(x(days[i]!), y(value)),
  );
  sheet.stroke();
  for (const [i, { value, counts }] of vessel.phs.entries())
    sheet
      .circle(x(days[i]!), y(value), 2.6)
      .lineWidth(1.2)
      .fillAndStroke(counts ? INK : '#ffffff', INK);
  sheet.x = LEFT;
  sheet.y = y0 + h + 16;
  sheet
    .font('text')
    .fontSize(8.5)
    .fillColor(SOFT)
    .text(
      `pH over the days since filling; line: house limit ${of.acidLimit}${vessel.deadlineDays === null ? '' : `; dashed: 4.6 due by day ${vessel.deadlineDays.toFixed(1)}`}; filled points count for release.`,
      LEFT,
      sheet.y,
      { width: WIDTH },
    )
    .moveDown(0.4);
}

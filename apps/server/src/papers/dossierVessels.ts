import type { DossierReply } from '@clear-tally/contract';
import { formatGrams, formatPercent } from '@clear-tally/core';
import { chart } from './dossierChart.js';
import { type Clock, LEFT, room, says, section, table, WIDTH } from './dossierTable.js';
import { INK, type Sheet } from './paper.js';

/** How the salt was computed, step by step. */
export function workings(sheet: Sheet, of: DossierReply): void {
  section(sheet, 'Why the salt is what it is');
  if (of.workings.length === 0) return says(sheet, 'No formula is known of it.');
  for (const one of of.workings) {
    room(sheet, 56);
    sheet
      .font('bold')
      .fontSize(10)
      .fillColor(INK)
      .text(`${one.batchCode}, ${one.formula}`, LEFT, sheet.y, { width: WIDTH });
    sheet
      .font('text')
      .text(`${one.working.rule}: `, { continued: true })
      .font('figures')
      .fontSize(9.5)
      .text(`${one.working.figures} = ${one.working.answer}`);
    says(
      sheet,
      `Weighed in: ${formatGrams(one.inGrams)} of ${formatGrams(one.targetGrams)}${one.accepted ? `. Accepted by a reviewer: ${one.accepted}` : ''}`,
    );
    sheet.moveDown(0.4);
  }
}

/** A vessel's time: its chart, readings, checks and findings. */
export function vesselSection(
  sheet: Sheet,
  of: DossierReply,
  vessel: DossierReply['vessels'][number],
  moment: Clock,
): void {
  section(sheet, `${vessel.code}, vessel ${vessel.vesselTag}`, 240);
  says(
    sheet,
    [
      `Filled ${moment(vessel.filledAt)}`,
      `acid: ${vessel.acid}`,
      vessel.salt.waterPhase === null
        ? 'its salt is not known'
        : `${formatPercent(vessel.salt.waterPhase)} salt in its water phase`,
      `${vessel.checksMade} checks made`,
      vessel.missed.length > 0 ? `NEVER MADE: ${vessel.missed.join(', ')}` : 'none missed',
    ].join(' · '),
  );
  if (vessel.phs.length > 0) chart(sheet, of, vessel);
  table(
    sheet,
    [
      { head: 'When', width: 104 },
      { head: 'pH', width: 46, right: true, figures: true },
      { head: 'Sample', width: 70 },
      { head: 'Meter', width: 60 },
      { head: 'For release', width: 160 },
      { head: 'By', width: 71 },
    ],
    vessel.phs.map((one) => [
      moment(one.at),
      one.value.toFixed(2),
      one.sample ?? '',
      one.meter ?? 'none named',
      one.counts ? 'counts' : 'for watching only',
      one.by,
    ]),
  );
  if (vessel.celsius.length > 0) {
    const all = vessel.celsius.map(({ value }) => value);
    sheet.moveDown(0.3);
    says(
      sheet,
      `${all.length} temperatures, ${Math.min(...all).toFixed(1)} to ${Math.max(...all).toFixed(1)} °C, mean ${(all.reduce((sum, one) => sum + one, 0) / all.length).toFixed(1)} °C.`,
    );
  }
}

import type { DossierReply } from '@clear-tally/contract';
import { calendarDay, doorWords, formatGrams } from '@clear-tally/core';
import { type Clock, says, section, table } from './dossierTable.js';
import type { Sheet } from './paper.js';

/** What went in: lots, suppliers, what was seen at the door. */
export function supplies(sheet: Sheet, of: DossierReply, day: Clock): void {
  section(sheet, 'Supplies');
  if (of.supplies.length === 0) return says(sheet, 'None is known: it stood there before these records began.');
  table(
    sheet,
    [
      { head: 'Lot', width: 70, figures: true },
      { head: 'What, from whom', width: 158 },
      { head: 'Their lot', width: 88, figures: true },
      { head: 'Received', width: 74 },
      { head: 'Taken', width: 60, right: true, figures: true },
      { head: 'Allergens', width: 61 },
    ],
    of.supplies.map((one) => [
      one.code,
      [
        one.name,
        one.supplier,
        one.useBy ? `use by ${calendarDay(one.useBy)}` : null,
        doorWords(one.door),
        one.condition,
      ]
        .filter(Boolean)
        .join(', '),
      one.theirs ?? '',
      day(one.receivedAt),
      formatGrams(one.grams),
      one.allergens.join(', '),
    ]),
  );
}

const KINDS: Readonly<Record<string, string>> = { batch: 'Batch', preparation: 'Preparation', fill: 'Vessel' };

/** Every lot between a supply and the jars. */
export function lots(sheet: Sheet, of: DossierReply, moment: Clock): void {
  section(sheet, 'Lots on its way');
  table(
    sheet,
    [
      { head: 'Lot', width: 104, figures: true },
      { head: 'What', width: 207 },
      { head: 'From', width: 100 },
      { head: 'Came in', width: 100, right: true, figures: true },
    ],
    of.lots.map((one) => [
      one.code,
      [
        one.finish ?? KINDS[one.kind] ?? one.kind,
        one.name,
        one.vesselTag ? `in ${one.vesselTag}` : null,
        one.elsewhere ? 'of another batch: see its own dossier' : null,
      ]
        .filter(Boolean)
        .join(', '),
      moment(one.at),
      formatGrams(one.grams),
    ]),
  );
}

import type { DossierReply } from '@clear-tally/contract';
import { STORAGE_WORDS } from '@clear-tally/core';
import { type Clock, BOTTOM, feet, LEFT, WIDTH } from './dossierTable.js';
import { INK, paper, type Sheet, SOFT } from './paper.js';
import { lots, supplies } from './dossierSupplies.js';
import { vesselSection, workings } from './dossierVessels.js';
import { book, conditions, heat, jars, ledger } from './dossierEnd.js';

export interface DossierPrint {
  readonly printedAt: string;
  readonly timeZone: string;
}

/** The dossier of a run on paper, A4: one section after the other, as an inspector asks for them. */
export function dossier(of: DossierReply, { printedAt, timeZone }: DossierPrint): Promise<Buffer> {
  const { run } = of.run;
  const day = formatter(timeZone, { day: 'numeric', month: 'short', year: 'numeric' });
  const moment = formatter(timeZone, {
    day: '2-digit',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  return paper(
    {
      size: 'A4',
      margins: { top: 46, bottom: BOTTOM, left: LEFT, right: LEFT },
      bufferPages: true,
      info: { Title: `Dossier ${run.code}` },
    },
    (sheet) => {
      head(sheet, of, day);
      supplies(sheet, of, day);
      lots(sheet, of, moment);
      workings(sheet, of);
      for (const vessel of of.vessels) vesselSection(sheet, of, vessel, moment);
      heat(sheet, of, moment);
      conditions(sheet, of, moment);
      jars(sheet, of, moment);
      book(sheet, of, moment);
      ledger(sheet, of);
      feet(sheet, `${of.house} · dossier of ${run.code} · written ${printedAt}`);
    },
  );
}

const formatter = (timeZone: string, options: Intl.DateTimeFormatOptions): Clock => {
  const format = new Intl.DateTimeFormat('en-GB', { timeZone, ...options });
  return (iso) => format.format(new Date(iso)).replace(',', '');
};

export function head(sheet: Sheet, of: DossierReply, day: Clock): void {
  const { run, signatures } = of.run;
  sheet.font('text').fontSize(10).fillColor(SOFT).text(`${of.house} · lot dossier`, LEFT);
  sheet.font('bold').fontSize(21).fillColor(INK).text(`${run.name}`);
  sheet.font('figures').fontSize(14).text(run.code);
  const last = signatures.at(-1);
  const words = [
    `${run.jars} jars, packed ${day(run.packedAt)} by ${run.packedBy}`,
    run.storage ? `kept: ${STORAGE_WORDS[run.storage]}` : 'where it is kept was not said',
    last ? `${last.what} by ${last.by}, ${day(last.at)}` : 'not released',
    run.hold ? `ON HOLD: ${run.hold}` : null,
  ];
  sheet.moveDown(0.3).font('text').fontSize(11).text(words.filter(Boolean).join(' · '), { width: WIDTH });
  sheet
    .moveDown(0.5)
    .fontSize(9)
    .fillColor(SOFT)
    .text(
      'Written from the house’s own ledger. It says what was recorded and whether the limits set in this house are met; local food law and the competent authority decide over all of it.',
      { width: WIDTH },
    );
}

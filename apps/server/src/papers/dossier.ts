import type { DossierReply } from '@clear-tally/contract';
import { calendarDay, doorWords, formatGrams, formatPercent, STORAGE_WORDS } from '@clear-tally/core';
import { chart } from './dossierChart.js';
import { BOTTOM, feet, LEFT, room, says, section, table, WIDTH } from './dossierTable.js';
import { INK, paper, type Sheet, SOFT } from './paper.js';

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

type Clock = (iso: string) => string;

const formatter = (timeZone: string, options: Intl.DateTimeFormatOptions): Clock => {
  const format = new Intl.DateTimeFormat('en-GB', { timeZone, ...options });
  return (iso) => format.format(new Date(iso)).replace(',', '');
};

function head(sheet: Sheet, of: DossierReply, day: Clock): void {
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

function supplies(sheet: Sheet, of: DossierReply, day: Clock): void {
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

function lots(sheet: Sheet, of: DossierReply, moment: Clock): void {
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

function workings(sheet: Sheet, of: DossierReply): void {
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

function vesselSection(sheet: Sheet, of: DossierReply, vessel: DossierReply['vessels'][number], moment: Clock): void {
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

function heat(sheet: Sheet, of: DossierReply, moment: Clock): void {
  if (of.heat.loads.length === 0) return;
  section(sheet, 'Heat');
  for (const load of of.heat.loads) {
    room(sheet, 80);
    const stands = { met: 'meets its process', notMet: 'DOES NOT MEET ITS PROCESS', missing: 'lacks something' }[
      load.stands
    ];
    sheet
      .font('bold')
      .fontSize(10)
      .fillColor(INK)
      .text(
        `Jars ${load.first} to ${load.last}: ${load.process}, ${moment(load.startedAt)} by ${load.by}: ${load.anew ? 'heated anew since' : stands}`,
        LEFT,
        sheet.y,
        { width: WIDTH },
      );
    table(
      sheet,
      [
        { head: 'Point', width: 190 },
        { head: '', width: 61 },
        { head: 'Recorded', width: 260 },
      ],
      load.rows.map((row) => [row.words, { met: 'met', notMet: 'NOT MET', missing: 'missing' }[row.state], row.now]),
    );
    if (load.lethality) says(sheet, load.lethality);
    sheet.moveDown(0.4);
  }
}

function conditions(sheet: Sheet, of: DossierReply, moment: Clock): void {
  section(sheet, 'Conditions of its release, by what is known now');
  table(
    sheet,
    [
      { head: 'Condition', width: 190 },
      { head: '', width: 61 },
      { head: 'Facts', width: 260 },
    ],
    of.run.conditions
      .filter(({ key }) => key !== 'review')
      .map((row) => [row.words, row.state === 'open' ? 'OPEN' : row.state, row.now]),
  );
  sheet.moveDown(0.4);
  if (of.run.signatures.length === 0) says(sheet, 'Nobody has signed it.');
  for (const one of of.run.signatures)
    says(
      sheet,
      `${one.what === 'released' ? 'Released' : 'Withdrawn'} by ${one.by}, ${moment(one.at)}${one.own ? ', who packed it' : ''}${one.reason ? `: ${one.reason}` : ''}${one.excuses.map(({ words, reason }) => `; excused: ${words}: ${reason}`).join('')}`,
    );
  if (of.run.made.length > 0) {
    section(sheet, 'Looked at after packing');
    table(
      sheet,
      [
        { head: 'When', width: 104 },
        { head: 'What', width: 150 },
        { head: 'Says', width: 207 },
        { head: 'By', width: 50 },
      ],
      of.run.made.map((one) => [moment(one.at), one.what, [one.says, one.note].filter(Boolean).join(', '), one.by]),
    );
  }
}

function jars(sheet: Sheet, of: DossierReply, moment: Clock): void {
  section(sheet, 'Where its jars are');
  table(
    sheet,
    [
      { head: 'Jars', width: 80, figures: true },
      { head: 'Codes', width: 196, figures: true },
      { head: 'Where', width: 135 },
      { head: 'Since', width: 100 },
    ],
    of.run.jars.map((one) => [
      `${one.count} × ${one.sizeMl} mL`,
      one.count === 1 ? one.firstCode : `${one.firstCode} to ${one.lastCode.slice(-7)}`,
      [one.where, one.kept].filter(Boolean).join('; '),
      one.since ? moment(one.since) : '',
    ]),
  );
  const t = of.tally;
  sheet.moveDown(0.3);
  says(
    sheet,
    `Tally: in ${formatGrams(t.inGrams)}; out ${formatGrams(t.outGrams)}; losses ${formatGrams(t.lossGrams)}; on hand ${formatGrams(t.onHandGrams)}; ${t.clear ? `clear within ± ${formatGrams(t.toleranceGrams)}` : `NOT CLEAR: ${formatGrams(Math.abs(t.unexplainedGrams))} ${t.unexplainedGrams > 0 ? 'unexplained' : 'too many'}`}.`,
  );
}

function book(sheet: Sheet, of: DossierReply, moment: Clock): void {
  section(sheet, 'The book: every line of it');
  table(
    sheet,
    [
      { head: 'When', width: 98 },
      { head: 'What', width: 150 },
      { head: 'Figure', width: 84, right: true, figures: true },
      { head: 'Words', width: 147 },
      { head: 'By', width: 32 },
    ],
    of.lines.map((line) => [
      moment(line.at),
      [line.lotCode, line.what].filter(Boolean).join(' '),
      [line.figure, ...line.struck.map((figure) => `(struck: ${figure})`)].filter(Boolean).join(' '),
      line.words ?? '',
      line.by,
    ]),
    (index) => of.lines[index]!.struckOut,
  );
}

function ledger(sheet: Sheet, of: DossierReply): void {
  section(sheet, 'The ledger it was written from', 90);
  says(
    sheet,
    `${of.ledger.entries} entries, each chained to the one before by SHA-256. Whoever holds the end of the chain can prove later that nothing before it was changed. The end when this was written:`,
  );
  sheet.moveDown(0.2).font('figures').fontSize(9).fillColor(INK).text(of.ledger.hash, LEFT, sheet.y, { width: WIDTH });
  sheet.moveDown(1.6).font('text').fontSize(9).fillColor(SOFT);
  sheet.text('Seen by ______________________        Date ______________        Signature ______________________', LEFT);
}

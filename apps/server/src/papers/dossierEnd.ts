import type { DossierReply } from '@clear-tally/contract';
import { formatGrams } from '@clear-tally/core';
import { type Clock, LEFT, room, says, section, table, WIDTH } from './dossierTable.js';
import { INK, type Sheet, SOFT } from './paper.js';

/** Loads of jars that were heated, each with its probe's figures and what was decided. */
export function heat(sheet: Sheet, of: DossierReply, moment: Clock): void {
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

/** Every condition of the release, met or not, with its facts. */
export function conditions(sheet: Sheet, of: DossierReply, moment: Clock): void {
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

/** Where the jars are, and who has some. */
export function jars(sheet: Sheet, of: DossierReply, moment: Clock): void {
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

/** The lines of the book, corrected ones struck through. */
export function book(sheet: Sheet, of: DossierReply, moment: Clock): void {
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

/** Every movement of the ledger behind it. */
export function ledger(sheet: Sheet, of: DossierReply): void {
  section(sheet, 'The ledger it was written from', 90);
  says(
    sheet,
    `${of.ledger.entries} entries, each chained to the one before by SHA-256. Whoever holds the end of the chain can prove later that nothing before it was changed. The end when this was written:`,
  );
  sheet.moveDown(0.2).font('figures').fontSize(9).fillColor(INK).text(of.ledger.hash, LEFT, sheet.y, { width: WIDTH });
  sheet.moveDown(1.6).font('text').fontSize(9).fillColor(SOFT);
  sheet.text('Seen by ______________________        Date ______________        Signature ______________________', LEFT);
}

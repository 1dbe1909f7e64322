import type { DossierReply } from '@clear-tally/contract';
import { formatGrams, formatPercent, STORAGE_WORDS } from '@clear-tally/core';
import { INK, paper, type Sheet, SOFT } from './paper.js';

const LEFT = 42;
const WIDTH = 511;
const BOTTOM = 60;
const BEET = '#8a1c4a';
const HAIR = '#c9d1cf';

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

function section(sheet: Sheet, title: string, needs = 70): void {
  room(sheet, needs);
  sheet.x = LEFT;
  sheet.moveDown(0.9).font('bold').fontSize(14).fillColor(INK).text(title, LEFT).moveDown(0.25);
}

function room(sheet: Sheet, needs: number): void {
  if (sheet.y + needs > sheet.page.height - BOTTOM) sheet.addPage();
}

interface Column {
  readonly head: string;
  readonly width: number;
  readonly right?: true;
  readonly figures?: true;
}

/** Rows of a table; a row is as high as its highest cell, and its head stands again on each page. */
function table(
  sheet: Sheet,
  columns: readonly Column[],
  lines: readonly (readonly string[])[],
  struck?: (index: number) => boolean,
): void {
  const heads = (): void => {
    const y = sheet.y;
    sheet.font('text').fontSize(8.5).fillColor(SOFT);
    let x = LEFT;
    for (const { head: words, width, right } of columns) {
      sheet.text(words, x, y, { width: width - 8, align: right ? 'right' : 'left', lineBreak: false });
      x += width;
    }
    hair(sheet, y + 12, INK);
    sheet.y = y + 16;
  };
  room(sheet, 46);
  heads();
  for (const [index, cells] of lines.entries()) {
    sheet.fontSize(9);
    const height = Math.max(
      ...cells.map((words, i) =>
        sheet
          .font(columns[i]!.figures ? 'figures' : 'text')
          .heightOfString(words || ' ', { width: columns[i]!.width - 8 }),
      ),
    );
    if (sheet.y + height + 6 > sheet.page.height - BOTTOM) {
      sheet.addPage();
      heads();
    }
    const y = sheet.y;
    let x = LEFT;
    for (const [i, words] of cells.entries()) {
      const { width, right, figures } = columns[i]!;
      sheet
        .font(figures ? 'figures' : 'text')
        .fontSize(9)
        .fillColor(struck?.(index) ? BEET : INK)
        .text(words, x, y, { width: width - 8, align: right ? 'right' : 'left', strike: struck?.(index) ?? false });
      x += width;
    }
    hair(sheet, y + height + 3, HAIR);
    sheet.y = y + height + 6;
  }
  sheet.x = LEFT;
}

function hair(sheet: Sheet, y: number, color: string): void {
  sheet
    .moveTo(LEFT, y)
    .lineTo(LEFT + WIDTH, y)
    .lineWidth(0.5)
    .strokeColor(color)
    .stroke();
}

const says = (sheet: Sheet, words: string): void =>
  void sheet.font('text').fontSize(10).fillColor(INK).text(words, LEFT, sheet.y, { width: WIDTH });

function supplies(sheet: Sheet, of: DossierReply, day: Clock): void {
  section(sheet, 'Supplies');
  if (of.supplies.length === 0) return says(sheet, 'None is known: it stood there before the ledger began.');
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
      [one.name, one.supplier, one.useBy ? `use by ${one.useBy}` : null, one.condition].filter(Boolean).join(', '),
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

/** pH over the days, the limit and the deadline, as the page shows it. */
function chart(sheet: Sheet, of: DossierReply, vessel: DossierReply['vessels'][number]): void {
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

function feet(sheet: Sheet, words: string): void {
  const { count } = sheet.bufferedPageRange();
  for (let i = 0; i < count; i += 1) {
    sheet.switchToPage(i);
    // Below the margin pdfkit would begin a page of its own.
    sheet.page.margins.bottom = 0;
    sheet
      .font('text')
      .fontSize(8)
      .fillColor(SOFT)
      .text(`${words} · page ${i + 1} of ${count}`, LEFT, sheet.page.height - 34, { width: WIDTH, lineBreak: false });
  }
}

import { formatPercent, saltBand, SALT_BANDS, saltOtherwise, splitGrams } from '@clear-tally/core';
import { aimWords } from './aimWords.js';
import type { AskedBatch } from './asked.js';
import { INK, paper, SOFT, type Sheet as Doc } from './paper.js';

const LEFT = 42;
const WIDTH = 511;

/**
 * The worksheet of a scaled batch, A4: what to weigh with room to write what was weighed, the steps with
 * boxes, and the working of every figure. For a dead tablet and for the folder.
 */
export function worksheet(asked: AskedBatch, house: { name: string; printedAt: string }): Promise<Buffer> {
  const { formula, scaled } = asked;
  return paper(
    {
      size: 'A4',
      margins: { top: 42, bottom: 46, left: LEFT, right: LEFT },
      bufferPages: true,
      info: { Title: `Worksheet ${formula.name}` },
    },
    (doc) => {
      head(doc, asked, house);
      weighing(doc, asked);
      saltWords(doc, asked);
      if (scaled.holes.length > 0)
        list(
          doc,
          'Still open',
          scaled.holes.map(({ words, blocks }) => `${words}${blocks ? ' A batch cannot start before.' : ''}`),
          '!',
        );
      if (formula.steps.length > 0)
        list(
          doc,
          'Steps',
          formula.steps.map(({ words, minutes }) => `${words}${minutes ? ` (${minutes} min)` : ''}`),
          'box',
        );
      workings(doc, asked);
      feet(doc, `${house.name} · ${formula.name}, version ${formula.version} · printed ${house.printedAt}`);
    },
  );
}

function head(doc: Doc, asked: AskedBatch, house: { name: string }): void {
  const { formula, query } = asked;
  doc.font('text').fontSize(10).fillColor(SOFT).text(`${house.name} · worksheet`);
  doc.font('bold').fontSize(20).fillColor(INK).text(formula.name);
  doc
    .font('text')
    .fontSize(12)
    .text(
      `formula ${formula.number}, version ${formula.version}${query.variant ? ` · ${query.variant}` : ''} · for ${aimWords(asked)}`,
    );
  doc
    .moveDown(0.4)
    .fontSize(10)
    .fillColor(SOFT)
    .text('Batch ______________________    Date ______________    Made by ______________    Scale ______________');
  doc.moveDown(0.8).fillColor(INK);
}

const COLUMNS = [
  { x: LEFT, width: 210 },
  { x: LEFT + 214, width: 74 },
  { x: LEFT + 292, width: 24 },
  { x: LEFT + 326, width: 90 },
  { x: LEFT + 426, width: 85 },
] as const;

function weighing(doc: Doc, { scaled }: AskedBatch): void {
  doc.font('bold').fontSize(13).text('To weigh').moveDown(0.2);
  headRow(doc, ['', 'wanted', '', 'weighed', 'lot, initials']);
  for (const line of scaled.lines) {
    room(doc, 24);
    const y = doc.y;
    const figure = line.grams === null ? { value: line.working.answer, unit: '' } : splitGrams(line.grams);
    doc
      .font(line.role === 'salt' ? 'bold' : 'text')
      .fontSize(11)
      .fillColor(INK)
      .text(
        `${line.name}${line.pieces === null ? '' : `, ${line.pieces} ${line.pieceName ?? 'pieces'}`}`,
        COLUMNS[0].x,
        y + 4,
        { width: COLUMNS[0].width, height: 14, ellipsis: true },
      );
    doc
      .font('figures')
      .fontSize(12)
      .text(figure.value, COLUMNS[1].x, y + 3, { width: COLUMNS[1].width, align: 'right' });
    doc
      .font('text')
      .fontSize(10)
      .text(figure.unit, COLUMNS[2].x, y + 4, { width: COLUMNS[2].width });
    rule(doc, y + 21, '#c9d1cf');
    for (const { x, width } of COLUMNS.slice(3))
      doc
        .moveTo(x, y + 18)
        .lineTo(x + width, y + 18)
        .lineWidth(0.6)
        .strokeColor(INK)
        .stroke();
    doc.y = y + 23;
  }
  doc.moveDown(0.5).x = LEFT;
  doc
    .font('text')
    .fontSize(11)
    .text(
      `Trimmed in all ${grams(scaled.produceGrams)}. To buy ${grams(scaled.chain.boughtGrams)}. The salt follows the trimmed weight as weighed: when that differs, compute it again.`,
      { width: WIDTH },
    );
  doc.moveDown(0.6);
}

function saltWords(doc: Doc, { formula, scaled }: AskedBatch): void {
  const band = SALT_BANDS.find((one) => one.band === saltBand(scaled.waterPhaseSalt))!;
  room(doc, 80);
  doc.font('bold').fontSize(13).text('Why the salt is what it is', LEFT).moveDown(0.2);
  doc
    .font('text')
    .fontSize(11)
    .text(`${scaled.workings.salt.rule}: `, { continued: true })
    .font('figures')
    .fontSize(10)
    .text(`${scaled.workings.salt.figures} = ${scaled.workings.salt.answer}`);
  doc
    .font('text')
    .fontSize(11)
    .text(
      `In the water phase once it has evened out, by this plan: ${formatPercent(scaled.waterPhaseSalt)}${scaled.heavy ? ', an estimate until the drained juice is measured' : ''}. ${band.words}. A vessel’s own figure is taken from what is weighed into it.`,
    );
  const { produceGrams: vegetableGrams, waterGrams, saltGrams } = scaled;
  const said = saltOtherwise({ vegetableGrams, waterGrams, saltGrams }).join(' · ');
  doc.fillColor(SOFT).text(`The same salt, said otherwise: ${said}.`).fillColor(INK);
  if (formula.outsideScope) doc.font('bold').text(formula.outsideScope).font('text');
  doc.moveDown(0.6);
}

function list(doc: Doc, title: string, lines: readonly string[], mark: 'box' | '!'): void {
  room(doc, 50);
  doc.font('bold').fontSize(13).fillColor(INK).text(title, LEFT).moveDown(0.2);
  for (const line of lines) {
    doc.font('text').fontSize(11);
    room(doc, doc.heightOfString(line, { width: WIDTH - 20 }) + 6);
    const y = doc.y;
    if (mark === 'box')
      doc
        .rect(LEFT + 1, y + 2, 9, 9)
        .lineWidth(0.8)
        .strokeColor(INK)
        .stroke();
    else doc.font('bold').text('!', LEFT + 3, y);
    doc.font('text').text(line, LEFT + 20, y, { width: WIDTH - 20 });
    doc.y += 3;
  }
  doc.moveDown(0.5).x = LEFT;
}

function workings(doc: Doc, { scaled }: AskedBatch): void {
  room(doc, 60);
  doc.font('bold').fontSize(13).fillColor(INK).text('The workings', LEFT).moveDown(0.2);
  const all = [
    { name: 'Trimmed', working: scaled.workings.trimmed },
    { name: 'To buy', working: scaled.workings.bought },
    ...scaled.lines.filter((line) => line.role !== 'salt' || line.key !== 'salt'),
    { name: 'Water-phase salt, planned', working: scaled.workings.waterPhaseSalt },
  ];
  for (const { name, working } of all) {
    const from = working.sources.map((source) => `${source.what}: ${source.from}`).join('; ');
    doc.font('text').fontSize(9);
    room(doc, doc.heightOfString(from, { width: WIDTH }) + 30);
    doc
      .font('bold')
      .fontSize(10)
      .fillColor(INK)
      .text(`${name} = ${working.answer}`, LEFT, doc.y, { continued: true })
      .font('text')
      .text(`   ${working.rule}`);
    doc.font('figures').fontSize(9).text(working.figures, { width: WIDTH });
    doc.font('text').fillColor(SOFT).text(from, { width: WIDTH }).moveDown(0.4);
  }
}

function feet(doc: Doc, words: string): void {
  const { start, count } = doc.bufferedPageRange();
  for (let page = start; page < start + count; page += 1) {
    doc.switchToPage(page);
    // Below the margin a text would open a new page: the margin steps aside for the foot.
    doc.page.margins.bottom = 0;
    doc
      .font('text')
      .fontSize(8)
      .fillColor(SOFT)
      .text(
        `${words} · ${page - start + 1} of ${count} · Clear Tally computes and records; local food law and qualified people decide.`,
        LEFT,
        doc.page.height - 32,
        { width: WIDTH, lineBreak: false },
      );
  }
}

function headRow(doc: Doc, words: readonly string[]): void {
  const y = doc.y;
  words.forEach((word, index) =>
    doc
      .font('text')
      .fontSize(9)
      .fillColor(SOFT)
      .text(word, COLUMNS[index]!.x, y, { width: COLUMNS[index]!.width, align: index === 1 ? 'right' : 'left' }),
  );
  rule(doc, y + 13, INK);
  doc.y = y + 15;
}

const rule = (doc: Doc, y: number, colour: string): void =>
  void doc
    .moveTo(LEFT, y)
    .lineTo(LEFT + WIDTH, y)
    .lineWidth(0.6)
    .strokeColor(colour)
    .stroke();
const grams = (value: number): string => {
  const { value: figure, unit } = splitGrams(value);
  return `${figure} ${unit}`;
};

function room(doc: Doc, height: number): void {
  if (doc.y + height > doc.page.height - doc.page.margins.bottom) doc.addPage();
}

import { type LabelDesign, labelPlace, labelsPerPage, type LaidOut } from '@clear-tally/core';
import { INK, paper, type Sheet } from './paper.js';
import { asRead, eachRun, readBack, symbolModules, type SymbolModules } from './symbol.js';

/** One label of a run, and what is another on each: the code and its symbol. */
export interface JarSheet {
  readonly design: LabelDesign;
  readonly laid: LaidOut;
  /** Code of each jar and what its symbol says. */
  readonly jars: readonly { readonly code: string; readonly content: string }[];
  /** The code that stands in `laid`. */
  readonly codeShown: string;
  /** Places of the first sheet that are used up already. */
  readonly skip: number;
  readonly title: string;
}

const mm = (value: number): number => (value * 72) / 25.4;

/**
 * Labels on their sheets, as many pages as they take. Every symbol is read back from its image first: what cannot be
 * read stops the sheet, with its code.
 */
export async function jarSheet({ design, laid, jars, codeShown, skip, title }: JarSheet): Promise<Buffer> {
  const symbols: (SymbolModules | null)[] = [];
  for (const { code, content } of jars) {
    const symbol = design.symbol ? symbolModules(design.symbol.kind, content) : null;
    if (symbol && asRead((await readBack(design.symbol!.kind, symbol)) ?? '') !== asRead(content))
      throw Object.assign(new Error(`unreadable ${code}`), { unreadable: code });
    symbols.push(symbol);
  }
  const { paper: p } = design;
  const size: [number, number] = [mm(p.pageWidthMm), mm(p.pageHeightMm)];
  return paper({ margin: 0, autoFirstPage: false, info: { Title: title } }, (sheet) => {
    let page = -1;
    for (const [index, { code }] of jars.entries()) {
      const place = labelPlace(p, skip + index);
      if (place.page !== page) {
        sheet.addPage({ size, margin: 0 });
        page = place.page;
      }
      const [x, y] = [place.xMm, place.yMm];
      sheet.fillColor(INK);
      for (const text of laid.texts)
        sheet
          .font(text.bold ? 'bold' : 'text')
          .fontSize(text.points)
          .text(text.words === codeShown ? code : text.words, mm(x + text.xMm), mm(y + text.yMm), {
            lineBreak: false,
            baseline: 'top',
          });
      const symbol = symbols[index];
      if (symbol && laid.symbol)
        drawSymbol(sheet, symbol, { ...laid.symbol, xMm: x + laid.symbol.xMm, yMm: y + laid.symbol.yMm });
    }
    if (labelsPerPage(p) < 1) throw new Error('a sheet has a label at least');
  });
}

function drawSymbol(sheet: Sheet, symbol: SymbolModules, at: { xMm: number; yMm: number; mm: number }): void {
  const wide = mm(at.mm) / symbol.columns;
  const high = symbol.rows === 1 ? mm(at.mm) / symbol.ratio : wide;
  eachRun(symbol, (x, y, count) => sheet.rect(mm(at.xMm) + x * wide, mm(at.yMm) + y * high, count * wide, high));
  sheet.fill('#000000');
}

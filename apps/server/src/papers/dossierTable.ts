import { INK, type Sheet, SOFT } from './paper.js';

export const LEFT = 42;
export const WIDTH = 511;
export const BOTTOM = 60;
export const BEET = '#8a1c4a';
export const HAIR = '#c9d1cf';

/** A moment as it is printed, by the house's clock. */
export type Clock = (iso: string) => string;

export function section(sheet: Sheet, title: string, needs = 70): void {
  room(sheet, needs);
  sheet.x = LEFT;
  sheet.moveDown(0.9).font('bold').fontSize(14).fillColor(INK).text(title, LEFT).moveDown(0.25);
}

export function room(sheet: Sheet, needs: number): void {
  if (sheet.y + needs > sheet.page.height - BOTTOM) sheet.addPage();
}

interface Column {
  readonly head: string;
  readonly width: number;
  readonly right?: true;
  readonly figures?: true;
}

/** Rows of a table; a row is as high as its highest cell, and its head stands again on each page. */
export function table(
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

export const says = (sheet: Sheet, words: string): void =>
  void sheet.font('text').fontSize(10).fillColor(INK).text(words, LEFT, sheet.y, { width: WIDTH });

export function feet(sheet: Sheet, words: string): void {
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

/** A table as it leaves the house: what is shown, in its order. */
export interface Sheet {
  readonly name: string;
  readonly heads: readonly string[];
  /** Figures stay figures. */
  readonly rows: readonly (readonly (string | number | null)[])[];
}

/** A cell that a spreadsheet would take for a formula is kept as the words it is. */
const asWords = (cell: string | number | null): string | number =>
  cell === null
    ? ''
    : typeof cell === 'string' && /^[=+\-@\t\r]/.test(cell) && !/^-[\d.,]+$/.test(cell)
      ? `'${cell}`
      : cell;

/** Every cell as it reads. Comma houses part their columns by a semicolon, as their spreadsheets expect. RFC 4180, UTF-8 with its mark. */
export async function csvOf(sheet: Sheet, decimalMark: 'comma' | 'point'): Promise<string> {
  const { unparse } = (await import('papaparse')).default;
  const text = unparse([[...sheet.heads], ...sheet.rows.map((row) => row.map((cell) => String(asWords(cell))))], {
    delimiter: decimalMark === 'comma' ? ';' : ',',
    newline: '\r\n',
  });
  return `\uFEFF${text}\r\n`;
}

export async function xlsxOf(sheet: Sheet): Promise<ArrayBuffer> {
  const { Workbook } = (await import('exceljs')).default;
  const book = new Workbook();
  const page = book.addWorksheet(sheet.name.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31));
  page.addRow([...sheet.heads]).font = { bold: true };
  page.views = [{ state: 'frozen', ySplit: 1 }];
  for (const row of sheet.rows) page.addRow(row.map(asWords));
  page.columns.forEach((column, i) => {
    const widest = Math.max(...[sheet.heads, ...sheet.rows.slice(0, 200)].map((row) => String(row[i] ?? '').length));
    column.width = Math.min(60, Math.max(8, widest + 2));
  });
  return await book.xlsx.writeBuffer();
}

export function download(name: string, type: string, content: string | ArrayBuffer): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** Prints the table alone, every row of it, whatever the page shows around it. */
export function printOut(sheet: Sheet, under: string): void {
  const paper = document.createElement('section');
  paper.className = 'ct-paper';
  const head = paper.appendChild(document.createElement('h1'));
  head.textContent = sheet.name;
  paper.appendChild(document.createElement('p')).textContent = under;
  const table = paper.appendChild(document.createElement('table'));
  const line = (cells: readonly (string | number | null)[], of: 'th' | 'td', into: HTMLElement): void => {
    const row = into.appendChild(document.createElement('tr'));
    for (const cell of cells) row.appendChild(document.createElement(of)).textContent = String(cell ?? '');
  };
  line(sheet.heads, 'th', table.createTHead());
  const body = table.createTBody();
  sheet.rows.forEach((row) => line(row, 'td', body));
  document.body.appendChild(paper);
  const away = (): void => paper.remove();
  addEventListener('afterprint', away, { once: true });
  print();
}

import { HOUSE_SHEETS, type HouseSheet, type SheetRead, spreadsheetCell } from '@clear-tally/core';

/** A workbook of a house is small; more than this is none. */
const MOST_BYTES = 4_000_000;
/** What it may unfold to: a few thousand rows are a hundredth of it. */
const MOST_UNFOLDED = 80_000_000;

/**
 * The sheets of an XLSX workbook as words; formulas as their result, nothing is run. Rejects with words for whoever
 * chose the file: no workbook, one with macros, one that unfolds to more than a house can hold.
 */
export async function readHouseBook(file: File): Promise<SheetRead[]> {
  if (!/\.xlsx$/i.test(file.name)) throw new Error('This is no XLSX workbook. Take the template, and save it as XLSX.');
  if (file.size > MOST_BYTES) throw new Error(`This workbook is larger than ${MOST_BYTES / 1_000_000} MB.`);
  const bytes = await file.arrayBuffer();
  const inside = listOf(new DataView(bytes));
  if (inside.some(({ name }) => /vbaProject/i.test(name)))
    throw new Error('This workbook holds a program (macros). Save it as a plain XLSX workbook.');
  if (inside.reduce((sum, { size }) => sum + size, 0) > MOST_UNFOLDED)
    throw new Error('This workbook unfolds to more than a house can hold. Nothing of it was read.');
  const { default: excel } = await import('exceljs');
  const book = new excel.Workbook();
  await book.xlsx.load(bytes).catch(() => {
    throw new Error('This workbook cannot be read: it breaks off, or is none.');
  });
  return book.worksheets.map((sheet) => {
    const rows: { row: number; cells: string[] }[] = [];
    sheet.eachRow((row, number) => {
      const cells: string[] = [];
      row.eachCell({ includeEmpty: true }, (cell, column) => {
        // Merged cells say once what stands in them, in the first of them.
        cells[column - 1] = cell.isMerged && cell.master !== cell ? '' : wordsOf(cell.value, cell.text);
      });
      rows.push({ row: number, cells: Array.from(cells, (cell) => cell ?? '') });
    });
    return { name: sheet.name, rows };
  });
}

function wordsOf(value: unknown, shown: string): string {
  const result =
    value !== null && typeof value === 'object' && 'result' in value ? (value as { result: unknown }).result : value;
  if (result instanceof Date) return result.toISOString().slice(0, 10);
  return typeof result === 'number' || typeof result === 'boolean' ? String(result) : shown;
}

/** What a ZIP says it holds, by the list at its end. */
function listOf(view: DataView): { name: string; size: number }[] {
  const found: { name: string; size: number }[] = [];
  const text = new TextDecoder();
  let end = view.byteLength - 22;
  while (end >= 0 && view.getUint32(end, true) !== 0x06054b50) end -= 1;
  if (end < 0) throw new Error('This is no XLSX workbook. Take the template, and save it as XLSX.');
  let at = view.getUint32(end + 16, true);
  for (let left = view.getUint16(end + 10, true); left > 0; left -= 1) {
    if (at + 46 > view.byteLength || view.getUint32(at, true) !== 0x02014b50) break;
    const [named, more, said] = [28, 30, 32].map((offset) => view.getUint16(at + offset, true)) as [
      number,
      number,
      number,
    ];
    found.push({
      name: text.decode(new Uint8Array(view.buffer, at + 46, named)),
      size: view.getUint32(at + 24, true),
    });
    at += 46 + named + more + said;
  }
  return found;
}

/** The workbook to fill in, with what is in the house already: it is left as it is when it comes back. */
export async function writeHouseBook(
  rows: Readonly<Record<HouseSheet, readonly (readonly (string | number)[])[]>>,
): Promise<ArrayBuffer> {
  const { default: excel } = await import('exceljs');
  const book = new excel.Workbook();
  for (const [name, heads] of Object.entries(HOUSE_SHEETS) as [HouseSheet, readonly string[]][]) {
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.columns = heads.map((header) => ({ header, width: Math.max(14, header.length + 3) }));
    sheet.getRow(1).font = { bold: true };
    for (const row of rows[name])
      sheet.addRow(row.map((cell) => (typeof cell === 'string' ? spreadsheetCell(cell) : cell)));
  }
  const how = book.addWorksheet('How');
  how.columns = [{ width: 90 }];
  how.addRows(HOW.map((words) => [words]));
  return await book.xlsx.writeBuffer();
}

const HOW = [
  'A row each. Columns with a star are needed, the others may stay empty. Rows that are in the house already are left as they are.',
  'Rooms: their usual temperature in °C.',
  'Vessels: a tag as C1, or a row of them as G1-G8. Shape: crock, drum, glass, barrel, bag, pan. Closure: airlock, valve, loose, cloth, sealed, vacuum. Room: its name as in Rooms.',
  'Suppliers: the head of their codes is two or three letters. Own plot: yes or no.',
  'Materials: kind is produce, salt, water, flavouring, starter or packaging. Water and salt in per cent of its mass.',
  'People: owner, maker or inspector. Each gets a PIN under “Who comes in”.',
  'Formulas: made as: in its own juice, in brine, mash. Salt is: of the vegetable, of the water, of the brine, of everything. What nobody knows stays empty and is asked before the first batch.',
  'Formula lines: the produce of a formula by its share, everything else by one of the amounts. A formula that is here already is left as it is.',
  'Standing: a live vessel, or jars, from before this book. Packing asks them for the same readings as any other.',
  'Days read like 2026-11-24. Made of: stoneware, glass, plastic, wood, stainless, rusts, film. Asked at the door: its variety; fresh, frozen or dried; its temperature.',
  'Equipment: what it is: scale, tool, parts or water. A scale has what it weighs at most and its smallest step, parts how many there should be.',
];

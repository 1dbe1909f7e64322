/** The rows of a delivery list, whatever it was written with: CSV, or the first sheet of an XLSX workbook. */
export async function readTable(file: File): Promise<string[][]> {
  // Loaded when somebody has a list: most deliveries are typed.
  if (!/\.xlsx$/i.test(file.name)) {
    const { default: papa } = await import('papaparse');
    return papa.parse<string[]>(await file.text(), { skipEmptyLines: 'greedy' }).data;
  }
  const { default: excel } = await import('exceljs');
  const book = new excel.Workbook();
  await book.xlsx.load(await file.arrayBuffer());
  const rows: string[][] = [];
  book.worksheets[0]?.eachRow((row) => {
    const cells: string[] = [];
    row.eachCell({ includeEmpty: true }, (cell, column) => {
      cells[column - 1] = cellText(cell.value, cell.text);
    });
    if (cells.some((cell) => cell.trim() !== '')) rows.push([...cells].map((cell) => cell ?? ''));
  });
  return rows;
}

/** A date as its calendar day, a formula as its result, anything else as it is shown. */
function cellText(value: unknown, shown: string): string {
  const result =
    value !== null && typeof value === 'object' && 'result' in value ? (value as { result: unknown }).result : value;
  if (result instanceof Date) return result.toISOString().slice(0, 10);
  return typeof result === 'number' ? String(result) : shown;
}

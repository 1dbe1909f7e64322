/** Words that begin like a formula of a spreadsheet are kept as words. */
export const spreadsheetCell = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

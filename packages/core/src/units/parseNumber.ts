import { accept, refuse, type Outcome } from '../refusal.js';

/** How the house writes decimals. */
export type DecimalMark = 'comma' | 'point';

/**
 * A number as people type it. "1,5" and "1.5" are both one and a half; "1,500" and "1.500" could be
 * one and a half or fifteen hundred and are asked about unless `decimalMark` settles it.
 * Source: handbook 2.8.
 * @example parseNumber({ text: '1,5' }) //=> { ok: true, value: 1.5 }
 */
export function parseNumber(input: { text: string; decimalMark?: DecimalMark }): Outcome<number> {
  const text = input.text.trim().replace(/[\u00a0\u2009' ](?=\d{3}\b)/g, '').replace('−', '-');
  if (!/^-?[\d.,]*\d[\d.,]*$/.test(text)) {
    return refuse('quantity.unreadable', `“${input.text.trim()}” is not a number. Type figures, such as 1250 or 1.25.`);
  }
  const marks = text.match(/[.,]/g) ?? [];
  if (marks.length === 0) return accept(Number(text));
  const last = marks[marks.length - 1]!;
  const others = marks.slice(0, -1);
  if (marks.length > 1) {
    const grouping = others.every((mark) => mark !== last) && /[.,]\d+$/.test(text);
    if (grouping && new Set(others).size === 1) {
      return accept(Number(text.split(others[0]!).join('').replace(last, '.')));
    }
    if (new Set(marks).size === 1 && /^-?\d{1,3}([.,]\d{3})+$/.test(text)) return accept(Number(text.replace(/[.,]/g, '')));
    return refuse('quantity.unreadable', `“${text}” has marks in places that make no number. Type it without thousands marks.`);
  }
  const looksGrouped = /^-?[1-9]\d{0,2}[.,]\d{3}$/.test(text);
  const isDecimal = (last === ',') === (input.decimalMark === 'comma');
  if (looksGrouped && last === ',' && input.decimalMark !== 'comma') {
    return refuse(
      'quantity.ambiguous',
      `“${text}” could be ${text.replace(',', '.')} or ${text.replace(',', '')}. Type ${text.replace(',', '.')} or ${text.replace(',', '')}.`,
      { facts: { asDecimal: Number(text.replace(',', '.')), asThousands: Number(text.replace(',', '')) } },
    );
  }
  if (looksGrouped && last === '.' && input.decimalMark === 'comma' && !isDecimal) {
    return refuse('quantity.ambiguous', `“${text}” could be ${text.replace('.', ',')} or ${text.replace('.', '')}. Type one of these.`, {
      facts: { asDecimal: Number(text), asThousands: Number(text.replace('.', '')) },
    });
  }
  return accept(Number(text.replace(',', '.')));
}

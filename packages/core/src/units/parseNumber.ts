import { accept, refuse, type Outcome } from '../refusal.js';

/** How the house writes decimals. */
export type DecimalMark = 'comma' | 'point';

/** Marks between thousands: blanks of every width, and the apostrophe. */
const BLANKS = "[ \\u00a0\\u2009\\u202f'’]";
const GROUPED = new RegExp(`^-?\\d{1,3}(?:${BLANKS}\\d{3})+(?:[.,]\\d+)?$`);

/**
 * A number as people type it. "1,5" and "1.5" are both one and a half; a blank between groups of three digits is a
 * thousands mark; "1,500" and "1.500" could be one and a half or fifteen hundred and are asked about unless
 * `decimalMark` settles it. What cannot be read whole is refused. Source: handbook 2.8.
 * @example parseNumber({ text: '12 500' }) //=> { ok: true, value: 12500 }
 */
export function parseNumber(input: { text: string; decimalMark?: DecimalMark }): Outcome<number> {
  const typed = input.text.trim().replace('−', '-');
  const grouped = GROUPED.test(typed);
  const text = grouped ? typed.replace(new RegExp(BLANKS, 'g'), '') : typed;
  if (!/^-?(?:\d[\d.,]*\d|\d|[.,]\d+)$/.test(text)) {
    return refuse('quantity.unreadable', `“${input.text.trim()}” is not a number. Type figures, such as 1250 or 1.25.`);
  }
  const marks = text.match(/[.,]/g) ?? [];
  if (marks.length === 0) return accept(Number(text));
  // Thousands are marked by the blanks already: the one mark left is the decimal one.
  if (marks.length === 1 && grouped) return accept(Number(text.replace(',', '.')));
  if (marks.length > 1) return severalMarks(text);
  return asked(text, marks[0]!, input.decimalMark) ?? accept(Number(text.replace(',', '.')));
}

/** "1,234,567" and "1.234,5": groups of three digits, and at most one other mark after them. */
function severalMarks(text: string): Outcome<number> {
  for (const [group, decimal] of [
    [',', '.'],
    ['.', ','],
  ] as const) {
    if (new RegExp(`^-?[1-9]\\d{0,2}(?:\\${group}\\d{3})+(?:\\${decimal}\\d+)?$`).test(text))
      return accept(Number(text.split(group).join('').replace(decimal, '.')));
  }
  return refuse(
    'quantity.unreadable',
    `“${text}” has marks in places that make no number. Type it without thousands marks.`,
  );
}

/** One mark before exactly three digits, and not the decimal mark of this house: both readings are offered. */
function asked(text: string, mark: string, house: DecimalMark | undefined): Outcome<number> | null {
  const decimal = house === 'comma' ? ',' : '.';
  if (mark === decimal || !/^-?[1-9]\d{0,2}[.,]\d{3}$/.test(text)) return null;
  const [asDecimal, asThousands] = [text.replace(mark, decimal), text.replace(mark, '')];
  return refuse(
    'quantity.ambiguous',
    `“${text}” could be ${asDecimal} or ${asThousands}. Type ${asDecimal} or ${asThousands}.`,
    {
      facts: { asDecimal: Number(asDecimal.replace(',', '.')), asThousands: Number(asThousands) },
    },
  );
}

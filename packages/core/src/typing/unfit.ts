/** A figure beyond this is none of this trade: no column, no scale and no clock holds them. */
const MOST = 1e9;
const DEEPEST = 24;

export interface Unfit {
  /** Where it stands, "body.note". */
  readonly path: string;
  readonly code: 'text.unfit' | 'figure.unfit';
  readonly message: string;
}

/**
 * What no book can hold, found anywhere in a value as it came: NUL and other control characters, half a character (a
 * lone surrogate), a figure that is none or is absurd. Null when all of it can be recorded. Line breaks and tabs are text.
 */
export function unfit(value: unknown, path: readonly string[] = []): Unfit | null {
  if (typeof value === 'string') return unfitText(value, path.join('.'));
  if (typeof value === 'number') return unfitFigure(value, path.join('.'));
  if (typeof value !== 'object' || value === null) return null;
  if (path.length > DEEPEST)
    return {
      path: path.join('.'),
      code: 'text.unfit',
      message: `${path.at(-1)}: it is nested too deeply to be an entry`,
    };
  for (const [key, item] of Object.entries(value)) {
    const found = unfitText(key, [...path, 'a name'].join('.')) ?? unfit(item, [...path, key]);
    if (found) return found;
  }
  return null;
}

function unfitText(text: string, path: string): Unfit | null {
  const why = textFault(text);
  return why === null
    ? null
    : {
        path,
        code: 'text.unfit',
        message: `${lastOf(path)} holds ${why}. Type it again without it: letters, figures, signs and line breaks are accepted`,
      };
}

/** What is wrong with a text, in words; null where it can be recorded and printed. */
export function textFault(text: string): string | null {
  for (let index = 0; index < text.length; index += 1) {
    const unit = text.charCodeAt(index);
    if (isControl(unit))
      return `a character that cannot be shown (U+${unit.toString(16).toUpperCase().padStart(4, '0')})`;
    if (unit >= 0xd800 && unit <= 0xdbff && isLow(text.charCodeAt(index + 1))) index += 1;
    else if (unit >= 0xd800 && unit <= 0xdfff) return 'half a character, as when an emoji is cut in two';
    // Marks that turn or hide the text around them: a label would not say what its record says.
    else if (
      (unit >= 0x202a && unit <= 0x202e) ||
      (unit >= 0x2066 && unit <= 0x2069) ||
      unit === 0xfffe ||
      unit === 0xffff
    )
      return `a hidden character (U+${unit.toString(16).toUpperCase()})`;
  }
  return null;
}

const isLow = (unit: number): boolean => unit >= 0xdc00 && unit <= 0xdfff;
/** C0 but tab and line breaks, DEL, and C1. */
const isControl = (unit: number): boolean =>
  (unit < 0x20 && unit !== 0x09 && unit !== 0x0a && unit !== 0x0d) || (unit >= 0x7f && unit <= 0x9f);

function unfitFigure(figure: number, path: string): Unfit | null {
  const of = lastOf(path);
  if (!Number.isFinite(figure)) return { path, code: 'figure.unfit', message: `${of} is no figure` };
  if (Math.abs(figure) > MOST)
    return {
      path,
      code: 'figure.unfit',
      message: `${of} is ${figure}. Up to ${MOST.toLocaleString('en')} is accepted anywhere: look at the unit and the decimal mark`,
    };
  return null;
}

const lastOf = (path: string): string =>
  path
    .split('.')
    .filter((part) => !/^\d+$/.test(part))
    .at(-1) || 'The text';

/**
 * The first characters of a text, never half of one: counted as people count, by code point.
 * @example firstOf('🥕🥕', 1) //=> '🥕'
 */
export const firstOf = (text: string, most: number): string =>
  text.length <= most ? text : [...text].slice(0, most).join('');

/** A text in one place of limited length, with a mark where it was cut. */
export const shortened = (text: string, most: number): string =>
  text.length <= most || [...text].length <= most
    ? text
    : `${[...text]
        .slice(0, most - 1)
        .join('')
        .trimEnd()}…`;

/** Text as it is recorded: composed, its line breaks of one kind, without what an old book holds and cannot be shown. */
export function shownText(text: string): string {
  if (textFault(text) === null) return text;
  return [...text].filter((letter) => textFault(letter) === null).join('');
}

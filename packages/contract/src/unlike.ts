import { z } from 'zod';
import { fieldWords } from './fieldWords.js';

/** What is wrong with the shape of what was sent, as a person is told. */
export interface Unlike {
  readonly detail: string;
  /** Its place in the entry: `grams`, `parts.1.lotId`. */
  readonly field?: string;
  /** Which of the entries sent together it is in. */
  readonly entry?: number;
  readonly issues: readonly { readonly path: string; readonly message: string }[];
}

const AROUND: ReadonlySet<string> = new Set(['body', 'entries', 'instead']);

/**
 * The first thing that stands against a schema in words, by the name of its field: what was given, what is accepted.
 * Server and page say the same.
 * @example unlike(error).detail //=> 'Mass: “x” was given; a figure is accepted.'
 */
export function unlike(error: z.ZodError): Unlike {
  const [issue] = error.issues;
  const path = issue?.path.map(String) ?? [];
  const parts = path.filter((part, i) => !AROUND.has(part) && path[i - 1] !== 'entries');
  const where = parts.map((part, i) =>
    /^\d+$/.test(part) && i > 0
      ? ` ${Number(part) + 1}`
      : i > 0
        ? `, ${fieldWords(part).toLowerCase()}`
        : fieldWords(part),
  );
  const words = `${(issue?.message ?? 'this is not as it is expected').replace(/\.$/, '')}.`;
  return {
    detail: where.length > 0 ? `${where.join('')}: ${words}` : words.replace(/^./, (first) => first.toUpperCase()),
    field: parts.join('.') || undefined,
    entry: path[0] === 'entries' && path[1] !== undefined ? Number(path[1]) : undefined,
    issues: error.issues.slice(0, 10).map(({ path: at, message }) => ({ path: at.map(String).join('.'), message })),
  };
}

/** What every schema says where it has no words of its own. */
z.config({ customError: (issue) => wordsOf(issue) });

function wordsOf(issue: z.core.$ZodRawIssue): string {
  const { input } = issue;
  const none = input === undefined || input === null;
  const was = none ? '' : `${shown(input)} was given; `;
  switch (issue.code) {
    case 'invalid_type':
      return none ? 'it is missing' : `${was}${KINDS[issue.expected] ?? 'something else'} is accepted`;
    case 'too_small':
      return `${was}${bound(issue.origin, issue.minimum, issue.inclusive === false ? 'more than' : 'at least')}`;
    case 'too_big':
      return `${was}${bound(issue.origin, issue.maximum, issue.inclusive === false ? 'less than' : 'at most')}`;
    case 'invalid_value':
      return `${was}one of these is accepted: ${issue.values.map(String).join(', ')}`;
    case 'unrecognized_keys':
      return `${issue.keys.map((key) => `“${key}”`).join(', ')} is not known here`;
    case 'invalid_format':
      return issue.format === 'uuid'
        ? `${was}nothing in this house is called so. Open it from its page, or scan its code`
        : `${was}this cannot be read`;
    default:
      return `${was}this is not as it is expected`;
  }
}

const KINDS: Readonly<Record<string, string>> = {
  number: 'a figure',
  int: 'a whole number',
  string: 'words',
  boolean: 'yes or no',
  array: 'a list',
  object: 'an entry',
};

const shown = (value: unknown): string => {
  if (value === '') return 'nothing';
  const points = [...(typeof value === 'string' ? value : (JSON.stringify(value) ?? ''))];
  const text = points.length > 40 ? `${points.slice(0, 40).join('')}…` : points.join('');
  return typeof value === 'string' ? `“${text}”` : text;
};

function bound(origin: string, figure: number | bigint, how: string): string {
  if (origin === 'string')
    return Number(figure) === 1 ? 'some words are needed' : `${how} ${figure} letters are accepted`;
  if (origin === 'array') return `${how} ${figure} ${Number(figure) === 1 ? 'line is' : 'lines are'} accepted`;
  return `${how} ${figure} is accepted`;
}

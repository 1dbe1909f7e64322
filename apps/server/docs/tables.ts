import '../src/subjects/kinds.js';
import { CHECK_KIND_KEYS, checkKindOf, CHECKS } from '@clear-tally/core';
import type { Kind } from '../src/journal/kind.js';
import { allKinds } from '../src/journal/registry.js';

const WHO = { owner: 'owner', maker: 'maker', rules: 'the rules themselves' } as const;

const REACHES = {
  ledger: 'with all that rests on it',
  reading: 'with what was judged by it',
  meter: 'with its readings',
  book: 'its own rows',
} as const;

const correctWords = ({ correct }: Kind): string =>
  typeof correct === 'object' ? `no. ${correct.never}` : REACHES[correct];

/** Kinds that say the same of themselves share a row. */
export function entriesTable(): string {
  const groups = new Map<string, { kinds: string[]; cells: string[] }>();
  for (const of of allKinds()) {
    const cells = [of.does, of.whoWords ?? WHO[of.who], correctWords(of)];
    const group = groups.get(cells.join('|')) ?? { kinds: [], cells };
    group.kinds.push(`\`${of.kind}\``);
    groups.set(cells.join('|'), group);
  }
  return rows(
    ['kind', 'what happened', 'who', 'put right'],
    [...groups.values()].map(({ kinds, cells }) => [kinds.join(' '), ...cells]),
  );
}

const ANSWERS = {
  done: 'a look, or done',
  gas: 'gas or none',
  swelling: '0 to 4',
  photo: 'a photo',
  salt: 'a measured salt',
  move: 'moved, or it stays',
  reading: 'a reading',
  taste: 'a tasting',
} as const;

export function checksTable(): string {
  return rows(
    ['kind', 'asks', 'answered by', '“all quiet”', 'on'],
    CHECK_KIND_KEYS.map((key) => {
      const of = checkKindOf(key);
      const words = CHECKS[key].words || (of.askedByFindings ? 'what a finding asks' : 'what the house says');
      return [
        `\`${key}\``,
        words,
        ANSWERS[of.answer],
        of.quiet ? 'answers it' : '',
        of.closures?.join(', ') ?? 'every vessel',
      ];
    }),
  );
}

const rows = (head: readonly string[], body: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...body].map((cells) => `| ${cells.join(' | ')} |`).join('\n');

/** A text with the part between its marks written anew. */
export function withTable(text: string, name: string, table: string): string {
  const [begin, end] = [`<!-- ${name}: written by npm run docs -->`, `<!-- end of ${name} -->`];
  const [from, to] = [text.indexOf(begin), text.indexOf(end)];
  if (from < 0 || to < from) throw new Error(`the marks of “${name}” are missing`);
  return `${text.slice(0, from)}${begin}\n${table}\n${text.slice(to)}`;
}

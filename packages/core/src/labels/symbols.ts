import { readJarCode } from '../codes/jarCode.js';
import type { SymbolKind } from './design.js';

/** What the symbol on a jar says: its page; or article (01), lot (10), serial (21), and until when (15, 17), as application identifiers. */
export function symbolContent(
  kind: SymbolKind,
  of: {
    readonly base: string;
    readonly run: string;
    readonly jar: string;
    readonly gtin: string | null;
    readonly until: { readonly kind: 'bestBefore' | 'useBy'; readonly on: string } | null;
  },
): string {
  if (kind === 'qrcode') return `${of.base}/trace/${of.jar}`;
  const [, year, month, day] = /^\d\d(\d\d)-(\d\d)-(\d\d)$/.exec(of.until?.on ?? '') ?? [];
  const until =
    year && kind === 'gs1datamatrix' ? `(${of.until!.kind === 'useBy' ? '17' : '15'})${year}${month}${day}` : '';
  return `(01)${(of.gtin ?? '').padStart(14, '0')}(10)${of.run}(21)${of.jar.slice(of.run.length + 1)}${until}`;
}

/** Where a part of no length of its own ends, as scanners send it. */
const GROUP = '\u001D';

/** Article (01) and dates (15, 17) have a length of their own; lot and serial end at a separator. */
const FIXED: Readonly<Record<string, number>> = { '01': 14, '15': 6, '17': 6 };

/** The jar an element string names, as a scanner sends it: with brackets, or with group separators. Null: none. */
export function jarInElements(scanned: string): string | null {
  let rest = scanned.replace(/^\](?:d2|C1|Q3)/, '');
  const bracketed = rest.startsWith('(');
  const found: Record<string, string> = {};
  while (rest !== '') {
    if (rest.startsWith(GROUP)) rest = rest.slice(1);
    const ai = (bracketed ? /^\((01|10|15|17|21)\)/ : /^(01|10|15|17|21)/).exec(rest);
    if (!ai) return null;
    rest = rest.slice(ai[0].length);
    const fixed = FIXED[ai[1]!];
    const stop = [...rest].findIndex((character) => character === GROUP || character === '(');
    const end = fixed ?? (stop < 0 ? rest.length : stop);
    found[ai[1]!] = rest.slice(0, end);
    rest = rest.slice(end);
  }
  if (!found['10'] || !found['21']) return null;
  const read = readJarCode(`${found['10']}-${found['21']}`);
  return read?.ok ? read.value.text : null;
}

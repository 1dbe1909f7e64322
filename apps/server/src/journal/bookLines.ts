import type { BookLine, Entry } from '@clear-tally/contract';
import { formatGrams } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { neverCorrected } from './correctable.js';
import type { Kind } from './kind.js';
import { kindOf } from './registry.js';

interface EntryRow {
  seq: string;
  recordedAt: Date;
  entry: string;
  facts: string;
  by: string;
}

/** The book of some lots: their entries by time, the newest first, corrected figures struck through beside the right one. */
export async function bookLines(reader: Reader, lotIds: readonly string[]): Promise<BookLine[]> {
  const found = await rows<EntryRow>(
    reader,
    sql`
    select distinct j.seq, j.recorded_at as "recordedAt", j.entry, j.facts, p.initials as by
    from entry_lot e join journal j on j.seq = e.seq join person p on p.id = j.by
    where e.lot_id in ${[...lotIds]} order by j.seq`,
  );
  return (await linesOf(reader, found, lotIds)).sort((a, b) => b.at.localeCompare(a.at) || b.seq - a.seq);
}

const PAGE = 60;

/** Everything that was recorded, or that happened between two moments, whatever it is of: the newest first, a page of it. */
export async function journalLines(
  reader: Reader,
  asked: {
    readonly before?: number | undefined;
    readonly many?: number | undefined;
    readonly from: Date | null;
    readonly to: Date | null;
  },
): Promise<{ lines: BookLine[]; next: string | null }> {
  const many = asked.many ?? PAGE;
  const found = await rows<EntryRow>(
    reader,
    sql`
    select j.seq, j.recorded_at as "recordedAt", j.entry, j.facts, p.initials as by from journal j join person p on p.id = j.by
    where j.kind not in ('entry.correct', 'remainder.return') and j.seq < ${asked.before ?? Number.MAX_SAFE_INTEGER}
      ${asked.from === null ? sql`` : sql`and j.happened_at >= ${asked.from.toISOString()}::timestamptz`}
      ${asked.to === null ? sql`` : sql`and j.happened_at < ${asked.to.toISOString()}::timestamptz`}
    order by j.seq desc limit ${sql.raw(String(many + 1))}`,
  );
  const page = found.slice(0, many);
  const corrections = await rows<EntryRow>(
    reader,
    sql`
    select j.seq, j.recorded_at as "recordedAt", j.entry, j.facts, p.initials as by from correction c join journal j on j.seq = c.seq join person p on p.id = j.by
    where c.root_entry_id = ${anyOf(page.map((row) => (JSON.parse(row.entry) as Entry).id))} order by c.seq`,
  );
  const lines = await linesOf(reader, [...page, ...corrections], null);
  return { lines: lines.sort((a, b) => b.seq - a.seq), next: found.length > many ? page.at(-1)!.seq : null };
}

/** @param lotIds whose book it is; null: everybody's */
async function linesOf(
  reader: Reader,
  found: readonly EntryRow[],
  lotIds: readonly string[] | null,
): Promise<BookLine[]> {
  const read = found.map((row): ReadEntry => ({
    ...row,
    entry: lineOf(JSON.parse(row.entry) as Entry, lotIds),
    facts: JSON.parse(row.facts) as Record<string, unknown>,
  }));
  const parsed = [...(await elsewhere(reader, read)), ...read].sort(
    (one, other) => Number(one.seq) - Number(other.seq),
  );
  const codes = await codesOf(
    reader,
    parsed.flatMap(({ entry }) =>
      entry.kind === 'entry.correct' && entry.body.instead ? [entry, asItShould(entry, entry.body.instead)] : [entry],
    ),
  );
  const lines = new Map<string, BookLine & { words: string | null }>();
  for (const { entry, facts, seq, recordedAt, by } of parsed) {
    if (entry.kind === 'remainder.return') {
      const line = lines.get(entry.body.of);
      if (line)
        lines.set(line.entryId, {
          ...line,
          struck: [...line.struck, line.figure ?? ''],
          figure: formatGrams(Number(facts['stays'])),
          words: `${formatGrams(entry.body.grams)} back to stock, ${by}${line.words ? ` · ${line.words}` : ''}`,
        });
      continue;
    }
    if (entry.kind === 'entry.correct') {
      const line = lines.get(entry.body.corrects);
      if (line) lines.set(line.entryId, corrected(line, { entry, facts, by, codes, lotIds }));
      continue;
    }
    lines.set(entry.id, {
      entryId: entry.id,
      seq: Number(seq),
      kind: entry.kind,
      at: new Date(entry.happenedAt).toISOString(),
      recordedAt: new Date(recordedAt).toISOString(),
      by,
      struck: [],
      struckOut: false,
      correctable: neverCorrected(entry.kind) === null,
      lotCode: codes.get(mainLot(entry)) ?? '',
      ...lineFor(entry, facts, codes, lotIds),
    });
  }
  return [...lines.values()];
}

interface ReadEntry {
  readonly seq: string;
  readonly recordedAt: Date;
  readonly by: string;
  readonly entry: Entry;
  readonly facts: Record<string, unknown>;
}

type Correction = Extract<Entry, { kind: 'entry.correct' }>;

/** Entries that stood in another book, and belong here by their correction. */
async function elsewhere(reader: Reader, read: readonly ReadEntry[]): Promise<ReadEntry[]> {
  const known = new Set(read.map(({ entry }) => entry.id));
  const wanted = read.flatMap(({ entry }) =>
    entry.kind === 'entry.correct' && !known.has(entry.body.corrects) ? [entry.body.corrects] : [],
  );
  if (wanted.length === 0) return [];
  const found = await rows<EntryRow>(
    reader,
    sql`
    select j.seq, j.recorded_at as "recordedAt", j.entry, j.facts, p.initials as by from journal j join person p on p.id = j.by where j.entry_id = ${anyOf(wanted)}`,
  );
  return found.map((row) => ({
    ...row,
    entry: JSON.parse(row.entry) as Entry,
    facts: JSON.parse(row.facts) as Record<string, unknown>,
  }));
}

const asItShould = (
  of: { id: string; happenedAt: string },
  instead: NonNullable<Correction['body']['instead']>,
): Entry => ({ ...of, ...instead, happenedAt: instead.happenedAt ?? of.happenedAt }) as unknown as Entry;

/** A line with its correction: the wrong figure struck through beside the right one, or all of it struck out. */
function corrected(
  line: BookLine,
  of: {
    entry: Correction;
    facts: Record<string, unknown>;
    by: string;
    codes: Map<string, string>;
    lotIds: readonly string[] | null;
  },
): BookLine {
  const { entry, facts, by, codes, lotIds } = of;
  const said = `${by}: ${entry.body.reason}`;
  const { right, instead } = entry.body;
  if (right) {
    const figure = lineFor({ ...entry, kind: right.kind, body: right } as unknown as Entry, {}, codes, lotIds);
    return {
      ...line,
      struck: [...line.struck, line.figure ?? ''],
      figure: figure.figure,
      value: figure.value,
      sample: figure.sample ?? line.sample,
      words: `corrected by ${said}${line.words && !line.words.startsWith('corrected') ? ` · ${line.words}` : ''}`,
    };
  }
  if (!instead) return { ...line, struckOut: true, words: `never happened, ${said}` };
  const rightLots = (facts['rightLots'] as string[] | undefined) ?? [];
  if (lotIds && rightLots.length > 0 && !rightLots.some((lotId) => lotIds.includes(lotId)))
    return { ...line, struckOut: true, words: `does not belong here, ${said}` };
  const should = lineOf(asItShould({ id: line.entryId, happenedAt: line.at }, instead), lotIds);
  const { what, words, ...figure } = lineFor(
    should,
    (facts['right'] as Record<string, unknown> | undefined) ?? {},
    codes,
    lotIds,
  );
  const wrong = line.figure !== figure.figure ? (line.figure ?? line.what) : line.what !== what ? line.what : null;
  return {
    ...line,
    ...figure,
    what,
    struckOut: false,
    at: new Date(should.happenedAt).toISOString(),
    lotCode: codes.get(mainLot(should)) ?? line.lotCode,
    struck: wrong === null ? line.struck : [...line.struck, wrong],
    words: `corrected by ${said}${words ? ` · ${words}` : ''}`,
  };
}

/** Of a delivery of many lines, a lot's page shows its own. */
function lineOf(entry: Entry, lotIds: readonly string[] | null): Entry {
  if (entry.kind !== 'delivery.receive' || lotIds === null) return entry;
  const line = entry.body.lines.find(({ lotId }) => lotIds.includes(lotId));
  return line ? { ...entry, kind: 'supply.receive', body: line } : entry;
}

const LOT_FIELDS = [
  'lotId',
  'batchId',
  'fillLotId',
  'runLotId',
  'brineLotId',
  'supplyLotId',
  'saltLotId',
  'waterLotId',
  'fromLotId',
  'toLotId',
  'vesselId',
  'keptLotId',
  'meterId',
] as const;

async function codesOf(reader: Reader, entries: readonly Entry[]): Promise<Map<string, string>> {
  const ids = new Set<string>();
  for (const entry of entries) {
    const body = entry.body as Record<string, unknown>;
    for (const field of LOT_FIELDS) if (typeof body[field] === 'string') ids.add(body[field]);
    if (entry.kind === 'preparation.make') entry.body.parts.forEach((part) => ids.add(part.fromLotId));
    if (entry.kind === 'pack.run') entry.body.from.forEach((part) => ids.add(part.fillLotId));
  }
  if (ids.size === 0) return new Map();
  const found = await rows<{ id: string; code: string }>(
    reader,
    sql`
    select id, code from lot where id in ${[...ids]} union all select id, tag from vessel where id in ${[...ids]} union all select id, tag from meter where id in ${[...ids]}`,
  );
  return new Map(found.map((row) => [row.id, row.code]));
}

function mainLot(entry: Entry): string {
  const body = entry.body as Record<string, string | undefined>;
  return body['lotId'] ?? body['fillLotId'] ?? body['runLotId'] ?? body['batchId'] ?? body['toLotId'] ?? '';
}

/** The line of an entry, as its kind describes it. */
function lineFor(
  entry: Entry,
  facts: Record<string, unknown>,
  codes: Map<string, string>,
  lotIds: readonly string[] | null,
): Pick<BookLine, 'what' | 'words' | 'figure' | 'value' | 'sample'> {
  const target = (): string =>
    typeof facts['targetGrams'] === 'number' ? `target ${formatGrams(facts['targetGrams'])}` : '';
  const of = kindOf(entry.kind) as unknown as Kind;
  const line = of.line({ entry: entry as never, facts, code: (id) => codes.get(id) ?? '?', target, lotIds });
  return { figure: null, value: null, sample: null, ...line };
}

import type { Entry } from '@clear-tally/contract';
import { type SQL, sql } from 'drizzle-orm';
import { entryJson } from '../db/entryJson.js';
import { type Reader, rows } from '../db/database.js';

/** An entry as it counts: as it was written, or as it was put right last. */
export interface Written {
  readonly seq: number;
  readonly entry: Entry;
  readonly facts: Record<string, unknown>;
  readonly role: 'owner' | 'maker' | 'inspector';
  /** It was said that it never happened. */
  readonly never: boolean;
}

interface WrittenRow {
  seq: string;
  entry: string;
  facts: string;
  role: Written['role'];
  corrected: boolean;
  right: Pick<Entry, 'kind' | 'body' | 'happenedAt'> | null;
}

/**
 * Entries of these numbers, in their order, as they count: the one door through which the body of an entry is read.
 * Read here, not in the database: one odd character in an old entry would end the whole question.
 */
export const loadWritten = (reader: Reader, seqs: readonly number[]): Promise<Written[]> =>
  seqs.length === 0 ? Promise.resolve([]) : load(reader, sql`j.seq = any(${sql.param([...seqs])}::bigint[])`);

/** How the house was founded and answered its questions over time; an index keeps just these. */
export const loadAnswers = (reader: Reader): Promise<Written[]> =>
  load(reader, sql`j.kind in ('house.found', 'house.rule')`);

/** The same inside a question, of the journal's row `j`: null where it was said that it never happened. */
export const asCorrected = sql`(
  select case when c.seq is null then ${entryJson(sql`j.entry`)} else c."right" end from (select 1) one
  left join lateral (select seq, "right" from correction where root_entry_id = j.entry_id order by seq desc limit 1) c on true)`;

async function load(reader: Reader, which: SQL): Promise<Written[]> {
  const found = await rows<WrittenRow>(
    reader,
    sql`
    select j.seq, j.entry, j.facts, coalesce(p.role, 'owner') as role, c.seq is not null as corrected, c."right"
    from journal j left join person p on p.id = j.by
    left join lateral (select seq, "right" from correction where root_entry_id = j.entry_id order by seq desc limit 1) c on true
    where ${which} order by j.seq`,
  );
  return found.map(({ seq, entry, facts, role, corrected, right }) => {
    const written = JSON.parse(entry) as Entry;
    return {
      seq: Number(seq),
      role,
      facts: JSON.parse(facts) as Record<string, unknown>,
      never: corrected && right === null,
      entry: right ? ({ ...written, ...right } as Entry) : written,
    };
  });
}

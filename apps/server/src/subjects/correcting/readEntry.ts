import type { EntryReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { neverCorrected } from '../../journal/correctable.js';
import { refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { loadWritten } from '../../lots/written.js';

/** One entry as it counts, with the names of what it speaks of, for the form that puts it right. */
export async function readEntry(reader: Reader, entryId: string): Promise<EntryReply> {
  const [row] = await rows<{ seq: string; recordedAt: Date; by: string }>(
    reader,
    sql`
    select j.seq, j.recorded_at as "recordedAt", p.initials as by from journal j join person p on p.id = j.by where j.entry_id = ${entryId}`,
  );
  if (!row) throw refused('resource.unknown', 'No such entry is in this book.');
  const [written] = await loadWritten(reader, [Number(row.seq)]);
  const { entry, never } = written!;
  const ids = [...new Set(JSON.stringify(entry.body).match(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g) ?? [])];
  const names = await rows<{ id: string; name: string; of: EntryReply['names'][string]['of']; made: boolean }>(
    reader,
    sql`
    select id, code as name, 'lot' as of, seq = ${row.seq} as made from lot where id = ${anyOf(ids)}
    union all select id, tag, 'vessel', false from vessel where id = ${anyOf(ids)}
    union all select id, name, 'material', false from material where id = ${anyOf(ids)}
    union all select id, name, 'supplier', false from supplier where id = ${anyOf(ids)}
    union all select id, name, 'room', false from room where id = ${anyOf(ids)}
    union all select id, tag, 'meter', false from meter where id = ${anyOf(ids)}
    union all select id, tag, 'equipment', false from equipment where id = ${anyOf(ids)}
    union all select id, name, 'customer', false from customer where id = ${anyOf(ids)}
    union all select id, name, 'person', false from person where id = ${anyOf(ids)}
    union all select formula_id, max(name), 'formula', false from formula where formula_id = ${anyOf(ids)} group by formula_id`,
  );
  const { makes } = kindOf(entry.kind);
  const madeHere = makes && (entry.body as Record<string, unknown>)[makes];
  const before = await rows<{ at: Date; by: string; entry: string; never: boolean }>(
    reader,
    sql`
    select j.happened_at as at, p.initials as by, j.entry, c."right" is null as never
    from correction c join journal j on j.seq = c.seq join person p on p.id = j.by where c.root_entry_id = ${entryId} order by c.seq`,
  );
  const { choices } = kindOf(entry.kind);
  return {
    entryId,
    kind: entry.kind,
    happenedAt: new Date(entry.happenedAt).toISOString(),
    recordedAt: new Date(row.recordedAt).toISOString(),
    by: row.by,
    body: entry.body as Record<string, unknown>,
    never,
    why: neverCorrected(entry.kind),
    what: kindOf(entry.kind).words,
    ownerOnly: kindOf(entry.kind).who === 'owner',
    names: Object.fromEntries(names.map(({ id, made, ...name }) => [id, { ...name, made: made || id === madeHere }])),
    choices: (await choices?.(reader, entry.body as never)) ?? {},
    corrections: before.map(({ at, entry: text, ...one }) => ({
      ...one,
      // Not by the database: an old book may hold a character that it does not read.
      reason: (JSON.parse(text) as { body: { reason: string } }).body.reason,
      at: new Date(at).toISOString(),
    })),
  };
}

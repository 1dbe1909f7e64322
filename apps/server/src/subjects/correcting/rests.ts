import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { heedingKinds, judgedKinds, ledgerKinds, placingKinds } from '../../journal/correctable.js';
import { refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { loadWritten, type Written } from '../../lots/written.js';

/** More is written anew by nobody in one go. */
const MOST = 150;

const MIXING: ReadonlySet<string> = new Set([
  'lot.transfer',
  'vessel.topUp',
  'vessel.fill',
  'vessel.split',
  'lot.open',
  'brine.left',
]);

/** Where the walk begins: the entry itself, and the lots it speaks of as it is and as it should be. */
interface From {
  /** It never happened: what it made never was. */
  readonly never: boolean;
  readonly of: Written;
  readonly lots: readonly string[];
  readonly vessels: readonly string[];
}

/**
 * The entries that rest on one: recorded after it, of lots it touched or of lots those went into, or changing the same
 * rows. A lot of stores or a salt lot serves many batches: those rest on it by mass alone, which the ledger asks.
 * @throws {Refused} so much rests on it that it has to be put right from the other end
 */
export async function restingOn(reader: Reader, { of, never, lots, vessels }: From): Promise<Written[]> {
  const described = kindOf(of.entry.kind);
  const reach = described.correct;
  const ledger = new Set<string>(ledgerKinds());
  const found = new Set<number>([of.seq]);
  const known = new Set(await ownLots(reader, lots, vessels, of.seq));
  if (reach === 'ledger')
    (await later(reader, { after: of.seq, lots, kinds: ['stock.count', ...placingKinds()] })).forEach(({ seq }) =>
      found.add(seq),
    );
  if (reach === 'meter')
    (await readingsOf(reader, of)).forEach((row) => {
      found.add(row.seq);
      known.add(row.lotId);
    });
  if (described.places)
    (await later(reader, { after: of.seq, lots, kinds: heedingKinds() })).forEach(({ seq }) => found.add(seq));
  if (reach === 'reading') (await readAfter(reader, of, lots)).forEach((seq) => found.add(seq));
  // What is poured in makes readings of before one of another thing: those after it are judged anew.
  if (MIXING.has(of.entry.kind) && !never) (await readAfter(reader, of, [...known])).forEach((seq) => found.add(seq));
  for (let before = -1; before !== found.size + known.size;) {
    before = found.size + known.size;
    if (reach !== 'book') {
      const kinds = reach === 'ledger' ? [...ledgerKinds(), ...placingKinds()] : judgedKinds();
      for (const { seq, kind, lots: touched } of await later(reader, { after: of.seq, lots: [...known], kinds })) {
        found.add(seq);
        // A hold speaks of lots and moves nothing: what else was done with those does not rest on it.
        if (ledger.has(kind)) (await ownLots(reader, touched, [], of.seq)).forEach((lot) => known.add(lot));
      }
    }
    for (const seq of await changedLater(reader, [...found])) found.add(seq);
    if (found.size > MOST) throw tooMuch(found.size);
  }
  found.delete(of.seq);
  return (await loadWritten(reader, [...found])).filter(({ never }) => !never);
}

const tooMuch = (count: number) =>
  refused(
    'correction.standsInTheWay',
    `More than ${MOST} entries rest on this one (${count} were found): its lots went into many others. Put right what came last first, or count what stands there now and write the difference.`,
    { field: 'corrects' },
  );

/** Of these lots those that carry what was done: batches, preparations, vessels and runs; and whatever was filled later into these vessels. */
async function ownLots(
  reader: Reader,
  lots: readonly string[],
  vessels: readonly string[],
  after: number,
): Promise<string[]> {
  const found = await rows<{ id: string }>(
    reader,
    sql`
    select id from lot where id = ${anyOf(lots)} and kind <> 'supply'
    union select id from lot where kind = 'fill' and vessel_id = ${anyOf(vessels)} and seq > ${after}`,
  );
  return found.map(({ id }) => id);
}

/** Later entries of these lots; of stores only what was counted or given back by the book. */
async function later(
  reader: Reader,
  asked: { after: number; lots: readonly string[]; kinds: readonly string[] },
): Promise<{ seq: number; kind: string; lots: string[] }[]> {
  const found = await rows<{ seq: string; kind: string; lots: string[] }>(
    reader,
    sql`
    select j.seq, j.kind, (select array_agg(o.lot_id) from entry_lot o where o.seq = j.seq) as lots
    from journal j where j.seq > ${asked.after} and j.kind = any(${sql.param([...asked.kinds])}::text[])
      and exists (select 1 from entry_lot e where e.seq = j.seq and e.lot_id = ${anyOf(asked.lots)})
    order by j.seq limit ${MOST + 1}`,
  );
  return found.map(({ seq, ...row }) => ({ ...row, seq: Number(seq) }));
}

/** Entries that changed rows which these wrote or changed. */
async function changedLater(reader: Reader, seqs: readonly number[]): Promise<number[]> {
  const found = await rows<{ seq: string }>(
    reader,
    sql`
    select distinct c.seq from row_change c
    where coalesce(c.was ->> 'seq', c.was ->> 'entry_seq') = any(${sql.param(seqs.map(String))}::text[])
      and c.seq > any(${sql.param([...seqs])}::bigint[])
    union
    select distinct c.seq from row_change own join row_change c on c.relation = own.relation and c.key = own.key and c.seq > own.seq
    where own.seq = any(${sql.param([...seqs])}::bigint[])`,
  );
  return found.map(({ seq }) => Number(seq));
}

/** Readings of a meter from its calibration to the next: whether they count is asked anew. */
async function readingsOf(reader: Reader, of: Written): Promise<{ seq: number; lotId: string }[]> {
  const { meterId } = of.entry.body as { meterId: string };
  const found = await rows<{ seq: string; lotId: string }>(
    reader,
    sql`
    select j.seq, r.lot_id as "lotId" from live_reading r join journal j on j.entry_id = r.root_entry_id
    where r.meter_id = ${meterId} and r.at >= ${of.entry.happenedAt}
      and r.at < coalesce((select min(c.at) from calibration c where c.meter_id = ${meterId} and c.at > ${of.entry.happenedAt}), 'infinity')
    order by j.seq limit ${MOST + 1}`,
  );
  return found.map(({ seq, lotId }) => ({ seq: Number(seq), lotId }));
}

/** As many readings tell the trend of a vessel. */
const TREND = 40;

/** Readings recorded after one of the same vessels: whether they are off its trend is asked anew. */
async function readAfter(reader: Reader, of: Written, lots: readonly string[]): Promise<number[]> {
  const found = await rows<{ seq: string }>(
    reader,
    sql`
    select j.seq from unnest(${sql.param([...lots])}::uuid[]) v (id)
    join lateral (
      select r.root_entry_id from live_reading r join journal o on o.entry_id = r.root_entry_id
      where r.lot_id = v.id and r.kind = 'ph' and o.seq > ${of.seq} order by o.seq limit ${TREND}) r on true
    join journal j on j.entry_id = r.root_entry_id`,
  );
  return found.map(({ seq }) => Number(seq));
}

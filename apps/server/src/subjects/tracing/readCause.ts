import type { CauseReply } from '@clear-tally/contract';
import { type CauseKind, jarCode, sharedCause, type Trait } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { refused } from '../../journal/refused.js';
import { findCode } from '../../lots/findCode.js';
import { loadHouse } from '../../lots/house.js';

/** Runs packed within so many days of the bad ones are what they are compared with, the nearest first, so many at most. */
const DAYS = 120;
const MOST_COMPARED = 240;

interface TraitRow {
  run: string;
  kind: CauseKind;
  key: string;
  words: string;
  code: string | null;
}

/** A jar that is bad: its run, and its serial where one jar was named. */
interface Bad {
  readonly code: string;
  readonly runLotId: string;
  readonly serial: number | null;
}

/**
 * What these runs went through: everything in them by the walk back in time, vessels, rooms, people, days, meters, and
 * the lots of jars, lids and labels by serial where one jar was named.
 */
async function traitsOf(
  reader: Reader,
  runIds: readonly string[],
  serials: ReadonlyMap<string, readonly number[]>,
  timeZone: string,
): Promise<TraitRow[]> {
  const found = await rows<TraitRow & { first: number | null; last: number | null }>(
    reader,
    sql`
    with recursive walk(run, lot, at, seq) as (
      select id, id, 'infinity'::timestamptz, 9223372036854775807::bigint from lot where id = ${anyOf(runIds)}
      union
      select w.run, m.from_lot, m.at, m.seq from walk w join live_movement m on m.to_lot = w.lot and (m.at, m.seq) <= (w.at, w.seq) where m.from_lot is not null
    ), up as (select distinct run, lot from walk),
    fills as (select up.run, l.* from up join lot l on l.id = up.lot and l.kind = 'fill'),
    -- Runs share most of what they came from: who had to do with a lot is asked once for each lot.
    hands as (select distinct u.lot, j.by from (select distinct up.lot from up join lot l on l.id = up.lot and l.kind in ('fill', 'run', 'batch')) u
      join entry_lot e on e.lot_id = u.lot join journal j on j.seq = e.seq),
    metered as (select distinct u.lot, g.meter_id from (select distinct lot from up) u join live_reading g on g.lot_id = u.lot where g.meter_id is not null)
    select up.run, l.kind, l.id::text as key, l.name || coalesce(', ' || s.name, '') as words, l.code, null::int as first, null::int as last
      from up join lot l on l.id = up.lot left join supplier s on s.id = l.supplier_id where l.kind in ('supply', 'preparation', 'batch', 'fill')
    union all select f.run, 'vessel', v.id::text, v.tag, null, null, null from fills f join vessel v on v.id = f.vessel_id
    union all select f.run, 'room', r.id::text, r.name, null, null, null from fills f join vessel v on v.id = f.vessel_id join room r on r.id = v.room_id
    union all select f.run, 'filledOn', d.day, d.day, null, null, null from fills f cross join lateral (select to_char(f.at at time zone ${timeZone}, 'YYYY-MM-DD') as day) d
    union all select l.id, 'packedOn', d.day, d.day, null, null, null from lot l cross join lateral (select to_char(l.at at time zone ${timeZone}, 'YYYY-MM-DD') as day) d where l.id = ${anyOf(runIds)}
    union all select distinct up.run, 'person', p.id::text, p.name, null, null::int, null::int from up join hands h on h.lot = up.lot join person p on p.id = h.by
    union all select distinct up.run, 'meter', m.id::text, m.tag || ', ' || m.name, null, null::int, null::int from up join metered t on t.lot = up.lot join meter m on m.id = t.meter_id
    union all select c.run_lot_id, 'closure', l.id::text, l.name || coalesce(', ' || l.supplier_lot_code, ''), l.code, c.first_serial, c.last_serial from closure_lot c join lot l on l.id = c.lot_id where c.run_lot_id = ${anyOf(runIds)}
    union all select b.run_lot_id, 'label', l.id::text, l.name || coalesce(', ' || l.supplier_lot_code, ''), l.code, b.first_serial, b.last_serial from jar_label b join lot l on l.id = b.label_lot_id where b.run_lot_id = ${anyOf(runIds)}`,
  );
  const seen = new Set<string>();
  return found.flatMap(({ first, last, ...row }) => {
    const named = serials.get(row.run);
    if (first !== null && named && !named.some((serial) => serial >= first && serial <= last!)) return [];
    const key = `${row.run} ${row.kind} ${row.key}`;
    if (seen.has(key)) return [];
    seen.add(key);
    return [row];
  });
}

async function badOf(reader: Reader, codes: readonly string[]): Promise<Bad[]> {
  const bad: Bad[] = [];
  for (const typed of codes) {
    const found = await findCode(reader, typed);
    const [of] = found.lotId
      ? await reader.select({ id: lot.id, kind: lot.kind, code: lot.code }).from(lot).where(eq(lot.id, found.lotId))
      : [];
    if (of?.kind !== 'run')
      throw refused('lot.wrongKind', `${found.code} is no jar and no packing run. Name the jars that are bad.`, {
        field: 'bad',
      });
    bad.push({
      code: found.jar ? jarCode(of.code, found.jar.serial).text : of.code,
      runLotId: of.id,
      serial: found.jar?.serial ?? null,
    });
  }
  return bad;
}

/** What bad jars have in common that the runs packed around them have not. */
export async function readCause(reader: Reader, codes: readonly string[]): Promise<CauseReply> {
  const started = performance.now();
  const bad = await badOf(reader, codes);
  const { timeZone } = await loadHouse(reader);
  const badRuns = [...new Set(bad.map(({ runLotId }) => runLotId))];
  const near = await rows<{ id: string; code: string; name: string; bad: boolean }>(
    reader,
    sql`
    with of_bad as (select min(at) as first, max(at) as last from lot where id = ${anyOf(badRuns)})
    (select id, code, name, true as bad from lot where id = ${anyOf(badRuns)})
    union all
    (select l.id, l.code, l.name, false from lot l, of_bad b where l.kind = 'run' and l.undone_seq is null and not l.id = ${anyOf(badRuns)}
      and l.at between b.first - make_interval(days => ${DAYS}) and b.last + make_interval(days => ${DAYS})
      order by greatest(b.first - l.at, l.at - b.last, interval '0') limit ${MOST_COMPARED})`,
  );
  const serials = new Map(
    badRuns.flatMap((run) => {
      const named = bad.filter(({ runLotId }) => runLotId === run).map(({ serial }) => serial);
      return named.every((serial) => serial !== null) ? [[run, named as number[]] as const] : [];
    }),
  );
  const all = await traitsOf(
    reader,
    near.map(({ id }) => id),
    serials,
    timeZone,
  );
  const codesOf = new Map(all.map(({ kind, key, code }) => [`${kind} ${key}`, code]));
  const byRun = new Map<string, Trait[]>();
  for (const { run, kind, key, words } of all) byRun.set(run, [...(byRun.get(run) ?? []), { kind, key, words }]);
  const side = (isBad: boolean) => near.filter((run) => run.bad === isBad).map(({ id }) => byRun.get(id) ?? []);
  const causes = sharedCause(side(true), side(false));
  const names = new Map(near.map((run) => [run.id, run]));
  return {
    bad: bad.map(({ code, runLotId }) => ({ code, run: names.get(runLotId)!.code, name: names.get(runLotId)!.name })),
    good: near.filter((run) => !run.bad).length,
    days: DAYS,
    compared: new Set(all.map(({ kind, key }) => `${kind} ${key}`)).size,
    causes: causes.slice(0, 40).map(({ traits, ...cause }) => ({
      ...cause,
      traits: traits.map(({ kind, key, words }) => ({ kind, words, code: codesOf.get(`${kind} ${key}`) ?? null })),
    })),
    milliseconds: Math.round((performance.now() - started) * 10) / 10,
  };
}

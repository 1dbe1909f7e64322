import { DRAINED, saltFigure } from '@clear-tally/core';
import { and, lte, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { checkMark, finding } from '../db/schema/watching.js';
import { groupBy } from '../db/groupBy.js';
import { house } from '../db/schema/house.js';
import { refused } from '../journal/refused.js';
import { type OtherPart } from './acidInTime.js';
import { loadContents } from './contents.js';
import { openHolds } from './openHolds.js';
import { ownAndInherited, phPoints } from './readings.js';

import { BEGINS } from './starters.js';
import { usualCrossings } from './usualCrossings.js';
import { watch } from './watch.js';
import { type FillRow, isDated, type Known, type Watched } from './watchedVessel.js';

/** What narrows what is looked at: readings recorded by then only, to see a past moment as it was seen. */
interface AsSeen {
  readonly beforeSeq: number;
  /** Also of what is emptied by now: what was due on it then. */
  readonly evenClosed?: true;
}

/** A vessel whose record cannot be read: a fault of its own, which keeps no other from being read. */
export interface Unreadable {
  readonly lotId: string;
  readonly code: string;
  readonly batchCode: string;
  readonly vesselTag: string;
  readonly words: string;
}

/** Every live vessel that can be read, or these fills whether live or emptied. @throws {Refused} one of those named cannot be read */
export async function loadWatched(
  reader: Reader,
  now: Date,
  lotIds?: readonly string[],
  seen?: AsSeen,
): Promise<Watched[]> {
  const { vessels, faults } = await loadStanding(reader, now, lotIds, seen);
  if (lotIds && faults[0])
    throw refused(
      'record.unreadable',
      `${faults[0].words} Look at the entries of ${faults[0].batchCode}, and tell whoever keeps this house’s database.`,
      { field: 'lotId' },
    );
  return vessels;
}

/** The same, with those that cannot be read beside those that can. */
export async function loadStanding(
  reader: Reader,
  now: Date,
  lotIds?: readonly string[],
  seen?: AsSeen,
): Promise<{ vessels: Watched[]; faults: Unreadable[] }> {
  const [of] = await reader.select().from(house);
  if (!of) throw refused('resource.unknown', 'This ledger has no house yet.');
  if (lotIds?.length === 0) return { vessels: [], faults: [] };
  const fills = await rows<FillRow>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, l.origin, l.batch_id as "batchId", b.code as "batchCode", v.id as "vesselId", v.tag as "vesselTag", v.shape, coalesce(c.closure, v.closure) as closure, v.room_id as "roomId", rm.usual_celsius as "roomCelsius",
      l.at, l.closed_at is not null as closed, f.data as formula, b.rules, v.brim_ml as "brimMl", coalesce(own.checks, of_batch.checks) as plan, coalesce(own.since, of_batch.since, case when l.origin = 'beforeLedger' then (select min(m.at) from live_movement m where m.to_lot = l.id) end) as "planSince",
      (select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.kind in ('vessel.fill', 'lot.open', 'vessel.split') or m.to_lot = l.id and m.kind like 'finish.%') as "filledMg", fi.what as finish, exists (select 1 from live_movement m where m.from_lot = l.id and m.kind = ${DRAINED}) as drained, (select max(m.at) from live_movement m where m.to_lot = l.id and fi.lot_id is not null) as "mixedAt",
      exists (select 1 from jsonb_array_elements(f.data->'produce') p join material x on x.id = (p->>'materialId')::uuid where x.details->>'group' = 'fruit') as fruit,
      (select array_agg((x.details->>'red')::boolean) from jsonb_array_elements((f.data->'produce') || (f.data->'lines')) p join material x on x.id = (p->>'materialId')::uuid) as reds,
      b.variant, exists (select 1 from live_movement m join lot s on s.id = m.from_lot left join material x on x.id = s.material_id where m.to_lot in (l.id, l.batch_id) and m.kind = 'ingredient.add' and ${BEGINS}) as started,
      case when f.data ? 'windows' then (select max(j.happened_at) from entry_lot e join journal j on j.seq = e.seq where e.lot_id = l.id and j.kind = 'vessel.move') end as "movedAt",
      exists (select 1 from hold h where h.lot_id = l.id and h.rule = 'late' and h.lifted_at is not null and h.anew is not true) as "lateLifted",
      (select max(d.at) from finding d where d.lot_id = l.id and d.finding = 'film' and d.verdict not in ('hold', 'throwOut')) as "filmAt"
    from lot l join vessel v on v.id = l.vessel_id join room rm on rm.id = v.room_id join lot b on b.id = l.batch_id
    left join closing c on c.lot_id = l.id left join finish fi on fi.lot_id = l.id
    left join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    left join check_plan own on own.lot_id = l.id left join check_plan of_batch on of_batch.lot_id = l.batch_id
    where ${lotIds ? sql`l.kind = 'fill' and l.id = ${anyOf(lotIds)}` : sql`l.live_vessel is not null`}
    order by rm.position, v.tag`,
  );
  if (fills.length === 0) return { vessels: [], faults: [] };
  const ids = fills.map(({ lotId }) => lotId);
  // One after the other: inside a transaction there is one connection.
  const phs = await phPoints(reader, ids, seen ? { until: now } : {});
  const warmth = await rows<{ lotId: string; at: Date; value: string }>(
    reader,
    sql`
    ${ownAndInherited(ids)} select s.id as "lotId", r.at, r.value from source s join live_reading r on r.lot_id = s.lot_id and r.at <= s.until where r.kind = 'temperature' order by r.at`,
  );
  const marks = await reader
    .select({
      lotId: checkMark.lotId,
      key: checkMark.key,
      what: checkMark.what,
      words: checkMark.words,
      quiet: checkMark.quiet,
      figure: checkMark.figure,
      says: checkMark.says,
      detail: checkMark.detail,
      at: checkMark.at,
    })
    .from(checkMark)
    .where(sql`${checkMark.lotId} = ${anyOf(ids)}`)
    .orderBy(checkMark.at, checkMark.seq);
  const seenOn = groupBy(
    await reader
      .select({ lotId: finding.lotId, finding: finding.finding, verdict: finding.verdict, at: finding.at })
      .from(finding)
      .where(and(sql`${finding.lotId} = ${anyOf(ids)}`, seen ? lte(finding.at, now) : undefined))
      .orderBy(finding.at, finding.seq),
    (row) => row.lotId,
  );
  const held = await openHolds(reader, ids);
  const crossings = await usualCrossings(reader, fills, of.acidLimit);
  const contents = await loadContents(reader, ids);
  const parts = await mixedParts(reader, ids, seen ? now : null);
  const warm = groupBy(warmth, (row) => row.lotId);
  const marked = groupBy(marks, (row) => row.lotId);
  const settings = {
    now: now.getTime(),
    timeZone: of.timeZone,
    acidLimit: of.acidLimit,
    house: of.settings.acidByHours ?? {},
    saltBands: of.settings.saltBands,
  };
  const known = (fill: FillRow): Known => ({
    ...settings,
    phs: (phs.get(fill.lotId) ?? []).filter(({ rootSeq }) => !seen || rootSeq < seen.beforeSeq),
    celsius: (warm.get(fill.lotId) ?? [])
      .map((row) => ({ at: new Date(row.at).getTime(), celsius: Number(row.value) }))
      .filter(({ at }) => !seen || at <= settings.now),
    marks: (marked.get(fill.lotId) ?? []).map((row) => ({
      ...row,
      figure: row.figure === null ? null : Number(row.figure),
      at: new Date(row.at).getTime(),
    })),
    holds: held.get(fill.lotId) ?? [],
    crossing: crossings.get(fill.formula?.formulaId ?? '') ?? null,
    salt: saltFigure(contents.get(fill.lotId)!),
    parts: parts.get(fill.lotId) ?? [],
    found: seenOn.get(fill.lotId) ?? [],
    evenClosed: seen?.evenClosed === true,
    onlyBrine: contents.get(fill.lotId)!.vegetableGrams < contents.get(fill.lotId)!.grams * BRINE_SHARE,
  });
  const [vessels, faults]: [Watched[], Unreadable[]] = [[], []];
  for (const fill of fills) {
    try {
      vessels.push(watch(fill, known(fill)));
    } catch (error) {
      faults.push({
        lotId: fill.lotId,
        code: fill.code,
        batchCode: fill.batchCode,
        vesselTag: fill.vesselTag,
        words: `${fill.code} in ${fill.vesselTag} cannot be read: ${isDated(fill) ? `something recorded of it is not as it should be (${(error as Error).message})` : 'the day it was filled is no day of this calendar'}.`,
      });
    }
  }
  return { vessels, faults };
}

/** Less of it than this is produce: its pieces are out. */
const BRINE_SHARE = 0.1;

/** What came into these vessels from others, and whether the acid of each had come in time by then. */
async function mixedParts(
  reader: Reader,
  ids: readonly string[],
  before: Date | null,
): Promise<Map<string, OtherPart[]>> {
  const joins = await rows<{ toLot: string; fromLot: string; at: Date }>(
    reader,
    sql`
    select m.to_lot as "toLot", m.from_lot as "fromLot", m.at from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' where m.kind = 'lot.transfer' and m.to_lot = ${anyOf(ids)} ${before ? sql`and m.at < ${before.toISOString()}` : sql``} order by m.at`,
  );
  const parts: (OtherPart & { toLot: string })[] = [];
  for (const { toLot, fromLot, at } of joins) {
    const moment = new Date(at);
    // A part is seen as it stood when it was poured: of two vessels that gave to each other, only what came before counts.
    const {
      vessels: [part],
    } = await loadStanding(reader, moment, [fromLot], { beforeSeq: Number.MAX_SAFE_INTEGER });
    // Of a part that cannot be read nobody knows how old it was: what it was poured into cannot be judged either.
    parts.push({ toLot, at: moment.getTime(), filledAt: part?.filledAt ?? NaN, met: part?.lateness.state === 'met' });
  }
  return groupBy(parts, ({ toLot }) => toLot);
}

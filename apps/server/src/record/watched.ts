import { sql, type SQL } from 'drizzle-orm';
import {
  ACID_BOUNDARY, dayNumber, donenessMet, isRepeat, dueChecks, lateness, phTrend, readyWindow, schoolOf, SCHOOL_BANDS, temperatureSays, usualChecks,
  type CelsiusPoint, type Check, type CheckMade, type Condition, type DueCheck, type HoldRule, type Lateness, type PhPoint, type PhTrend,
} from '@clear-tally/core';
import type { BodyOf } from '@clear-tally/contract';
import { rows, type Reader } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { house, toGrams } from '../db/schema/index.js';
import { refused } from './refused.js';

type FormulaData = BodyOf<'formula.save'>;
export interface OpenHold { readonly entryId: string; readonly lotId: string; readonly rule: HoldRule; readonly reason: string; readonly placedAt: number; readonly causeLot: string | null }
interface Mark { readonly key: string; readonly what: string; readonly words: string | null; readonly quiet: boolean; readonly figure: number | null; readonly says: string | null; readonly detail: Record<string, unknown>; readonly at: number }

/** A filled vessel with all that is known of it since: what every rule, page and verdict is taken from. */
export interface Watched {
  readonly lotId: string; readonly code: string; readonly name: string; readonly origin: string; readonly batchId: string; readonly batchCode: string; readonly vesselId: string; readonly vesselTag: string;
  readonly shape: string; readonly closure: string; readonly roomId: string; readonly roomCelsius: number; readonly filledAt: number; readonly closed: boolean;
  readonly formula: FormulaData | null; readonly rules: Record<string, string>;
  readonly plan: readonly Check[]; readonly planSince: number | undefined;
  readonly phs: readonly (PhPoint & { entryId: string })[]; readonly celsius: readonly CelsiusPoint[]; readonly marks: readonly Mark[]; readonly holds: readonly OpenHold[];
  readonly trend: PhTrend; readonly lateness: Lateness; readonly temperature: ReturnType<typeof temperatureSays>; readonly due: readonly DueCheck[];
  readonly day: number; readonly doneness: readonly Condition[]; readonly window: { from: number; to: number }; readonly ready: boolean; readonly lastDay: number | null; readonly repeatAsked: boolean;
}

interface FillRow {
  lotId: string; code: string; name: string; origin: string; batchId: string; batchCode: string; vesselId: string; vesselTag: string; shape: string; closure: string; roomId: string; roomCelsius: string;
  at: Date; closed: boolean; formula: FormulaData | null; rules: Record<string, string> | null; brimMl: number; filledMg: string | null; plan: Check[] | null; planSince: Date | null; fruit: boolean;
}

/** A vessel split off another has that one's readings until then. */
const ownAndInherited = (lotIds: readonly string[]): SQL => sql`
  with source as (
    select id, id as lot_id, 'infinity'::timestamptz as until from lot where id in ${[...lotIds]}
    union all select to_lot, from_lot, at from live_movement where kind = 'vessel.split' and to_lot in ${[...lotIds]}
  )`;

/** Readings of these lots as they count, oldest first, the last so many of each at most; one off the trend is doubtful until its repeat agrees. */
export async function phPoints(reader: Reader, lotIds: readonly string[], last = 5000): Promise<Map<string, (PhPoint & { entryId: string })[]>> {
  const found = await rows<{ lotId: string; entryId: string; at: Date; value: string; sample: 'blended' | 'brine' | null; forRelease: boolean; jumped: boolean }>(reader, sql`
    ${ownAndInherited(lotIds)} select s.id as "lotId", r.entry_id as "entryId", r.at, r.value, r.sample, r.for_release as "forRelease", r.jumped from source s join live_reading r on r.lot_id = s.lot_id and r.at <= s.until
    where r.kind = 'ph' order by r.at desc, r.seq desc limit ${last * Math.max(1, lotIds.length)}`);
  found.reverse();
  const byLot = new Map<string, (PhPoint & { entryId: string })[]>();
  for (const lotId of lotIds) {
    const own = found.filter((row) => row.lotId === lotId);
    byLot.set(lotId, own.map((row, index) => {
      // The next one agrees with it, or it agrees with the one before that was off the trend too: then it stands.
      const agrees = (other: (typeof own)[number] | undefined): boolean => other !== undefined && isRepeat(Number(other.value), Number(row.value));
      const before = own.slice(0, index).findLast(({ sample }) => sample === row.sample);
      const doubtful = row.jumped && !agrees(own.slice(index + 1).find(({ sample }) => sample === row.sample)) && !(before?.jumped && agrees(before));
      return { entryId: row.entryId, at: new Date(row.at).getTime(), ph: Number(row.value), sample: row.sample ?? 'blended', fit: row.forRelease, ...(doubtful ? { doubtful } : {}) };
    }));
  }
  return byLot;
}

/** Open holds by lot. */
export async function openHolds(reader: Reader, lotIds: readonly string[]): Promise<Map<string, OpenHold[]>> {
  if (lotIds.length === 0) return new Map();
  const found = await rows<{ entryId: string; lotId: string; rule: HoldRule; reason: string; placedAt: Date; causeLot: string | null }>(reader, sql`
    select entry_id as "entryId", lot_id as "lotId", rule, reason, placed_at as "placedAt", cause_lot as "causeLot" from hold where lifted_at is null and lot_id in ${[...lotIds]} order by placed_at`);
  return groupBy(found.map((row) => ({ ...row, placedAt: new Date(row.placedAt).getTime() })), (row) => row.lotId);
}

/** Every live vessel, or these fills whether live or emptied. */
export async function loadWatched(reader: Reader, now: Date, lotIds?: readonly string[]): Promise<Watched[]> {
  const [of] = await reader.select().from(house);
  if (!of) throw refused('resource.unknown', 'This ledger has no house yet.');
  if (lotIds?.length === 0) return [];
  const fills = await rows<FillRow>(reader, sql`
    select l.id as "lotId", l.code, l.name, l.origin, l.batch_id as "batchId", b.code as "batchCode", v.id as "vesselId", v.tag as "vesselTag", v.shape, coalesce(c.closure, v.closure) as closure, v.room_id as "roomId", rm.usual_celsius as "roomCelsius",
      l.at, l.closed_at is not null as closed, f.data as formula, b.rules, v.brim_ml as "brimMl", coalesce(own.checks, of_batch.checks) as plan, coalesce(own.since, of_batch.since, case when l.origin = 'beforeLedger' then (select min(m.at) from live_movement m where m.to_lot = l.id) end) as "planSince",
      (select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.kind in ('vessel.fill', 'lot.open', 'vessel.split')) as "filledMg",
      exists (select 1 from jsonb_array_elements(f.data->'produce') p join material x on x.id = (p->>'materialId')::uuid where x.details->>'group' = 'fruit') as fruit
    from lot l join vessel v on v.id = l.vessel_id join room rm on rm.id = v.room_id join lot b on b.id = l.batch_id
    left join closing c on c.lot_id = l.id
    left join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    left join check_plan own on own.lot_id = l.id left join check_plan of_batch on of_batch.lot_id = l.batch_id
    where l.kind = 'fill' and ${lotIds ? sql`l.id in ${[...lotIds]}` : sql`l.closed_at is null`}
    order by rm.position, v.tag`);
  if (fills.length === 0) return [];
  const ids = fills.map(({ lotId }) => lotId);
  // One after the other: inside a transaction there is one connection.
  const phs = await phPoints(reader, ids);
  const warmth = await rows<{ lotId: string; at: Date; value: string }>(reader, sql`
    ${ownAndInherited(ids)} select s.id as "lotId", r.at, r.value from source s join live_reading r on r.lot_id = s.lot_id and r.at <= s.until where r.kind = 'temperature' order by r.at`);
  const marks = await rows<{ lotId: string; key: string; what: string; words: string | null; quiet: boolean; figure: string | null; says: string | null; detail: Record<string, unknown>; at: Date }>(reader, sql`
    select lot_id as "lotId", key, what, words, quiet, figure, says, detail, at from check_mark where lot_id in ${ids} order by at, seq`);
  const held = await openHolds(reader, ids);
  const crossings = await usualCrossings(reader, fills, of.acidLimit);
  const warm = groupBy(warmth, (row) => row.lotId);
  const marked = groupBy(marks, (row) => row.lotId);
  return fills.map((fill) => watch(fill, {
    now: now.getTime(), timeZone: of.timeZone, acidLimit: of.acidLimit, house: of.settings.acidByHours ?? {}, phs: phs.get(fill.lotId) ?? [],
    celsius: (warm.get(fill.lotId) ?? []).map((row) => ({ at: new Date(row.at).getTime(), celsius: Number(row.value) })),
    marks: (marked.get(fill.lotId) ?? []).map((row) => ({ ...row, figure: row.figure === null ? null : Number(row.figure), at: new Date(row.at).getTime() })),
    holds: held.get(fill.lotId) ?? [], crossing: crossings.get(fill.formula?.formulaId ?? '') ?? null,
  }));
}

interface Known { now: number; timeZone: string; acidLimit: number; house: Parameters<typeof lateness>[0]['house']; phs: (PhPoint & { entryId: string })[]; celsius: CelsiusPoint[]; marks: Mark[]; holds: OpenHold[]; crossing: { fromHours: number; toHours: number } | null }

function watch(fill: FillRow, known: Known): Watched {
  const { now, timeZone, acidLimit, phs, celsius, marks, holds } = known;
  const filledAt = new Date(fill.at).getTime();
  const roomCelsius = Number(fill.roomCelsius);
  // What has no formula has the usual plan; a formula may say that it has none.
  const plan = fill.plan ?? (fill.formula ? (fill.formula.checks ?? []) : usualChecks(14));
  const planSince = fill.planSince ? new Date(fill.planSince).getTime() : undefined;
  const trend = phTrend(phs);
  const meanCelsius = celsius.at(-1)?.celsius ?? roomCelsius;
  const repeatAsked = phs.at(-1)?.doubtful === true;
  const made: CheckMade[] = [
    ...phs.map(({ at }) => ({ what: 'ph' as const, words: null, at, quiet: true })), ...celsius.map(({ at }) => ({ what: 'temperature' as const, words: null, at, quiet: true })),
    ...marks.filter(({ what }) => what !== 'acid' && what !== 'ready').map(({ what, words, at, quiet }) => ({ what: what as CheckMade['what'], words, at, quiet })),
  ];
  const vessel = { filledAt, closure: fill.closure, fillFraction: toGrams(fill.filledMg ?? 0) / fill.brimMl, lastPh: trend.last?.ph ?? null, acidLimit, onHold: holds.length > 0, lively: meanCelsius > 22 || fill.fruit, crossing: known.crossing, repeatAsked };
  const day = dayNumber({ filledAt, at: now, timeZone });
  const tastes = marks.filter(({ what }) => what === 'taste');
  const burps = marks.filter(({ what }) => what === 'burp');
  const lastGas = burps.findLast(({ quiet }) => !quiet)?.at ?? (burps.length > 0 ? burps[0]!.at : null);
  const done = fill.formula?.done ?? null;
  const school = schoolOf(roomCelsius);
  return {
    lotId: fill.lotId, code: fill.code, name: fill.name, origin: fill.origin, batchId: fill.batchId, batchCode: fill.batchCode, vesselId: fill.vesselId, vesselTag: fill.vesselTag, shape: fill.shape, closure: fill.closure,
    roomId: fill.roomId, roomCelsius, filledAt, closed: fill.closed, formula: fill.formula, rules: fill.rules ?? {}, plan, planSince, phs, celsius, marks, holds, trend, day, repeatAsked,
    lateness: latenessOf(fill, phs, lateness({ filledAt, now, phs, celsius, roomCelsius, acidLimit, house: known.house })),
    temperature: temperatureSays({ points: celsius, filledAt, now, band: school ? SCHOOL_BANDS[school] : null }),
    due: fill.closed ? [] : dueChecks({ plan, vessel, made, now, timeZone, planSince }),
    doneness: done ? donenessMet({ done, points: phs, ageDays: day, acidPercent: marks.findLast(({ what }) => what === 'acid')?.figure ?? null, colourThrough: tastes.some(({ detail }) => detail['colourThrough'] === true), tasteSignedOff: tastes.at(-1)?.says === 'signedOff', quietSince: lastGas, now }) : [],
    window: readyWindow({ done, usualDays: fill.formula?.usualDays ?? 28, filledAt }),
    ready: marks.findLast(({ what }) => what === 'ready')?.says === 'yes',
    lastDay: fill.closure === 'vacuum' && done?.days ? done.days.to : null,
  };
}

/** Nobody knows when a vessel from before the ledger turned sour: only a reading that is too high speaks of it. */
function latenessOf(fill: FillRow, phs: readonly PhPoint[], found: Lateness): Lateness {
  const high = phs.findLast(({ sample, doubtful }) => sample === 'blended' && !doubtful);
  return fill.origin === 'beforeLedger' && found.reachedAt === null && !(high && high.ph > ACID_BOUNDARY) ? { ...found, state: 'pending', words: 'before the ledger: its early days are not known' } : found;
}

const ENOUGH_VESSELS = 3;

/** When vessels of a formula came to the limit: from the 10 % to the 90 % point of those the house has read. */
async function usualCrossings(reader: Reader, fills: readonly FillRow[], acidLimit: number): Promise<Map<string, { fromHours: number; toHours: number }>> {
  const formulas = [...new Set(fills.filter(({ plan, formula }) => (plan ?? formula?.checks ?? []).some(({ rule }) => rule.kind === 'aroundCrossing')).map(({ formula }) => formula!.formulaId))];
  if (formulas.length === 0) return new Map();
  const found = await rows<{ formulaId: string; from: number; to: number; vessels: number }>(reader, sql`
    with crossed as (
      select l.formula_id, l.id, extract(epoch from min(r.at) - l.at) / 3600 as hours from lot l join live_reading r on r.lot_id = l.id and r.kind = 'ph' and r.value <= ${acidLimit}
      where l.kind = 'fill' and l.formula_id in ${formulas} group by l.formula_id, l.id, l.at
    ) select formula_id as "formulaId", percentile_cont(0.1) within group (order by hours) as "from", percentile_cont(0.9) within group (order by hours) as "to", count(*)::int as vessels from crossed group by formula_id`);
  return new Map(found.filter(({ vessels }) => vessels >= ENOUGH_VESSELS).map((row) => [row.formulaId, { fromHours: Number(row.from), toHours: Number(row.to) }]));
}

import type { Entry } from '@clear-tally/contract';
import { ACID_BOUNDARY, acidIsEaten, type HoldRule, phTrend, RISE_LIMIT } from '@clear-tally/core';
import { and, count, eq, isNull, sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { anyOf, type Database, rows } from '../../db/database.js';
import { house, person } from '../../db/schema/house.js';
import { lot } from '../../db/schema/ledger.js';
import { recordEntries } from '../../journal/record.js';
import { Refused } from '../../journal/refused.js';
import { RULES_PERSON } from '../../journal/rulesPerson.js';
import type { Watched } from '../../lots/watchedVessel.js';
import { loadPastOf, loadWatched } from '../../lots/watched.js';
import { type OpenHold } from '../../lots/openHolds.js';

type RuleKind = 'late' | 'rising' | 'throwOut';

const RULES: readonly HoldRule[] = ['late', 'rising', 'throwOut'];

/**
 * Holds what the rules of handbook 3.3 hold: acid too late (also where it came late and was entered late), still above
 * 4.6 at twice the deadline, a rising pH, on every live vessel or on those named. Each hold is an entry like any other,
 * signed by the house's rules. Says again nothing that is said, and nothing a reviewer has ended.
 */
export async function applyRules(db: Database, now: Date, lotIds?: readonly string[]): Promise<number> {
  const [founded] = lotIds?.length === 0 ? [] : await db.select({ many: count() }).from(house);
  const watched = founded?.many
    ? (await loadWatched(db, now, lotIds && (await fillsOf(db, lotIds)))).filter(({ closed }) => !closed)
    : [];
  if (watched.length === 0) return 0;
  const ended = await endedHolds(
    db,
    watched.map(({ lotId }) => lotId),
  );
  const faults: unknown[] = [];
  const wanted = watched.flatMap((vessel) => {
    try {
      return holdWanted(vessel, ended);
    } catch (error) {
      // A vessel the rules stumble over keeps no other from being held.
      faults.push(error);
      return [];
    }
  });
  const placed = await record(
    db,
    now,
    wanted.map((body) => ({ kind: 'hold.byRule', body })),
  );
  if (faults.length > 0) throw faults[0];
  return placed;
}

/**
 * What rules decided is decided anew when a reading it rests on was corrected: a hold that would not have been placed
 * on what stands there now is ended, with that as its reason. Only what was recorded before the hold is looked at, so
 * that a reading thought of later opens nothing. Source: handbook 3.3.
 */
export async function decideAnew(db: Database, now: Date, lotIds: readonly string[]): Promise<number> {
  const open = await rows<{ lotId: string; entryId: string; rule: RuleKind; placedAt: Date; seq: string }>(
    db,
    sql`
    select h.lot_id as "lotId", h.entry_id as "entryId", h.rule, h.placed_at as "placedAt", j.seq from hold h join journal j on j.entry_id = h.entry_id
    where h.lifted_at is null and j.kind = 'hold.byRule' and h.lot_id = ${anyOf(lotIds)}`,
  );
  const fallen: { kind: string; body: object }[] = [];
  const then = await loadPastOf(
    db,
    open.map((hold) => ({ ...hold, at: hold.placedAt, beforeSeq: Number(hold.seq) })),
  );
  for (const hold of open) {
    const vessel = then.find(({ asked }) => asked.entryId === hold.entryId)?.vessel;
    const would = vessel ? holdWanted({ ...vessel, holds: [] }, new Map()) : [];
    // A hold to be thrown out that is a hold for lateness now is placed as that by the next look.
    if (!would.some(({ rule }) => rule === hold.rule))
      fallen.push({
        kind: 'hold.anew',
        body: {
          lotId: hold.lotId,
          holdId: hold.entryId,
          rule: hold.rule,
          reason: 'A reading it rests on was corrected: by what stands there now it would not have been held',
        },
      });
  }
  return record(db, now, fallen);
}

/** Lots whose readings these entries are, and whatever their corrections reach. */
export async function lotsRead(db: Database, entryIds: readonly string[]): Promise<string[]> {
  const found = await rows<{ id: string }>(
    db,
    sql`select lot_id as id from reading where root_entry_id in ${[...entryIds]}
    union select e.lot_id from correction c join entry_lot e on e.seq = c.seq where c.root_entry_id in ${[...entryIds]}`,
  );
  return found.map(({ id }) => id);
}

async function record(db: Database, now: Date, wanted: readonly { kind: string; body: object }[]): Promise<number> {
  if (wanted.length === 0) return 0;
  const actor = { id: RULES_PERSON.personId, role: RULES_PERSON.role };
  const entry = (kind: string, body: object): Entry =>
    ({ id: v7(), kind, happenedAt: now.toISOString(), by: actor.id, device: 'house rules', body }) as unknown as Entry;
  const [known] = await db.select({ many: count() }).from(person).where(eq(person.id, actor.id));
  // The id of this entry is always the same: added twice at once, it is added once.
  if (known!.many === 0)
    await recordEntries(db, {
      entries: [{ ...entry('person.add', RULES_PERSON), id: RULES_PERSON.personId }],
      actor,
      now,
    }).catch(ignoreRefused);
  let placed = 0;
  const faults: unknown[] = [];
  for (const { kind, body } of wanted) {
    try {
      await recordEntries(db, { entries: [entry(kind, body)], actor, now });
      placed += 1;
    } catch (error) {
      // Held by another look meanwhile, or emptied. A fault of one keeps no other from being held.
      if (!(error instanceof Refused)) faults.push(error);
    }
  }
  if (faults.length > 0) throw faults[0];
  return placed;
}

const ignoreRefused = (error: unknown): void => {
  if (!(error instanceof Refused)) throw error;
};

/**
 * Of some lots just read those that a rule could hold at all: most readings are low, fall, count, and are not the first.
 * What this leaves out the clock looks at within half a minute.
 */
export async function couldBeHeld(db: Database, lotIds: readonly string[]): Promise<string[]> {
  const found = await rows<{ id: string }>(
    db,
    sql`
    select l.id from lot l join lateral (
      select count(*) filter (where r.sample = 'blended' and r.for_release and r.value <= ${ACID_BOUNDARY}) as sour, min(r.value) as least, bool_or(r.jumped) as jumped,
        (array_agg(r.value order by r.at desc, r.seq desc))[1] as last, (array_agg(r.for_release and r.sample = 'blended' order by r.at desc, r.seq desc))[1] as counts
      from live_reading r where r.lot_id = l.id and r.kind = 'ph'
    ) ph on true
    where l.id = ${anyOf(lotIds)} and l.kind = 'fill' and l.closed_at is null
      and (ph.sour < 3 or ph.jumped or not ph.counts or ph.last > ph.least + ${RISE_LIMIT} or ph.last > (select acid_limit from house))`,
  );
  return found.map(({ id }) => id);
}

async function fillsOf(db: Database, lotIds: readonly string[]): Promise<string[]> {
  const found = await db
    .select({ id: lot.id })
    .from(lot)
    .where(and(sql`${lot.id} = ${anyOf(lotIds)}`, eq(lot.kind, 'fill'), isNull(lot.closedAt)));
  return found.map(({ id }) => id);
}

/** When holds of a rule were last ended on each lot, by a reviewer or by the rules themselves. */
type Ended = ReadonlyMap<string, { readonly at: number; readonly byReviewer: boolean }>;

async function endedHolds(db: Database, lotIds: readonly string[]): Promise<Ended> {
  const found = await rows<{ lotId: string; rule: HoldRule; at: Date; byReviewer: boolean }>(
    db,
    sql`
    select lot_id as "lotId", rule, max(lifted_at) as at, bool_or(anew is not true) as "byReviewer" from hold where lifted_at is not null and rule in ${[...RULES]} and lot_id in ${[...lotIds]} group by 1, 2`,
  );
  return new Map(
    found.map((row) => [`${row.lotId} ${row.rule}`, { at: new Date(row.at).getTime(), byReviewer: row.byReviewer }]),
  );
}

function holdWanted(vessel: Watched, ended: Ended): { lotId: string; rule: RuleKind; reason: string }[] {
  const held = new Set(vessel.holds.map(({ rule }: OpenHold) => rule));
  const { lateness, lotId } = vessel;
  const last = vessel.standing.last ? `last pH ${vessel.standing.last.ph.toFixed(2)}` : 'no pH read';
  const words = `${lateness.words}${lateness.unread ? '; nobody looked in time' : ''}, ${last}`;
  const wanted: { lotId: string; rule: RuleKind; reason: string }[] = [];
  if (lateness.state === 'throwOut' && !held.has('throwOut'))
    wanted.push({ lotId, rule: 'throwOut', reason: `Above 4.6 at twice its deadline (${words}): throw out` });
  const late = lateness.state === 'late' || lateness.state === 'metLate';
  // What a reviewer ended on two readings stays ended.
  if (late && !held.has('late') && !ended.get(`${lotId} late`)?.byReviewer)
    wanted.push({ lotId, rule: 'late', reason: `Acid too late: ${words}` });
  if (wanted.length > 0 || held.has('rising')) return wanted;
  // After a reviewer has ended it, only what rises from there counts.
  const lifted = ended.get(`${lotId} rising`)?.at ?? null;
  const from = lifted === null ? -Infinity : (vessel.phs.findLast(({ at }) => at <= lifted)?.at ?? -Infinity);
  const trend = phTrend(vessel.phs.filter(({ at }) => at >= from));
  return acidIsEaten(trend)
    ? [{ lotId, rule: 'rising', reason: `pH rising by ${trend.rise.toFixed(2)} (${last}): the acid is being eaten` }]
    : [];
}

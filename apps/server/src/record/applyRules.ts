import { sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { ACID_BOUNDARY, acidIsEaten, phTrend, RISE_LIMIT, type HoldRule } from '@clear-tally/core';
import type { Entry } from '@clear-tally/contract';
import { rows, type Database } from '../db/database.js';
import { recordEntries } from './record.js';
import { Refused } from './refused.js';
import { RULES_PERSON } from './rulesPerson.js';
import { loadWatched, type Watched } from './watched.js';

/**
 * Holds what the rules of handbook 3.3 hold: acid too late, still above the limit at twice the deadline, a rising
 * pH, on every live vessel or on those named. Each hold is an entry like any other, signed by the house's rules. Says again nothing that is said.
 */
export async function applyRules(db: Database, now: Date, lotIds?: readonly string[]): Promise<number> {
  const suspects = lotIds ? await suspectsOf(db, lotIds) : undefined;
  const [founded] = suspects?.length === 0 ? [] : await rows<{ many: number }>(db, sql`select count(*)::int as many from house`);
  const watched = founded?.many ? (await loadWatched(db, now, suspects)).filter(({ closed }) => !closed) : [];
  if (watched.length === 0) return 0;
  const lifted = await rows<{ lotId: string; rule: HoldRule; at: Date }>(db, sql`select lot_id as "lotId", rule, max(lifted_at) as at from hold where lifted_at is not null group by 1, 2`);
  const liftedAt = new Map(lifted.map((row) => [`${row.lotId} ${row.rule}`, new Date(row.at).getTime()]));
  const wanted = watched.flatMap((vessel) => holdWanted(vessel, liftedAt.get(`${vessel.lotId} rising`) ?? null));
  if (wanted.length === 0) return 0;
  const actor = { id: RULES_PERSON.personId, role: RULES_PERSON.role };
  const entry = (kind: string, body: object): Entry => ({ id: v7(), kind, happenedAt: now.toISOString(), by: actor.id, device: 'house rules', body }) as unknown as Entry;
  const [known] = await rows<{ many: number }>(db, sql`select count(*)::int as many from person where id = ${actor.id}`);
  // The id of this entry is always the same: added twice at once, it is added once.
  if (known!.many === 0) await recordEntries(db, { entries: [{ ...entry('person.add', RULES_PERSON), id: RULES_PERSON.personId }], actor, now }).catch(ignoreRefused);
  let placed = 0;
  for (const body of wanted) {
    try {
      await recordEntries(db, { entries: [entry('hold.byRule', body)], actor, now });
      placed += 1;
    } catch (error) {
      // Held by another look meanwhile, or emptied.
      ignoreRefused(error);
    }
  }
  return placed;
}

const ignoreRefused = (error: unknown): void => {
  if (!(error instanceof Refused)) throw error;
};

/** Of some lots those that a rule could hold at all: most readings are low, fall, and want no second look. */
async function suspectsOf(db: Database, lotIds: readonly string[]): Promise<string[]> {
  const found = await rows<{ id: string }>(db, sql`
    select l.id from lot l join lateral (
      select min(r.value) filter (where r.sample = 'blended') as lowest, min(r.value) as least, (array_agg(r.value order by r.at desc, r.seq desc))[1] as last from live_reading r where r.lot_id = l.id and r.kind = 'ph'
    ) ph on true
    where l.id in ${[...lotIds]} and l.kind = 'fill' and (ph.lowest is null or ph.lowest > ${ACID_BOUNDARY} or ph.last > ph.least + ${RISE_LIMIT} or ph.last > (select acid_limit from house))`);
  return found.map(({ id }) => id);
}

function holdWanted(vessel: Watched, risingLiftedAt: number | null): { lotId: string; rule: 'late' | 'rising' | 'throwOut'; reason: string }[] {
  const held = new Set(vessel.holds.map(({ rule }) => rule));
  const { lateness, lotId } = vessel;
  const last = vessel.trend.last ? `last pH ${vessel.trend.last.ph.toFixed(2)}` : 'no pH read';
  if (lateness.state === 'throwOut') return held.has('throwOut') ? [] : [{ lotId, rule: 'throwOut', reason: `Above the limit at twice its deadline (${lateness.words}), ${last}: throw out` }];
  if (lateness.state === 'late') return held.has('late') ? [] : [{ lotId, rule: 'late', reason: `Acid too late: ${lateness.words}, ${last}` }];
  if (held.has('rising')) return [];
  // After a reviewer has lifted it, only what rises from there counts.
  const from = risingLiftedAt === null ? -Infinity : (vessel.phs.findLast(({ at }) => at <= risingLiftedAt)?.at ?? -Infinity);
  const trend = phTrend(vessel.phs.filter(({ at }) => at >= from));
  return acidIsEaten(trend) ? [{ lotId, rule: 'rising', reason: `pH rising by ${trend.rise.toFixed(2)} to ${trend.last!.ph.toFixed(2)}: the acid is being eaten` }] : [];
}

import type { RecallAheadReply, RecallReply, RecallsReply } from '@clear-tally/contract';
import { crateOf, nextDrill, type RecallScope } from '@clear-tally/core';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { person } from '../../db/schema/house.js';
import { recall, recallLot } from '../../db/schema/recall.js';
import { refused } from '../../journal/refused.js';
import { findCode } from '../../lots/findCode.js';
import { loadLot, type LotRow } from '../../lots/lots.js';
import { crateNow, lotsInReach, placesOf } from '../../lots/recallCrate.js';
import { recallReach } from '../../lots/recallReach.js';

/** So many drills a year. Source: handbook 5.3 (5). */
const DRILLS_A_YEAR = 2;
const SUPPLIES_SHOWN = 400;
const iso = (at: Date | string): string => new Date(at).toISOString();

async function subjectOf(reader: Reader, of: LotRow): Promise<RecallReply['subject']> {
  const [supplier] = await rows<{ name: string | null; theirs: string | null }>(
    reader,
    sql`select s.name, l.supplier_lot_code as theirs from lot l left join supplier s on s.id = l.supplier_id where l.id = ${of.id}`,
  );
  return {
    lotId: of.id,
    code: of.code,
    kind: of.kind,
    name: of.name,
    supplier: supplier?.name ?? null,
    supplierLotCode: supplier?.theirs ?? null,
  };
}

const sums = (places: RecallReply['places'], runs: number) => ({
  jars: places.reduce((sum, { jars }) => sum + jars, 0),
  runs,
  customers: places.filter(({ kind }) => kind === 'customer').length,
});

/** What a recall of a lot would reach, before anybody opens it. Nothing is recorded, nothing is held. */
export async function readRecallAhead(
  reader: Reader,
  asked: { readonly code: string; readonly scope: RecallScope; readonly carryOver: boolean },
): Promise<RecallAheadReply> {
  const started = performance.now();
  const { lotId, code } = await findCode(reader, asked.code);
  if (lotId === null)
    throw refused('code.unknown', `${code} stands empty. Recall one of its lots from the book.`, { field: 'code' });
  const of = await loadLot(reader, lotId, 'code');
  const reach = await recallReach(reader, of, asked);
  const lots = await lotsInReach(reader, reach);
  const runs = lots.filter(({ kind }) => kind === 'run');
  const { places, crate } = await placesOf(reader, runs);
  const counted = crateOf(crate, []);
  const [already] = await reader
    .select({ code: recall.code, drill: recall.drill })
    .from(recall)
    .where(and(eq(recall.lotId, of.id), isNull(recall.closedAt)))
    .orderBy(recall.drill, desc(recall.at))
    .limit(1);
  const shown = places.map((place, i) => ({
    ...place,
    accounted: counted.rows[i]!.accounted,
    open: counted.rows[i]!.open,
    unanswered: counted.rows[i]!.unanswered,
  }));
  return {
    subject: await subjectOf(reader, of),
    lots,
    places: shown,
    ...sums(shown, runs.length),
    already: already ?? null,
    milliseconds: Math.round((performance.now() - started) * 10) / 10,
  };
}

/** A recall by its code, with every jar of it by where it is. */
export async function readRecall(reader: Reader, code: string): Promise<RecallReply> {
  const [of] = await reader.select().from(recall).where(eq(recall.code, code.trim().toUpperCase()));
  if (!of) throw refused('recall.unknown', `There is no recall ${code} in this house.`, { field: 'code' });
  const suspect = await loadLot(reader, of.lotId, 'lotId');
  const inReach = await reader
    .select({ lotId: recallLot.lotId, carryOver: recallLot.carryOver })
    .from(recallLot)
    .where(eq(recallLot.recallId, of.id));
  const reach = new Map([[suspect.id, false], ...inReach.map(({ lotId, carryOver }) => [lotId, carryOver] as const)]);
  const { places, counted, runs } = await crateNow(reader, of.id);
  const people = new Map(
    (await reader.select({ id: person.id, initials: person.initials }).from(person)).map((one) => [
      one.id,
      one.initials,
    ]),
  );
  return {
    recallId: of.id,
    code: of.code,
    drill: of.drill,
    scope: of.scope,
    carryOver: of.carryOver,
    reason: of.reason,
    source: of.source,
    heardAt: iso(of.heardAt),
    openedAt: iso(of.at),
    by: people.get(of.by) ?? '',
    subject: await subjectOf(reader, suspect),
    lots: await lotsInReach(reader, reach),
    places,
    ...sums(places, runs.length),
    accounted: counted.accounted,
    open: counted.open,
    closed: of.closedAt
      ? {
          at: iso(of.closedAt),
          by: people.get(of.closedBy ?? '') ?? '',
          outcome: of.outcome ?? '',
          restReason: of.restReason,
        }
      : null,
  };
}

/** Every recall and drill of the house, the open ones first; when the next drill is due; what can be recalled. */
export async function readRecalls(reader: Reader, now: Date): Promise<RecallsReply> {
  const all = await rows<{
    recallId: string;
    code: string;
    drill: boolean;
    what: string;
    lotCode: string;
    heardAt: Date;
    openedAt: Date;
    by: string;
    closedAt: Date | null;
  }>(
    reader,
    sql`
    select r.id as "recallId", r.code, r.drill, l.name as what, l.code as "lotCode", r.heard_at as "heardAt", r.at as "openedAt", p.initials as by, r.closed_at as "closedAt"
    from recall r join lot l on l.id = r.lot_id join person p on p.id = r.by order by r.closed_at is not null, r.at desc limit 100`,
  );
  const recalls: RecallsReply['recalls'] = [];
  for (const { heardAt, openedAt, closedAt, ...row } of all) {
    const { counted } = await crateNow(reader, row.recallId);
    recalls.push({
      ...row,
      openedAt: iso(openedAt),
      closedAt: closedAt ? iso(closedAt) : null,
      jars: counted.jars,
      open: counted.open,
      minutesToList: Math.max(0, Math.round((new Date(openedAt).getTime() - new Date(heardAt).getTime()) / 6000) / 10),
    });
  }
  const [begun] = await rows<{ at: Date | null }>(
    reader,
    sql`select coalesce((select max(at) from recall where drill), (select min(at) from lot)) as at`,
  );
  const due = nextDrill(begun?.at ? new Date(begun.at).getTime() : now.getTime(), DRILLS_A_YEAR);
  const supplies = await rows<RecallsReply['supplies'][number]>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, s.name as supplier, l.supplier_lot_code as theirs
    from lot l left join supplier s on s.id = l.supplier_id where l.kind = 'supply' and l.undone_seq is null order by l.at desc limit ${SUPPLIES_SHOWN}`,
  );
  return { recalls, drillDue: new Date(due).toISOString(), drillLate: due < now.getTime(), supplies };
}

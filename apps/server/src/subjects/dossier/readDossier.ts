import type { DossierReply, RunHeatReply, RunReply } from '@clear-tally/contract';
import { ALLERGENS, type Allergen, type Finish, FINISH_WORDS, saltWorking } from '@clear-tally/core';
import { desc, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { journal } from '../../db/schema/journal.js';
import { toGrams } from '../../db/schema/columns.js';
import { bookLines } from '../../journal/bookLines.js';
import { acidLimitsOf } from '../../lots/acidLimits.js';
import { batchState } from '../../lots/batchSalt.js';
import { loadHouse } from '../../lots/house.js';
import { cameInMg } from '../../lots/lotFigures.js';
import { loadLot } from '../../lots/lots.js';
import { tallyOf } from '../../lots/tallyOf.js';
import { walkBack } from '../../lots/walk.js';
import { vesselsBehind } from '../../lots/vesselsBehind.js';
import type { Watched } from '../../lots/watchedVessel.js';

const DAY = 86_400_000;

/** Beyond this a dossier is read in the book of the lot: the oldest lines stay. */
const MOST_LINES = 2000;

/** The dossier of a run: what it was made of, how it went, what was looked at, who signed, and where its jars are. */
export async function readDossier(reader: Reader, run: RunReply, heat: RunHeatReply, now: Date): Promise<DossierReply> {
  const house = await loadHouse(reader);
  const lot = await loadLot(reader, run.run.lotId, 'runLotId', ['run']);
  const vessels = (await vesselsBehind(reader, [{ lotId: lot.id, packedAt: lot.at }])).get(lot.id)!;
  const batchIds = [...new Set([lot.batchId!, ...vessels.map(({ batchId }) => batchId)])];
  const way = await lotsOf(reader, lot.id, batchIds);
  const own = way.filter(({ elsewhere, kind }) => !elsewhere && kind !== 'supply').map(({ id }) => id);
  return {
    house: house.name,
    at: now.toISOString(),
    acidLimit: Math.min(
      ...vessels.map(({ acidLimit }) => acidLimit),
      (await acidLimitsOf(reader, [lot.id])).get(lot.id)!,
    ),
    run,
    supplies: await suppliesOf(reader, lot.id),
    lots: way.filter(({ kind }) => kind !== 'supply').map(({ id: _, ...row }) => row),
    workings: await workingsOf(reader, batchIds),
    vessels: await Promise.all(vessels.map((vessel) => watchedOf(reader, vessel))),
    heat,
    tally: await tallyOf(reader, lot),
    lines: await linesOf(reader, [...own, lot.id]),
    ledger: await ledgerEnd(reader),
  };
}

interface WayRow extends Omit<DossierReply['lots'][number], 'at' | 'closedAt' | 'grams' | 'finish'> {
  id: string;
  at: Date;
  closedAt: Date | null;
  mg: string;
  finish: Finish | null;
}

async function lotsOf(
  reader: Reader,
  runLotId: string,
  batchIds: readonly string[],
): Promise<(DossierReply['lots'][number] & { id: string })[]> {
  const found = await rows<WayRow>(
    reader,
    sql`
    select l.id, l.code, l.kind, l.name, l.at, l.closed_at as "closedAt", v.tag as "vesselTag", i.what as finish, ${cameInMg(sql`l.id`)} as mg,
      l.kind <> 'supply' and not (l.batch_id = ${anyOf(batchIds)}) as elsewhere
    from lot l left join vessel v on v.id = l.vessel_id left join finish i on i.lot_id = l.id
    where l.id in (select w."from" from (${walkBack(runLotId)}) w) order by l.at, l.seq`,
  );
  return found.map(({ mg, at, closedAt, finish, ...row }) => ({
    ...row,
    at: new Date(at).toISOString(),
    closedAt: closedAt ? new Date(closedAt).toISOString() : null,
    finish: finish ? FINISH_WORDS[finish] : null,
    grams: toGrams(mg),
  }));
}

async function suppliesOf(reader: Reader, runLotId: string): Promise<DossierReply['supplies']> {
  const found = await rows<
    Omit<DossierReply['supplies'][number], 'receivedAt' | 'grams'> & { receivedAt: Date; mg: string }
  >(
    reader,
    sql`
    select l.code, l.name, s.name as supplier, l.supplier_lot_code as theirs, l.at as "receivedAt", l.use_by::text as "useBy", l.door, l.condition, sum(w.mg) as mg, x.allergens
    from (${walkBack(runLotId)}) w join lot l on l.id = w."from" and l.kind = 'supply' join material x on x.id = l.material_id left join supplier s on s.id = l.supplier_id
    group by l.id, s.name, x.allergens order by sum(w.mg) desc, l.code`,
  );
  return found.map(({ mg, receivedAt, allergens, ...row }) => ({
    ...row,
    receivedAt: new Date(receivedAt).toISOString(),
    grams: toGrams(mg),
    allergens: allergens.map((key) => ALLERGENS[key as Allergen]?.words ?? key),
  }));
}

/** Why the salt of each batch is what it is. Of what stood there before the ledger nobody can say. */
async function workingsOf(reader: Reader, batchIds: readonly string[]): Promise<DossierReply['workings']> {
  const found: DossierReply['workings'] = [];
  for (const id of batchIds) {
    const batch = await loadLot(reader, id, 'batchId', ['batch']);
    if (!batch.formulaId) continue;
    const state = await batchState(reader, batch);
    found.push({
      batchCode: batch.code,
      formula: `${state.formula.name}, version ${state.formula.version}`,
      working: saltWorking({
        basis: state.basis,
        saltFraction: state.saltFraction,
        vegetableGrams: state.produceGrams,
        waterGrams: state.waterGrams,
        saltGrams: state.targetGrams,
        vegetableFrom: 'weighed after trimming',
        waterFrom: 'per produce, from the formula',
      }),
      inGrams: state.saltInGrams,
      targetGrams: state.targetGrams,
      accepted: state.acceptedReason,
    });
  }
  return found;
}

async function watchedOf(reader: Reader, vessel: Watched): Promise<DossierReply['vessels'][number]> {
  const read = await rows<{
    entryId: string;
    kind: 'ph' | 'temperature';
    at: Date;
    value: string;
    by: string;
    sample: 'blended' | 'brine' | null;
    meter: string | null;
  }>(
    reader,
    sql`
    select r.entry_id as "entryId", r.kind, r.at, r.value, p.initials as by, r.sample, t.tag as meter
    from live_reading r join journal j on j.entry_id = r.root_entry_id join person p on p.id = j.by left join meter t on t.id = r.meter_id
    where r.lot_id = ${vessel.lotId} order by r.at, r.seq`,
  );
  const fit = new Map(
    vessel.phs.map((point) => [point.entryId, point.fit && !point.doubtful && point.sample === 'blended']),
  );
  const line = ({ entryId, at, value, by, sample, meter }: (typeof read)[number]) => ({
    at: new Date(at).toISOString(),
    value: Number(value),
    by,
    sample,
    meter,
    counts: fit.get(entryId) ?? false,
  });
  const { lateness } = vessel;
  return {
    code: vessel.code,
    vesselTag: vessel.vesselTag,
    filledAt: new Date(vessel.filledAt).toISOString(),
    deadlineDays: vessel.origin === 'beforeLedger' ? null : (lateness.deadline - vessel.filledAt) / DAY,
    acid: vessel.gate.find(({ key }) => key === 'acid')?.now ?? lateness.words,
    phs: read.filter(({ kind }) => kind === 'ph').map(line),
    celsius: read.filter(({ kind }) => kind === 'temperature').map(line),
    checksMade: vessel.marks.length,
    missed: vessel.due
      .filter(({ missed, state }) => missed > 0 || state === 'late')
      .map(({ name, missed }) => (missed > 1 ? `${name} ${missed} times` : name)),
    salt: vessel.salt,
  };
}

/** What was recorded of these lots; not what a batch poured into other vessels, or a vessel gave to other runs. */
async function linesOf(reader: Reader, lotIds: readonly string[]): Promise<DossierReply['lines']> {
  const lines = await bookLines(reader, lotIds);
  if (lines.length === 0) return [];
  const moved = await rows<{ entryId: string; mine: boolean }>(
    reader,
    sql`
    select m.root_entry_id as "entryId", bool_or(m.to_lot = ${anyOf(lotIds)} or (m.to_lot is null and m.from_lot = ${anyOf(lotIds)})) is true as mine
    from movement m where m.root_entry_id in ${lines.map(({ entryId }) => entryId)} group by 1`,
  );
  const others = new Set(moved.filter(({ mine }) => !mine).map(({ entryId }) => entryId));
  return lines
    .filter(({ entryId }) => !others.has(entryId))
    .reverse()
    .slice(0, MOST_LINES);
}

async function ledgerEnd(reader: Reader): Promise<DossierReply['ledger']> {
  const [end] = await reader
    .select({ seq: journal.seq, hash: journal.hash })
    .from(journal)
    .orderBy(desc(journal.seq))
    .limit(1);
  return { entries: end?.seq ?? 0, hash: end?.hash ?? '' };
}

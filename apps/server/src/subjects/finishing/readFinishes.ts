import type { FinishesReply, FinishReply } from '@clear-tally/contract';
import { FINISH_PARTS, type FinishPart, type Finish, saltFigure } from '@clear-tally/core';
import { desc, eq, isNull, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { toGrams } from '../../db/schema/columns.js';
import { finish } from '../../db/schema/finishing.js';
import { lot } from '../../db/schema/ledger.js';
import { refused } from '../../journal/refused.js';
import { loadContents, loadMade } from '../../lots/contents.js';
import { driedOf, finishOf, restartsIn, takenFrom } from '../../lots/finishes.js';
import { readFinishSheet } from '../../lots/finishSheet.js';
import { lotByCode } from '../../lots/lotByCode.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { loadPast, loadStanding, loadWatched } from '../../lots/watched.js';

/** Finishes in hand, the newest first, each with the step it waits at. */
export async function readFinishes(reader: Reader, now: Date): Promise<FinishesReply> {
  const live = await reader
    .select({ lotId: lot.id, code: lot.code, name: lot.name, what: finish.what, at: finish.at })
    .from(finish)
    .innerJoin(lot, eq(lot.id, finish.lotId))
    .where(isNull(lot.closedAt))
    .orderBy(desc(finish.seq));
  const { vessels, faults } = await loadStanding(
    reader,
    now,
    live.map(({ lotId }) => lotId),
  );
  const tags = new Map([...vessels, ...faults].map((one) => [one.lotId, one.vesselTag]));
  const unreadable = new Set(faults.map(({ lotId }) => lotId));
  const finishes: FinishesReply['finishes'] = [];
  for (const { lotId, code, name, what, at } of live) {
    const steps = unreadable.has(lotId) ? null : await readFinishSheet(reader, lotId, { what, at }, now);
    const [mass] = await rows<{ mg: string }>(reader, sql`select ${onHandMg(sql`${lotId}`)} as mg`);
    finishes.push({
      lotId,
      code,
      name,
      what,
      vesselTag: tags.get(lotId) ?? '',
      beganAt: at.toISOString(),
      onHandGrams: toGrams(mg(mass)),
      waits: steps
        ? (steps.find(({ state }) => state === 'open' || state === 'begun')?.name ?? null)
        : 'its record, which cannot be read',
    });
  }
  return { finishes };
}

const mg = (row: { mg: string } | undefined): string => row?.mg ?? '0';

interface PartRow {
  finishLotId: string;
  entryId: string;
  lotId: string;
  code: string;
  name: string;
  kind: string;
  fromKind: string;
  mg: string;
  at: Date;
  by: string;
  entry: string;
  first: boolean;
}

/** What went into these finishes, in its order. */
async function partsOf(reader: Reader, finishLotIds: readonly string[]): Promise<Map<string, PartRow[]>> {
  const found = await rows<PartRow>(
    reader,
    sql`
    select m.to_lot as "finishLotId", m.root_entry_id as "entryId", l.id as "lotId", l.code, l.name, m.kind, l.kind as "fromKind", m.milligrams as mg, m.at, p.initials as by, j.entry, m.seq = i.seq as first
    from live_movement m join finish i on i.lot_id = m.to_lot join lot l on l.id = m.from_lot join journal j on j.seq = m.seq join person p on p.id = j.by
    where m.to_lot = ${anyOf(finishLotIds)} order by m.at, m.id`,
  );
  return groupBy(found, ({ finishLotId }) => finishLotId);
}

/** What somebody said it is when it went in; read here, because the database reads no text an old book may hold. */
function saidAs({ entry, first, fromKind }: PartRow): 'product' | FinishPart {
  if (first) return 'product';
  const { body } = JSON.parse(entry) as { body: { as?: string; instead?: { body?: { as?: string } } } };
  const as = (body.instead?.body ?? body).as;
  return FINISH_PARTS.find((one) => one === as) ?? (fromKind === 'fill' ? 'brine' : 'spice');
}

interface Shares {
  readonly brine: number;
  readonly vinegar: number;
  readonly thickener: number;
}

/** Brine of the product, vinegar of both, thickener of all three: as a sauce is reckoned. Source: handbook 2.7. */
function sharesOf(parts: readonly PartRow[]): Shares {
  const sum = (as: 'product' | FinishPart): number =>
    parts.filter((part) => saidAs(part) === as).reduce((total, part) => total + toGrams(part.mg), 0);
  const [product, brine, vinegar] = [sum('product'), sum('brine'), sum('vinegar')];
  const share = (part: number, of: number): number => (of > 0 ? part / of : 0);
  return {
    brine: share(brine, product),
    vinegar: share(vinegar, product + brine),
    thickener: share(sum('thickener'), product + brine + vinegar),
  };
}

const MOST_LOOKED_AT = 40;

/** What this house has used in finishes of a kind before. */
async function usualOf(reader: Reader, what: Finish, notLotId: string): Promise<FinishReply['usual']> {
  const before = await rows<{ id: string; lost: string | null; inMg: string }>(
    reader,
    sql`
    select i.lot_id as id, (select sum(m.milligrams) from live_movement m where m.from_lot = i.lot_id and m.sink in ('residue', 'spill')) as lost,
      coalesce((select in_milligrams from lot_balance b where b.lot_id = i.lot_id), 0) as "inMg"
    from finish i where i.what = ${what} and i.lot_id <> ${notLotId} order by i.seq desc limit ${MOST_LOOKED_AT}`,
  );
  const parts =
    before.length > 0
      ? await partsOf(
          reader,
          before.map(({ id }) => id),
        )
      : new Map<string, PartRow[]>();
  const shares = before.map(({ id }) => sharesOf(parts.get(id) ?? []));
  const range = (of: readonly number[]): FinishReply['usual']['brine'] => {
    const used = of.filter((one) => one > 0);
    return used.length > 0 ? { from: Math.min(...used), to: Math.max(...used), lots: used.length } : null;
  };
  return {
    brine: range(shares.map(({ brine }) => brine)),
    vinegar: range(shares.map(({ vinegar }) => vinegar)),
    thickener: range(shares.map(({ thickener }) => thickener)),
    lost: range(before.map(({ lost, inMg }) => (Number(inMg) > 0 ? Number(lost ?? 0) / Number(inMg) : 0))),
  };
}

/** The sheet of a finish: its steps, what went in, what stands in it, and what may be done next. */
export async function readFinish(reader: Reader, code: string, now: Date): Promise<FinishReply> {
  const of = await lotByCode(reader, code);
  const finishing = await finishOf(reader, of.id);
  if (!finishing) throw refused('finish.not', `${of.code} is not taken in hand to be finished.`, { field: 'code' });
  const [watched] = await loadWatched(reader, now, [of.id]);
  const parts = (await partsOf(reader, [of.id])).get(of.id) ?? [];
  const sources = await sourcesOf(reader, of.id);
  const made = await rows<{
    lotId: string;
    code: string;
    name: string;
    form: string;
    mg: string;
    off: string | null;
    inMg: string;
  }>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, l.form, ${onHandMg(sql`l.id`)} as mg, b.in_milligrams as "inMg",
      (select sum(m.milligrams) from live_movement m where m.from_lot = l.id and m.sink = 'evaporation') as off
    from lot l join lot_balance b on b.lot_id = l.id
    where l.undone_seq is null and (l.form in ('repackBrine', 'boiledBrine') and l.batch_id = ${of.batchId} or l.form = 'byProduct' and exists (
      select 1 from live_movement m where m.to_lot = l.id and m.from_lot = ${anyOf([of.id, ...sources.map(({ lotId }) => lotId)])}))
    order by l.seq`,
  );
  const brines = made.filter(({ form, mg: left }) => form !== 'byProduct' && Number(left) > 0);
  const strength = await loadMade(
    reader,
    brines.map(({ lotId }) => lotId),
  );
  const contents = (await loadContents(reader, [of.id])).get(of.id)!;
  const [mass] = await rows<{ mg: string; lost: string | null }>(
    reader,
    sql`select ${onHandMg(sql`${of.id}`)} as mg, (select sum(m.milligrams) from live_movement m where m.from_lot = ${of.id} and m.sink in ('residue', 'spill')) as lost`,
  );
  const dried = await driedOf(reader, of.id);
  const phs = sources.flatMap(({ ph }) => ph ?? []);
  return {
    lotId: of.id,
    code: of.code,
    name: of.name,
    what: finishing.what,
    batchCode: watched?.batchCode ?? '',
    vesselTag: watched?.vesselTag ?? '',
    beganAt: finishing.at.toISOString(),
    closedAt: of.closedAt?.toISOString() ?? null,
    steps: await readFinishSheet(reader, of.id, finishing, now),
    parts: parts.map((part) => ({
      entryId: part.entryId,
      lotId: part.lotId,
      code: part.code,
      name: part.name,
      as: saidAs(part),
      grams: toGrams(part.mg),
      at: new Date(part.at).toISOString(),
      by: part.by,
    })),
    onHandGrams: Math.max(0, toGrams(mass?.mg ?? 0)),
    contents,
    salt: saltFigure(contents),
    productGrams: parts.filter(({ first }) => first).reduce((sum, part) => sum + toGrams(part.mg), 0),
    sources,
    sourcePh: phs.length > 0 ? Math.max(...phs) : null,
    brines: brines.map((one) => ({
      lotId: one.lotId,
      code: one.code,
      boiled: one.form === 'boiledBrine',
      onHandGrams: toGrams(one.mg),
      boiledOffGrams: one.form === 'boiledBrine' ? toGrams(one.off ?? 0) : null,
      contents: strength.get(one.lotId)!,
    })),
    byProducts: made
      .filter(({ form }) => form === 'byProduct')
      .map((one) => ({ lotId: one.lotId, code: one.code, name: one.name, grams: toGrams(one.inMg) })),
    dried: dried
      ? {
          celsius: dried.celsius,
          hours: dried.hours,
          leftGrams: toGrams(dried.leftMilligrams),
          waterActivity: dried.waterActivity,
        }
      : null,
    restarts: await restartsIn(reader, [of.id]),
    lostGrams: toGrams(mass?.lost ?? 0),
    gate: (watched?.gate ?? []).map(({ key, words, state, now: stands, refusal }) => ({
      key,
      words,
      state,
      now: stands,
      says: refusal?.message ?? null,
    })),
    lastPh: watched?.standing.counting?.ph ?? null,
    usual: await usualOf(reader, finishing.what, of.id),
    jarSizes: watched?.formula?.jarSizes.map(({ sizeMl, fillGrams }) => ({ sizeMl, fillGrams })) ?? [
      { sizeMl: 330, fillGrams: 320 },
    ],
  };
}

/** The vessels it came from: what stands in them still, and the pH they were taken in hand at. */
async function sourcesOf(reader: Reader, finishLotId: string): Promise<FinishReply['sources']> {
  const taken = await takenFrom(reader, [finishLotId]);
  const contents = await loadContents(
    reader,
    taken.map(({ lotId }) => lotId),
  );
  const found: FinishReply['sources'] = [];
  for (const { lotId, at } of taken) {
    const [watched] = await loadPast(reader, [{ lotId, at, evenClosed: true }]);
    const [left] = await rows<{ code: string; closed: boolean; mg: string }>(
      reader,
      sql`select code, closed_at is not null as closed, ${onHandMg(sql`lot.id`)} as mg from lot where id = ${lotId}`,
    );
    found.push({
      lotId,
      code: left!.code,
      onHandGrams: Math.max(0, toGrams(left!.mg)),
      closed: left!.closed,
      contents: contents.get(lotId)!,
      ph: watched?.standing.strict ?? null,
    });
  }
  return found;
}

import { saltFigure } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { house } from '../db/schema/house.js';
import { checkMark, finding } from '../db/schema/watching.js';
import { refused } from '../journal/refused.js';
import { type OtherPart } from './acidInTime.js';
import { acidLimitFor } from './acidLimits.js';
import { loadContents } from './contents.js';
import { loadFills } from './fillRows.js';
import { openHolds } from './openHolds.js';
import { ownAndInherited, phPointsAt } from './readings.js';
import { usualCrossings } from './usualCrossings.js';
import { watch } from './watch.js';
import { type FillRow, isDated, type Known, type Watched } from './watchedVessel.js';

/** A vessel as it stood at a past moment: what was read of it and poured into it later does not count. */
export interface PastLook {
  readonly lotId: string;
  readonly at: Date;
  /** Readings recorded before that entry only: as it was seen then, not as it is known today. */
  readonly beforeSeq?: number;
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

/** A vessel looked at: today, or as it stood. */
type Look = { readonly fill: FillRow; readonly at: Date } & (
  { readonly past: false } | ({ readonly past: true } & PastLook)
);

/** Every live vessel that can be read, or these fills whether live or emptied. @throws {Refused} one of those named cannot be read */
export async function loadWatched(reader: Reader, now: Date, lotIds?: readonly string[]): Promise<Watched[]> {
  const { vessels, faults } = await loadStanding(reader, now, lotIds);
  if (lotIds) refuseUnreadable(faults);
  return vessels;
}

/** The same, with those that cannot be read beside those that can. */
export async function loadStanding(
  reader: Reader,
  now: Date,
  lotIds?: readonly string[],
): Promise<{ vessels: Watched[]; faults: Unreadable[] }> {
  const fills = lotIds?.length === 0 ? [] : await loadFills(reader, lotIds);
  const seen = await lookAt(
    reader,
    fills.map((fill) => ({ fill, at: now, past: false })),
  );
  return {
    vessels: seen.flatMap(({ vessel }) => (vessel ? [vessel] : [])),
    faults: seen.flatMap(({ fault }) => (fault ? [fault] : [])),
  };
}

/** Vessels as they stood, each at a moment of its own, by room and tag. @throws {Refused} one cannot be read */
export async function loadPast(reader: Reader, looks: readonly PastLook[]): Promise<Watched[]> {
  return (await loadPastOf(reader, looks)).map(({ vessel }) => vessel);
}

/** The same, each beside what asked for it. */
export async function loadPastOf<Asked extends PastLook>(
  reader: Reader,
  asked: readonly Asked[],
): Promise<{ asked: Asked; vessel: Watched }[]> {
  const { seen, places } = await lookBack(reader, asked);
  refuseUnreadable(seen.flatMap(({ fault }) => (fault ? [fault] : [])));
  return asked
    .flatMap((one, index) => (seen[index]!.vessel ? [{ asked: one, vessel: seen[index]!.vessel }] : []))
    .sort((a, b) => places.get(a.vessel.lotId)! - places.get(b.vessel.lotId)!);
}

function refuseUnreadable([fault]: readonly Unreadable[]): void {
  if (fault)
    throw refused(
      'record.unreadable',
      `${fault.words} Look at the entries of ${fault.batchCode}, and tell whoever keeps this house’s database.`,
      { field: 'lotId' },
    );
}

/** Neither: it is no vessel. */
interface Seen {
  readonly vessel?: Watched;
  readonly fault?: Unreadable;
}

/** In the order asked; `places`: how the vessels stand in the house. */
async function lookBack(
  reader: Reader,
  looks: readonly PastLook[],
): Promise<{ seen: Seen[]; places: ReadonlyMap<string, number> }> {
  const lotIds = [...new Set(looks.map(({ lotId }) => lotId))];
  const fills = lotIds.length === 0 ? [] : await loadFills(reader, lotIds);
  const byLot = new Map(fills.map((fill) => [fill.lotId, fill]));
  const known = looks.filter(({ lotId }) => byLot.has(lotId));
  const seen = (
    await lookAt(
      reader,
      known.map((look) => ({ ...look, fill: byLot.get(look.lotId)!, past: true })),
    )
  ).values();
  return {
    seen: looks.map(({ lotId }) => (byLot.has(lotId) ? seen.next().value! : {})),
    places: new Map(fills.map(({ lotId }, place) => [lotId, place])),
  };
}

/** What every look needs is read for all of them at once; each then takes what was there by its moment. */
async function lookAt(reader: Reader, looks: readonly Look[]): Promise<Seen[]> {
  const [of] = await reader.select().from(house);
  if (!of) throw refused('resource.unknown', 'This ledger has no house yet.');
  if (looks.length === 0) return [];
  const fills = [...new Set(looks.map(({ fill }) => fill))];
  const ids = fills.map(({ lotId }) => lotId);
  // One after the other: inside a transaction there is one connection.
  const phs = await phPointsAt(
    reader,
    looks.map(({ fill: { lotId }, at, past }) => ({ lotId, ...(past ? { until: at } : {}) })),
  );
  const warm = await warmthOf(reader, ids);
  const marked = await marksOf(reader, ids);
  const seenOn = await findingsOf(reader, ids);
  const held = await openHolds(reader, ids);
  const crossings = await usualCrossings(reader, fills, of.acidLimit);
  const contents = await loadContents(reader, ids);
  const parts = await mixedParts(reader, looks);
  const limit = await acidLimitFor(reader);
  return looks.map((look, index) => {
    const { fill, at, past } = look;
    const by = <T extends { readonly at: number }>(all: readonly T[] | undefined): T[] =>
      (all ?? []).filter((one) => !past || one.at <= at.getTime());
    const stands = contents.get(fill.lotId)!;
    return see(fill, {
      now: at.getTime(),
      timeZone: of.timeZone,
      acidLimit: limit({ begunSeq: Number(fill.begunSeq), rules: fill.rules }),
      house: of.settings.acidByHours ?? {},
      saltBands: of.settings.saltBands,
      phs: phs[index]!.filter(({ rootSeq }) => !past || rootSeq < (look.beforeSeq ?? Infinity)),
      celsius: by(warm.get(fill.lotId)),
      marks: marked.get(fill.lotId) ?? [],
      holds: held.get(fill.lotId) ?? [],
      crossing: crossings.get(fill.formula?.formulaId ?? '') ?? null,
      salt: saltFigure(stands),
      parts: parts[index]!,
      found: (seenOn.get(fill.lotId) ?? []).filter((one) => !past || one.at <= at),
      evenClosed: past && look.evenClosed === true,
      onlyBrine: stands.vegetableGrams < stands.grams * BRINE_SHARE,
    });
  });
}

/** Less of it than this is produce: its pieces are out. */
const BRINE_SHARE = 0.1;

function see(fill: FillRow, known: Known): Seen {
  try {
    return { vessel: watch(fill, known) };
  } catch (error) {
    return {
      fault: {
        lotId: fill.lotId,
        code: fill.code,
        batchCode: fill.batchCode,
        vesselTag: fill.vesselTag,
        words: `${fill.code} in ${fill.vesselTag} cannot be read: ${isDated(fill) ? `something recorded of it is not as it should be (${(error as Error).message})` : 'the day it was filled is no day of this calendar'}.`,
      },
    };
  }
}

async function warmthOf(reader: Reader, ids: readonly string[]) {
  const found = await rows<{ lotId: string; at: Date; value: string }>(
    reader,
    sql`
    ${ownAndInherited(ids)} select s.id as "lotId", r.at, r.value from source s join live_reading r on r.lot_id = s.lot_id and r.at <= s.until where r.kind = 'temperature' order by r.at`,
  );
  return groupBy(
    found.map(({ lotId, at, value }) => ({ lotId, at: at.getTime(), celsius: Number(value) })),
    ({ lotId }) => lotId,
  );
}

async function marksOf(reader: Reader, ids: readonly string[]) {
  const { lotId, key, what, words, quiet, figure, says, detail, at } = checkMark;
  const found = await reader
    .select({ lotId, key, what, words, quiet, figure, says, detail, at })
    .from(checkMark)
    .where(sql`${lotId} = ${anyOf(ids)}`)
    .orderBy(at, checkMark.seq);
  return groupBy(
    found.map((row) => ({ ...row, figure: row.figure === null ? null : Number(row.figure), at: row.at.getTime() })),
    (row) => row.lotId,
  );
}

async function findingsOf(reader: Reader, ids: readonly string[]) {
  const { lotId, verdict, at } = finding;
  const found = await reader
    .select({ lotId, finding: finding.finding, verdict, at })
    .from(finding)
    .where(sql`${lotId} = ${anyOf(ids)}`)
    .orderBy(at, finding.seq);
  return groupBy(found, (row) => row.lotId);
}

/** What came into these vessels from others by each look, and whether the acid of each had come in time by then. */
async function mixedParts(reader: Reader, looks: readonly Look[]): Promise<OtherPart[][]> {
  const joins = groupBy(
    await rows<{ toLot: string; fromLot: string; at: Date }>(
      reader,
      sql`
      select m.to_lot as "toLot", m.from_lot as "fromLot", m.at from live_movement m join lot f on f.id = m.from_lot and f.kind = 'fill' where m.kind = 'lot.transfer' and m.to_lot = ${anyOf(looks.map(({ fill }) => fill.lotId))} order by m.at`,
    ),
    ({ toLot }) => toLot,
  );
  const joinedBy = looks.map(({ fill, at, past }) =>
    (joins.get(fill.lotId) ?? []).filter((join) => !past || join.at < at),
  );
  // A part is seen as it stood when it was poured: of two vessels that gave to each other, only what came before counts.
  const asked = joinedBy.flat().map(({ fromLot, at }): PastLook => ({ lotId: fromLot, at }));
  const parts = (await lookBack(reader, asked)).seen.values();
  return joinedBy.map((own) =>
    own.map(({ at }): OtherPart => {
      const part = parts.next().value?.vessel;
      // Of a part that cannot be read nobody knows how old it was: what it was poured into cannot be judged either.
      return { at: at.getTime(), filledAt: part?.filledAt ?? NaN, met: part?.lateness.state === 'met' };
    }),
  );
}

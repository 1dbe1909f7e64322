import type { BodyOf } from '@clear-tally/contract';
import {
  type AskedCheck,
  askedPlan,
  type CelsiusPoint,
  type Check,
  type CheckMade,
  DRAINED,
  drainedRow,
  type Condition,
  dayNumber,
  doneByWindow,
  donenessMet,
  type DueCheck,
  dueChecks,
  effectsOf,
  type Finish,
  finishGate,
  firstRefusal,
  freshHours,
  type GateInput,
  type GateRow,
  HOLDS_HOURS,
  houseBandSays,
  isRecordable,
  type Lateness,
  lateness,
  isoDay,
  meanCelsius,
  NO_LAST_DAY,
  type Outcome,
  packingGate,
  type PhStanding,
  phStanding,
  type PhTrend,
  phTrend,
  readyAt,
  type ReadyAt,
  type SaltFigure,
  saltFigure,
  SCHOOL_BANDS,
  schoolOf,
  stretches,
  temperatureSays,
  usualChecks,
  windowFor,
  type WindowFacts,
} from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { toGrams } from '../db/schema/columns.js';
import { house } from '../db/schema/house.js';
import { refused } from '../journal/refused.js';
import { latenessOf, type OtherPart } from './acidInTime.js';
import { loadContents } from './contents.js';
import { type OpenHold, openHolds } from './openHolds.js';
import { ownAndInherited, phPoints, type ReadPoint } from './readings.js';
import { USUAL_FORM } from './scalable.js';
import { type FindingRow, findingsAsk, type Mark, type SeenOnIt, seenOnIt } from './seenOnVessel.js';
import { usualCrossings } from './usualCrossings.js';

type FormulaData = BodyOf<'formula.save'>;

/** A filled vessel with all that is known of it since: what every rule, page and verdict is taken from. */
export interface Watched {
  readonly lotId: string;
  readonly code: string;
  readonly name: string;
  readonly origin: string;
  readonly batchId: string;
  readonly batchCode: string;
  readonly vesselId: string;
  readonly vesselTag: string;
  readonly shape: string;
  readonly closure: string;
  readonly roomId: string;
  readonly roomCelsius: number;
  readonly filledAt: number;
  readonly closed: boolean;
  readonly formula: FormulaData | null;
  readonly rules: Record<string, string>;
  readonly fruit: boolean;
  readonly red: boolean | null;
  /** As it is asked: the plan, and what the vessel's state and the house's ways ask in exchange. */
  readonly plan: readonly AskedCheck[];
  /** As somebody wrote it. */
  readonly ownPlan: readonly Check[];
  readonly planSince: number | undefined;
  readonly phs: readonly ReadPoint[];
  readonly celsius: readonly CelsiusPoint[];
  readonly marks: readonly Mark[];
  readonly holds: readonly OpenHold[];
  readonly standing: PhStanding;
  readonly trend: PhTrend;
  readonly lateness: Lateness;
  readonly temperature: ReturnType<typeof temperatureSays>;
  readonly due: readonly DueCheck[];
  /** The gravest of what was seen on it and is still to be looked at again. */
  readonly seen: SeenOnIt | null;
  readonly salt: SaltFigure;
  readonly houseBand: ReturnType<typeof houseBandSays>;
  readonly gate: readonly GateRow[];
  readonly packable: Outcome<void>;
  readonly acidLimit: number;
  readonly day: number;
  readonly doneness: readonly Condition[];
  readonly window: ReadyAt;
  readonly ready: boolean;
  readonly lastDay: number | null;
  readonly repeatAsked: boolean;
  /** Its temperature now: of the vessel, or of its room where nobody read it in the last day and a half. */
  readonly celsiusNow: number;
}

interface FillRow {
  lotId: string;
  code: string;
  name: string;
  origin: string;
  batchId: string;
  batchCode: string;
  vesselId: string;
  vesselTag: string;
  shape: string;
  closure: string;
  roomId: string;
  roomCelsius: string;
  at: Date;
  closed: boolean;
  formula: FormulaData | null;
  rules: Record<string, string> | null;
  brimMl: number;
  filledMg: string | null;
  plan: Check[] | null;
  planSince: Date | null;
  fruit: boolean;
  reds: (boolean | null)[] | null;
  lateLifted: boolean;
  filmAt: Date | null;
  finish: Finish | null;
  variant: string | null;
  /** Begun with kept brine, a culture or another vessel's contents. */
  started: boolean;
  /** When it last changed rooms; asked where its formula has windows only. */
  movedAt: Date | null;
  /** Pieces were drained out of it. */
  drained: boolean;
  /** When the last thing went into a finish. */
  mixedAt: Date | null;
}

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
      b.variant, exists (select 1 from live_movement m join lot s on s.id = m.from_lot left join material x on x.id = s.material_id where m.to_lot in (l.id, l.batch_id) and m.kind = 'ingredient.add' and (s.kind = 'fill' or s.form in ('keptBrine', 'starterLiquor', 'culture') or x.kind = 'starter')) as started,
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
  const marks = await rows<{
    lotId: string;
    key: string;
    what: string;
    words: string | null;
    quiet: boolean;
    figure: string | null;
    says: string | null;
    detail: Record<string, unknown>;
    at: Date;
  }>(
    reader,
    sql`
    select lot_id as "lotId", key, what, words, quiet, figure, says, detail, at from check_mark where lot_id = ${anyOf(ids)} order by at, seq`,
  );
  const seenOn = groupBy(
    await rows<FindingRow>(
      reader,
      sql`select lot_id as "lotId", finding, verdict, at from finding where lot_id = ${anyOf(ids)} ${seen ? sql`and at <= ${now.toISOString()}` : sql``} order by at, seq`,
    ),
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

const isDated = ({ at }: FillRow): boolean => isRecordable(new Date(at).getTime());

interface Known {
  now: number;
  timeZone: string;
  acidLimit: number;
  house: Parameters<typeof lateness>[0]['house'];
  saltBands: Parameters<typeof houseBandSays>[0]['bands'];
  phs: ReadPoint[];
  celsius: CelsiusPoint[];
  marks: Mark[];
  holds: OpenHold[];
  crossing: { fromHours: number; toHours: number } | null;
  salt: SaltFigure;
  parts: readonly OtherPart[];
  found: readonly FindingRow[];
  evenClosed: boolean;
  /** Nothing but water, salt and what is dissolved stands there by the movements. */
  onlyBrine: boolean;
}

function watch(fill: FillRow, known: Known): Watched {
  const { now, timeZone, acidLimit, phs, celsius, marks, holds, salt } = known;
  const filledAt = new Date(fill.at).getTime();
  if (!isDated(fill)) throw new RangeError('no day');
  if (known.parts.some((part) => Number.isNaN(part.filledAt)))
    throw new RangeError('what was poured into it from another vessel cannot be read');
  const roomCelsius = Number(fill.roomCelsius);
  const rules = fill.rules ?? {};
  const day = dayNumber({ filledAt, at: now, timeZone });
  // What has no formula has the usual plan; a formula may say that it has none.
  // What is being finished is in somebody's hands: nothing falls due on it by a plan.
  const ownPlan = fill.plan ?? (fill.finish ? [] : fill.formula ? (fill.formula.checks ?? []) : usualChecks(14));
  const filmDay = fill.filmAt ? dayNumber({ filledAt, at: new Date(fill.filmAt).getTime(), timeZone }) : null;
  const windows = fill.finish ? [] : (fill.formula?.windows ?? []);
  const facts: WindowFacts = {
    starter: fill.started,
    // The mean that the deadline of its acid goes by, too.
    celsius: meanCelsius(stretches({ filledAt, until: now, points: celsius, roomCelsius }), roomCelsius),
    celsiusRead: celsius.some(({ at }) => at >= filledAt && at <= now),
    month: Number(isoDay(filledAt, timeZone).slice(5, 7)),
    variant: fill.variant,
  };
  const window = windowFor(windows, facts);
  const plan = askedPlan(ownPlan, {
    closure: fill.closure,
    waterPhaseSalt: salt.waterPhase,
    houseAsks: fill.finish ? [] : effectsOf(rules).checks,
    filmDay,
    tasteDay: window?.tasteDay ?? null,
    coldDay: window?.counterDays != null && roomCelsius > COLD_ROOM ? window.counterDays : null,
    findings: findingsAsk(known.found, (at) => dayNumber({ filledAt, at, timeZone }), now),
  });
  const planSince = fill.planSince ? new Date(fill.planSince).getTime() : undefined;
  const standing = phStanding(phs);
  const trend = phTrend(phs);
  const lastWarmth = celsius.findLast(({ at }) => at <= now);
  const celsiusNow = lastWarmth && now - lastWarmth.at <= HOLDS_HOURS * 3_600_000 ? lastWarmth.celsius : roomCelsius;
  const repeatAsked = phs.at(-1)?.doubtful === true;
  const vessel = {
    filledAt,
    closure: fill.closure,
    fillFraction: toGrams(fill.filledMg ?? 0) / fill.brimMl,
    lastPh: standing.counting?.ph ?? null,
    strictPh: standing.strict,
    acidLimit,
    onHold: holds.length > 0,
    lively: celsiusNow > 22 || fill.fruit,
    crossing: known.crossing,
    repeatAsked,
  };
  const tastes = marks.filter(({ what }) => what === 'taste');
  const burps = marks.filter(({ what }) => what === 'burp');
  const lastGas = burps.findLast(({ quiet }) => !quiet)?.at ?? (burps.length > 0 ? burps[0]!.at : null);
  const ownDone = fill.finish ? null : (fill.formula?.done ?? null);
  const done = doneByWindow(ownDone, window);
  const school = schoolOf(roomCelsius);
  const own = latenessOf(fill, { ...known, filledAt, roomCelsius });
  // Acid came in its vessels, or it would not have been taken in hand.
  const late: Lateness = fill.finish
    ? { ...own, state: 'met', reachedAt: filledAt, unread: false, words: 'its vessels met theirs' }
    : own;
  const fresh = freshHours({ plan, ageDays: day });
  const gate: GateInput = {
    code: fill.code,
    closed: fill.closed,
    onHold: holds.length > 0 ? [...new Set(holds.map(({ reason }) => reason))].join('; ') : null,
    points: phs,
    acidLimit,
    lateness: late,
    latenessLifted: fill.lateLifted,
    beforeLedger: fill.origin === 'beforeLedger',
    filledAt,
    now,
    freshHours: fresh,
  };
  const rows_ = fill.finish
    ? finishGate({ ...gate, finish: fill.finish, mixedAt: new Date(fill.mixedAt ?? fill.at).getTime() })
    : [...packingGate(gate), ...(fill.drained && known.onlyBrine && !fill.closed ? [drainedRow(fill.code)] : [])];
  return {
    lotId: fill.lotId,
    code: fill.code,
    name: fill.name,
    origin: fill.origin,
    batchId: fill.batchId,
    batchCode: fill.batchCode,
    vesselId: fill.vesselId,
    vesselTag: fill.vesselTag,
    shape: fill.shape,
    closure: fill.closure,
    roomId: fill.roomId,
    roomCelsius,
    filledAt,
    closed: fill.closed,
    formula: fill.formula,
    rules,
    fruit: fill.fruit,
    red: redOf(fill.reds),
    plan,
    ownPlan,
    planSince,
    phs,
    celsius,
    marks,
    holds,
    standing,
    trend,
    day,
    repeatAsked,
    celsiusNow,
    lateness: late,
    temperature: temperatureSays({
      points: celsius,
      filledAt,
      now,
      band: fill.formula?.celsius ?? (school ? SCHOOL_BANDS[school] : null),
    }),
    due:
      fill.closed && !known.evenClosed
        ? []
        : dueChecks({ plan, vessel, made: madeOf(phs, celsius, marks), now, timeZone, planSince }),
    seen: seenOnIt(known.found, marks),
    salt,
    houseBand: fill.formula
      ? houseBandSays({
          figure: salt,
          form: fill.formula.form ?? USUAL_FORM[fill.formula.style],
          bands: known.saltBands,
        })
      : null,
    gate: rows_,
    packable: firstRefusal(rows_, { acidLimit, lastPh: standing.last?.ph ?? null }),
    acidLimit,
    doneness: done
      ? donenessMet({
          done,
          points: phs,
          ageDays: day,
          acidPercent: marks.findLast(({ what }) => what === 'acid')?.figure ?? null,
          colourThrough: tastes.some(({ detail }) => detail['colourThrough'] === true),
          tasteSignedOff: tastes.at(-1)?.says === 'signedOff',
          quietSince: lastGas,
          now,
          freshHours: fresh,
        })
      : [],
    window: readyAt({
      windows,
      facts,
      done: ownDone,
      usualDays: fill.formula?.usualDays ?? 28,
      filledAt,
      coldSince: roomCelsius <= COLD_ROOM ? new Date(fill.movedAt ?? fill.at).getTime() : null,
    }),
    ready: marks.findLast(({ what }) => what === 'ready')?.says === 'yes',
    lastDay: fill.closure === 'vacuum' && done?.days && done.days.to < NO_LAST_DAY ? done.days.to : null,
  };
}

/** A room this cold is a cold room. */
const COLD_ROOM = 8;

const madeOf = (phs: readonly ReadPoint[], celsius: readonly CelsiusPoint[], marks: readonly Mark[]): CheckMade[] => [
  ...phs.map(({ at }) => ({ what: 'ph' as const, words: null, at, quiet: true })),
  ...celsius.map(({ at }) => ({ what: 'temperature' as const, words: null, at, quiet: true })),
  ...marks
    .filter(({ what }) => what !== 'acid' && what !== 'ready')
    .map(({ what, words, at, quiet }) => ({ what: what as CheckMade['what'], words, at, quiet })),
];

/** Whether something in it brings a red of its own; null where nobody knows what went in, or of one part. */
export const redOf = (parts: readonly (boolean | null)[] | null): boolean | null =>
  parts === null ? null : parts.some((red) => red === true) ? true : parts.some((red) => red === null) ? null : false;

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

import type { BodyOf } from '@clear-tally/contract';
import {
  ACID_BOUNDARY,
  againWords,
  type AskedCheck,
  type AskedFinding,
  askedPlan,
  type CelsiusPoint,
  type Check,
  type CheckMade,
  DRAINED,
  drainedRow,
  clockOf,
  type Condition,
  counts,
  dayNumber,
  donenessMet,
  type DueCheck,
  dueChecks,
  effectsOf,
  type Finish,
  finishGate,
  findingOf,
  firstRefusal,
  freshHours,
  type GateInput,
  type GateRow,
  type HoldRule,
  HOLDS_HOURS,
  houseBandSays,
  isRecordable,
  type Lateness,
  lateness,
  lookAgainDays,
  type MixedPart,
  type Outcome,
  packingGate,
  type PhStanding,
  phStanding,
  type PhTrend,
  phTrend,
  readyWindow,
  type SaltFigure,
  saltFigure,
  SCHOOL_BANDS,
  schoolOf,
  temperatureSays,
  usualChecks,
  type Verdict,
} from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { toGrams } from '../db/schema/columns.js';
import { house } from '../db/schema/house.js';
import { refused } from '../journal/refused.js';
import { loadContents } from './contents.js';
import { ownAndInherited, phPoints, type ReadPoint } from './readings.js';
import { USUAL_FORM } from './scalable.js';

type FormulaData = BodyOf<'formula.save'>;

export interface OpenHold {
  readonly entryId: string;
  readonly lotId: string;
  readonly rule: HoldRule;
  readonly reason: string;
  readonly placedAt: number;
  readonly causeLot: string | null;
  readonly byRule: boolean;
}

interface Mark {
  readonly key: string;
  readonly what: string;
  readonly words: string | null;
  readonly quiet: boolean;
  readonly figure: number | null;
  readonly says: string | null;
  readonly detail: Record<string, unknown>;
  readonly at: number;
}

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
  readonly window: { from: number; to: number };
  readonly ready: boolean;
  readonly lastDay: number | null;
  readonly repeatAsked: boolean;
  /** Its temperature now: of the vessel, or of its room where nobody read it in the last day and a half. */
  readonly celsiusNow: number;
}

/** A finding of "Watch" or "Act" whose second look is still to come. */
export interface SeenOnIt {
  readonly verdict: 'watch' | 'act';
  readonly name: string;
  readonly at: number;
}

interface FindingRow {
  readonly lotId: string;
  readonly finding: string;
  readonly verdict: Verdict;
  readonly at: Date;
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
  /** Pieces were drained out of it. */
  drained: boolean;
  /** When the last thing went into a finish. */
  mixedAt: Date | null;
}

/** Open holds by lot. */
export async function openHolds(reader: Reader, lotIds: readonly string[]): Promise<Map<string, OpenHold[]>> {
  if (lotIds.length === 0) return new Map();
  const found = await rows<{
    entryId: string;
    lotId: string;
    rule: HoldRule;
    reason: string;
    placedAt: Date;
    causeLot: string | null;
    byRule: boolean;
  }>(
    reader,
    sql`
    select h.entry_id as "entryId", h.lot_id as "lotId", h.rule, h.reason, h.placed_at as "placedAt", h.cause_lot as "causeLot", coalesce(j.kind = 'hold.byRule', false) as "byRule"
    from hold h left join journal j on j.entry_id = h.entry_id where h.lifted_at is null and h.lot_id = ${anyOf(lotIds)} order by h.placed_at`,
  );
  return groupBy(
    found.map((row) => ({ ...row, placedAt: new Date(row.placedAt).getTime() })),
    (row) => row.lotId,
  );
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
  const plan = askedPlan(ownPlan, {
    closure: fill.closure,
    waterPhaseSalt: salt.waterPhase,
    houseAsks: fill.finish ? [] : effectsOf(rules).checks,
    filmDay,
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
  const done = fill.finish ? null : (fill.formula?.done ?? null);
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
    window: readyWindow({ done, usualDays: fill.formula?.usualDays ?? 28, filledAt }),
    ready: marks.findLast(({ what }) => what === 'ready')?.says === 'yes',
    lastDay: fill.closure === 'vacuum' && done?.days ? done.days.to : null,
  };
}

const madeOf = (phs: readonly ReadPoint[], celsius: readonly CelsiusPoint[], marks: readonly Mark[]): CheckMade[] => [
  ...phs.map(({ at }) => ({ what: 'ph' as const, words: null, at, quiet: true })),
  ...celsius.map(({ at }) => ({ what: 'temperature' as const, words: null, at, quiet: true })),
  ...marks
    .filter(({ what }) => what !== 'acid' && what !== 'ready')
    .map(({ what, words, at, quiet }) => ({ what: what as CheckMade['what'], words, at, quiet })),
];

/** What is asked of a vessel by what was seen on it in the last two weeks. A finding seen in order ends those before it. */
function findingsAsk(found: readonly FindingRow[], dayOf: (at: number) => number, now: number): AskedFinding[] {
  return openFindings(found)
    .filter(({ at }) => now - new Date(at).getTime() < FINDING_ASKS_MS)
    .map(({ finding, verdict, at }) => {
      const of = findingOf(finding)!;
      const days = lookAgainDays(finding, verdict);
      const day = dayOf(new Date(at).getTime());
      return { name: of.name, todo: of.todo, day, againDay: finding === 'film' || days === null ? null : day + days };
    });
}

const FINDING_ASKS_MS = 14 * 86_400_000;

/** Of "Watch" and "Act", each kind once, the last; what looks right afterwards closes what was seen before. */
function openFindings(found: readonly FindingRow[]): FindingRow[] {
  const right = found.findLastIndex(({ finding, verdict }) => finding === 'looksRight' && verdict === 'fine');
  const last = new Map(found.slice(right + 1).map((row) => [row.finding, row]));
  return [...last.values()].filter(({ verdict }) => verdict === 'watch' || verdict === 'act');
}

function seenOnIt(found: readonly FindingRow[], marks: readonly Mark[]): SeenOnIt | null {
  const lookedAgain = (row: FindingRow): boolean =>
    marks.some(
      ({ what, words, at }) =>
        at > new Date(row.at).getTime() &&
        (what === 'todo'
          ? words === againWords(findingOf(row.finding)!.name)
          : row.finding === 'film' && what === 'look' && words === 'where the film was'),
    );
  const open = openFindings(found).filter((row) => !lookedAgain(row));
  const gravest = open.find(({ verdict }) => verdict === 'act') ?? open.at(-1);
  return gravest
    ? {
        verdict: gravest.verdict as 'watch' | 'act',
        name: findingOf(gravest.finding)!.name,
        at: new Date(gravest.at).getTime(),
      }
    : null;
}

/** Whether something in it brings a red of its own; null where nobody knows what went in, or of one part. */
export const redOf = (parts: readonly (boolean | null)[] | null): boolean | null =>
  parts === null ? null : parts.some((red) => red === true) ? true : parts.some((red) => red === null) ? null : false;

interface OtherPart {
  readonly at: number;
  readonly filledAt: number;
  readonly met: boolean;
}

/**
 * Acid in time. What was poured in from another vessel starts the clock of the youngest part whose acid had not come.
 * Nobody knows when a vessel from before the ledger turned sour: only a reading that is too high speaks of it.
 */
function latenessOf(fill: FillRow, known: Known & { filledAt: number; roomCelsius: number }): Lateness {
  const { now, phs, celsius, house: rows_, roomCelsius, filledAt, parts } = known;
  const reckon = (from: number, until: number, points: readonly ReadPoint[]): Lateness =>
    lateness({ filledAt: from, now: until, phs: points, celsius, roomCelsius, house: rows_ });
  // Its own early days are told by what was read then, whatever was poured in later.
  const asItWas = phs.map((point): ReadPoint => (point.beforeMixture ? { ...point, beforeMixture: false } : point));
  const own = reckon(filledAt, now, asItWas);
  const found = parts.length === 0 ? own : mixed();
  const high = phs.findLast(counts);
  return fill.origin === 'beforeLedger' && !(high && high.ph > ACID_BOUNDARY)
    ? { ...found, state: 'pending', words: 'before these records: its early days are not known' }
    : found;

  function mixed(): Lateness {
    const at = Math.max(...parts.map((part) => part.at));
    const mine: MixedPart = {
      filledAt,
      met:
        reckon(
          filledAt,
          at,
          asItWas.filter((point) => point.at <= at),
        ).state === 'met',
    };
    const clock = clockOf([mine, ...parts]);
    return clock === null
      ? own
      : reckon(
          clock,
          now,
          phs.filter((point) => !point.beforeMixture && point.at > at),
        );
  }
}

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

const ENOUGH_VESSELS = 3;

/** When vessels of a formula came to the limit: from the 10 % to the 90 % point of those the house has read. */
async function usualCrossings(
  reader: Reader,
  fills: readonly FillRow[],
  acidLimit: number,
): Promise<Map<string, { fromHours: number; toHours: number }>> {
  const formulas = [
    ...new Set(
      fills
        .filter(({ plan, formula }) =>
          (plan ?? formula?.checks ?? []).some(({ rule }) => rule.kind === 'aroundCrossing'),
        )
        .map(({ formula }) => formula!.formulaId),
    ),
  ];
  if (formulas.length === 0) return new Map();
  const found = await rows<{ formulaId: string; from: number; to: number; vessels: number }>(
    reader,
    sql`
    with crossed as (
      select l.formula_id, l.id, extract(epoch from min(r.at) - l.at) / 3600 as hours from lot l join live_reading r on r.lot_id = l.id and r.kind = 'ph' and r.value <= ${acidLimit} and r.sample = 'blended' and r.for_release
      where l.kind = 'fill' and l.formula_id = ${anyOf(formulas)} group by l.formula_id, l.id, l.at
    ) select formula_id as "formulaId", percentile_cont(0.1) within group (order by hours) as "from", percentile_cont(0.9) within group (order by hours) as "to", count(*)::int as vessels from crossed group by formula_id`,
  );
  return new Map(
    found
      .filter(({ vessels }) => vessels >= ENOUGH_VESSELS)
      .map((row) => [row.formulaId, { fromHours: Number(row.from), toHours: Number(row.to) }]),
  );
}

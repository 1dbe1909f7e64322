import type { BodyOf } from '@clear-tally/contract';
import {
  type AskedCheck,
  askedPlan,
  checkKey,
  type CelsiusPoint,
  type Check,
  type CheckMade,
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
  SCHOOL_BANDS,
  schoolOf,
  stretches,
  temperatureSays,
  usualChecks,
  windowFor,
  type WindowFacts,
} from '@clear-tally/core';
import { toGrams } from '../db/schema/columns.js';
import { latenessOf, type OtherPart } from './acidInTime.js';
import { type OpenHold } from './openHolds.js';
import { type ReadPoint } from './readings.js';
import { USUAL_FORM } from './scalable.js';
import { type FindingRow, findingsAsk, type Mark, type SeenOnIt, seenOnIt } from './seenOnVessel.js';

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

/** A fill as it stands in the tables. */
export interface FillRow {
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

/** Whether the day it was filled is a day of the calendar. */
export const isDated = ({ at }: FillRow): boolean => isRecordable(new Date(at).getTime());

/** What was read, heard and seen of it. */
export interface Known {
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

/** What all of it comes to: plan, deadline, holds, readiness, what is due. @throws {RangeError} what cannot be read */
export function watch(fill: FillRow, known: Known): Watched {
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
  const usualPlan = fill.finish ? [] : fill.formula ? (fill.formula.checks ?? []) : usualChecks(14);
  const ownPlan = fill.plan ?? usualPlan;
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
  // Beside its formula's, what its state asks for was asked all along.
  const planned = new Set(ownPlan.map(checkKey));
  const planBefore = fill.plan ? [...usualPlan, ...plan.filter((one) => !planned.has(checkKey(one)))] : undefined;
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
        : dueChecks({ plan, vessel, made: madeOf(phs, celsius, marks), now, timeZone, planSince, planBefore }),
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

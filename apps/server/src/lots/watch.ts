import {
  askedPlan,
  type AskedCheck,
  checkKey,
  type CelsiusPoint,
  type Check,
  type CheckMade,
  type Condition,
  dayNumber,
  doneByWindow,
  donenessMet,
  drainedRow,
  dueChecks,
  effectsOf,
  finishGate,
  firstRefusal,
  freshHours,
  type GateInput,
  type GateRow,
  HOLDS_MS,
  houseBandSays,
  isoDay,
  type Lateness,
  meanCelsius,
  NO_LAST_DAY,
  packingGate,
  phStanding,
  phTrend,
  readyAt,
  SCHOOL_BANDS,
  schoolOf,
  stretches,
  temperatureSays,
  usualChecks,
  windowFor,
  type WindowFacts,
} from '@clear-tally/core';
import { toGrams } from '../db/schema/columns.js';
import { latenessOf } from './acidInTime.js';
import type { ReadPoint } from './readings.js';
import { USUAL_FORM } from './scalable.js';
import { findingsAsk, type Mark, seenOnIt } from './seenOnVessel.js';
import { type FillRow, isDated, type Known, type Watched } from './watchedVessel.js';

/** A vessel, what is known of it, and the moments every part of the answer begins with. */
interface Begun {
  readonly fill: FillRow;
  readonly known: Known;
  readonly filledAt: number;
  readonly roomCelsius: number;
  /** Days since it was filled, by the house's clock. */
  readonly day: number;
}

/** What all of it comes to: plan, deadline, holds, readiness, what is due. @throws {RangeError} what cannot be read */
export function watch(fill: FillRow, byHouse: Known): Watched {
  if (!isDated(fill)) throw new RangeError('no day');
  const known = { ...byHouse, acidLimit: limitOf(fill, byHouse) };
  if (known.parts.some((part) => Number.isNaN(part.filledAt)))
    throw new RangeError('what was poured into it from another vessel cannot be read');
  const filledAt = new Date(fill.at).getTime();
  const { now, timeZone, acidLimit, phs, celsius, marks, holds, salt } = known;
  const day = dayNumber({ filledAt, at: now, timeZone });
  const begun: Begun = { fill, known, filledAt, roomCelsius: Number(fill.roomCelsius), day };
  const { roomCelsius } = begun;
  const facts = windowFacts(begun);
  const windows = fill.finish ? [] : (fill.formula?.windows ?? []);
  const window = windowFor(windows, facts);
  const plans = plansOf(begun, window);
  const standing = phStanding(phs);
  const late = acidInTime(begun);
  const ownDone = fill.finish ? null : (fill.formula?.done ?? null);
  const within = doneByWindow(ownDone, window);
  const done = within && within.phAtMost !== null ? { ...within, phAtMost: acidLimit } : within;
  const fresh = freshHours({ plan: plans.plan, ageDays: day });
  const gate = gateRows(begun, late, fresh);
  const school = schoolOf(roomCelsius);
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
    rules: fill.rules ?? {},
    fruit: fill.fruit,
    red: redOf(fill.reds),
    plan: plans.plan,
    ownPlan: plans.ownPlan,
    planSince: plans.planSince,
    phs,
    celsius,
    marks,
    holds,
    standing,
    trend: phTrend(phs),
    day,
    repeatAsked: repeatAsked(known),
    celsiusNow: celsiusNow(begun),
    lateness: late,
    temperature: temperatureSays({
      points: celsius,
      filledAt,
      now,
      band: fill.formula?.celsius ?? (school ? SCHOOL_BANDS[school] : null),
    }),
    due: dueOf(begun, plans, standing),
    seen: seenOnIt(known.found, marks),
    salt,
    houseBand: fill.formula
      ? houseBandSays({
          figure: salt,
          form: fill.formula.form ?? USUAL_FORM[fill.formula.style],
          bands: known.saltBands,
        })
      : null,
    gate,
    packable: firstRefusal(gate, { acidLimit, lastPh: standing.last?.ph ?? null }),
    acidLimit,
    doneness: done ? conditionsOf(begun, done, fresh) : [],
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

/** Of the house's limit and its formula's the stricter one: one figure in every row. A finish is of another pH than its vessel. */
const limitOf = ({ finish, formula }: FillRow, { acidLimit }: Known): number =>
  finish ? acidLimit : Math.min(acidLimit, formula?.done?.phAtMost ?? Infinity);

/** A room this cold is a cold room. */
const COLD_ROOM = 8;

const repeatAsked = ({ phs }: Known): boolean => phs.at(-1)?.doubtful === true;

/** By what its formula's windows are chosen. */
function windowFacts({ fill, known, filledAt, roomCelsius }: Begun): WindowFacts {
  const { now, celsius, timeZone } = known;
  return {
    starter: fill.started,
    // The mean that the deadline of its acid goes by, too.
    celsius: meanCelsius(stretches({ filledAt, until: now, points: celsius, roomCelsius }), roomCelsius),
    celsiusRead: celsius.some(({ at }) => at >= filledAt && at <= now),
    month: Number(isoDay(filledAt, timeZone).slice(5, 7)),
    variant: fill.variant,
  };
}

/** Its temperature now: of the vessel, or of its room where nobody read it in the last day and a half. */
function celsiusNow({ known: { now, celsius }, roomCelsius }: Begun): number {
  const last = celsius.findLast(({ at }) => at <= now);
  return last && now - last.at <= HOLDS_MS ? last.celsius : roomCelsius;
}

interface Plans {
  readonly plan: readonly AskedCheck[];
  readonly ownPlan: readonly Check[];
  readonly planBefore: readonly AskedCheck[] | undefined;
  readonly planSince: number | undefined;
}

/** The plan somebody wrote, what the vessel's state and the house's ways ask in exchange, and what was asked before. */
function plansOf({ fill, known, filledAt, roomCelsius }: Begun, window: ReturnType<typeof windowFor>): Plans {
  const { now, timeZone, salt, found } = known;
  const dayOf = (at: number): number => dayNumber({ filledAt, at, timeZone });
  // What has no formula has the usual plan; a formula may say that it has none.
  // What is being finished is in somebody's hands: nothing falls due on it by a plan.
  const usualPlan = fill.finish ? [] : fill.formula ? (fill.formula.checks ?? []) : usualChecks(14);
  const ownPlan = fill.plan ?? usualPlan;
  const plan = askedPlan(ownPlan, {
    closure: fill.closure,
    waterPhaseSalt: salt.waterPhase,
    houseAsks: fill.finish ? [] : effectsOf(fill.rules ?? {}).checks,
    filmDay: fill.filmAt ? dayOf(new Date(fill.filmAt).getTime()) : null,
    tasteDay: window?.tasteDay ?? null,
    coldDay: window?.counterDays != null && roomCelsius > COLD_ROOM ? window.counterDays : null,
    findings: findingsAsk(found, dayOf, now),
  });
  // Beside its formula's, what its state asks for was asked all along.
  const planned = new Set(ownPlan.map(checkKey));
  return {
    plan,
    ownPlan,
    planBefore: fill.plan ? [...usualPlan, ...plan.filter((one) => !planned.has(checkKey(one)))] : undefined,
    planSince: fill.planSince ? new Date(fill.planSince).getTime() : undefined,
  };
}

/** Whether its acid came in time. Of a finish it came in its vessels, or it would not have been taken in hand. */
function acidInTime({ fill, known, filledAt, roomCelsius }: Begun): Lateness {
  const own = latenessOf(fill, { ...known, filledAt, roomCelsius });
  return fill.finish
    ? { ...own, state: 'met', reachedAt: filledAt, unread: false, words: 'its vessels met theirs' }
    : own;
}

function gateRows({ fill, known, filledAt }: Begun, late: Lateness, fresh: number): GateRow[] {
  const { holds, phs, acidLimit, now } = known;
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
  return fill.finish
    ? finishGate({ ...gate, finish: fill.finish, mixedAt: new Date(fill.mixedAt ?? fill.at).getTime() })
    : [...packingGate(gate), ...(fill.drained && known.onlyBrine && !fill.closed ? [drainedRow(fill.code)] : [])];
}

/** What is due on it now; on an emptied vessel nothing is, but where a past moment is looked at. */
function dueOf(begun: Begun, plans: Plans, standing: Watched['standing']): Watched['due'] {
  const { fill, known, filledAt } = begun;
  const { now, timeZone, acidLimit, phs, celsius, marks } = known;
  if (fill.closed && !known.evenClosed) return [];
  const vessel = {
    filledAt,
    closure: fill.closure,
    fillFraction: toGrams(fill.filledMg ?? 0) / fill.brimMl,
    lastPh: standing.counting?.ph ?? null,
    strictPh: standing.strict,
    acidLimit,
    onHold: known.holds.length > 0,
    lively: celsiusNow(begun) > 22 || fill.fruit,
    crossing: known.crossing,
    repeatAsked: repeatAsked(known),
  };
  const { plan, planSince, planBefore } = plans;
  return dueChecks({ plan, vessel, made: madeOf(phs, celsius, marks), now, timeZone, planSince, planBefore });
}

/** The conditions its formula calls it done by, each met or not. */
function conditionsOf(
  { known: { phs, marks, now }, day }: Begun,
  done: NonNullable<ReturnType<typeof doneByWindow>>,
  fresh: number,
): Condition[] {
  const tastes = marks.filter(({ what }) => what === 'taste');
  const burps = marks.filter(({ what }) => what === 'burp');
  return donenessMet({
    done,
    points: phs,
    ageDays: day,
    acidPercent: marks.findLast(({ what }) => what === 'acid')?.figure ?? null,
    colourThrough: tastes.some(({ detail }) => detail['colourThrough'] === true),
    tasteSignedOff: tastes.at(-1)?.says === 'signedOff',
    quietSince: burps.findLast(({ quiet }) => !quiet)?.at ?? burps[0]?.at ?? null,
    now,
    freshHours: fresh,
  });
}

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

import type { BodyOf } from '@clear-tally/contract';
import {
  type AskedCheck,
  type CelsiusPoint,
  type Check,
  type Condition,
  type DueCheck,
  type Finish,
  type GateRow,
  type houseBandSays,
  isRecordable,
  type Lateness,
  type lateness,
  type Outcome,
  type PhStanding,
  type PhTrend,
  type ReadyAt,
  type SaltFigure,
  type temperatureSays,
} from '@clear-tally/core';
import type { OtherPart } from './acidInTime.js';
import type { OpenHold } from './openHolds.js';
import type { ReadPoint } from './readings.js';
import type { FindingRow, Mark, SeenOnIt } from './seenOnVessel.js';

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
  begunSeq: string;
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
  /** The pH the house holds it to: the strictest since it began. */
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

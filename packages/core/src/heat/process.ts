import { accept, type Outcome, refuse } from '../refusal.js';
import { boilingPoint } from './lethality.js';

/** How a product is made to keep. */
export const HEAT_METHODS = ['hotFill', 'waterBath'] as const;
export type HeatMethod = (typeof HEAT_METHODS)[number];
export const HEAT_METHOD_WORDS: Readonly<Record<HeatMethod, string>> = {
  hotFill: 'hot fill and hold',
  waterBath: 'water bath',
};

/**
 * Limits of a scheduled process, as its process authority set them. The product brings none of its own. °C, minutes, mm.
 * Null: the process does not ask for it.
 */
export interface HeatLimits {
  readonly method: HeatMethod;
  /** Highest pH at filling. */
  readonly maxPh: number;
  /** Largest container, mL. */
  readonly sizeMl: number;
  readonly processC: number;
  readonly minutes: number;
  /** Hot fill: in every bottle, the last too. */
  readonly fillC: number | null;
  /** Water bath: of what is in the jars when the bath begins. */
  readonly initialC: number | null;
  readonly headspaceMm: number | null;
  /** Inverted, or steam on its lids. */
  readonly turnedSeconds: number | null;
  /** Water above the lids. */
  readonly coverMm: number | null;
  /** Before the jars are lifted. */
  readonly restMinutes: number | null;
  /** Cooled to less than this. */
  readonly cooledC: number | null;
  /** Least lethality at a reference temperature, and whether heating up and cooling down count. */
  readonly lethality: {
    readonly refC: number;
    readonly z: number;
    readonly minutes: number;
    readonly countsComeUp: boolean;
  } | null;
  /** Of the workshop, m. */
  readonly altitudeM: number;
}

/** Figures of a process, and between what they lie when they are meant. */
const FIGURES = [
  ['sizeMl', 'Largest container, mL', 1, 20_000],
  ['processC', 'Temperature, °C', 50, 130],
  ['minutes', 'Minutes at it', 0.05, 1440],
  ['fillC', 'In the bottle, °C', 50, 110],
  ['initialC', 'In the jars when the bath begins, °C', 0, 110],
  ['headspaceMm', 'Headspace, mm', 0, 200],
  ['turnedSeconds', 'Turned, seconds', 0, 3600],
  ['coverMm', 'Water above the lids, mm', 0, 500],
  ['restMinutes', 'Rest, minutes', 0, 1440],
  ['cooledC', 'Cooled to less than, °C', 0, 60],
  ['altitudeM', 'Altitude, m', -430, 5500],
] as const;
/** What a process need not ask for. */
const OPTIONAL: ReadonlySet<string> = new Set([
  'fillC',
  'initialC',
  'headspaceMm',
  'turnedSeconds',
  'coverMm',
  'restMinutes',
  'cooledC',
]);

/** A process that cannot be meant is asked about before it goes on file. */
export function decideProcess(limits: HeatLimits): Outcome<void> {
  const no = (field: string, words: string): Outcome<void> => refuse('heat.process', words, { field });
  const inRange = (value: number, least: number, most: number): boolean => value >= least && value <= most;
  if (!HEAT_METHODS.includes(limits.method)) return no('method', 'Hot fill or water bath: take it from the process.');
  if (!(limits.maxPh > 0 && limits.maxPh <= 4.6))
    return no('maxPh', `pH ${limits.maxPh} was given; above 4.6 nothing of this house keeps ambient by these methods.`);
  for (const [field, words, least, most] of FIGURES) {
    const value = limits[field];
    if (value === null && OPTIONAL.has(field)) continue;
    if (!(value !== null && inRange(value, least, most)))
      return no(
        field,
        `${words}: ${String(value)} was given; ${least} to ${most} is accepted. Take it from the process.`,
      );
  }
  const { lethality } = limits;
  if (
    lethality &&
    !(inRange(lethality.refC, 50, 130) && inRange(lethality.z, 4, 20) && inRange(lethality.minutes, 0.01, 1440))
  )
    return no(
      'lethality',
      'A lethality is so many minutes (0.01 to 1,440) at a reference of 50 to 130 °C, with a z of 4 to 20. Take them from the process.',
    );
  // No open bath is hotter than water boils there.
  const boils = Math.round(boilingPoint(limits.altitudeM) * 10) / 10;
  if (limits.method === 'waterBath' && !(limits.processC <= boils))
    return no(
      'processC',
      `${limits.processC} °C was given; water boils at ${boils} °C where this house stands, and no bath is hotter. ${limits.processC >= 140 && limits.processC <= 212 ? 'Is it in °F? ' : ''}Look at the process again.`,
    );
  if (limits.method === 'hotFill' && limits.fillC === null)
    return no('fillC', 'A hot fill has a least temperature in the bottle. Take it from the process.');
  if (limits.method === 'waterBath' && limits.initialC === null)
    return no('initialC', 'A water bath has a least temperature of the jars when it begins. Take it from the process.');
  return accept(undefined);
}

/**
 * Whether a run may go the way of what keeps ambient at all: nothing under oil, nothing that brings no acid put in after
 * fermentation, nothing above the pH its process was set for. Source: handbook 4.3.
 */
export function decideShelfStable(of: {
  readonly ph: number | null;
  readonly maxPh: number;
  /** Names of oils in it. */
  readonly oils: readonly string[];
  /** Names of what went in after fermentation and brings no acid. */
  readonly lowAcid: readonly string[];
}): Outcome<void> {
  const no = (words: string): Outcome<void> => refuse('heat.notThisWay', words, { field: 'storage' });
  if (of.oils.length > 0)
    return no(
      `${of.oils.join(' and ')} is in it: what lies under oil, garlic above all, is never made to keep ambient here, whatever its pH. Keep it cold, and short.`,
    );
  if (of.lowAcid.length > 0)
    return no(
      `${of.lowAcid.join(' and ')} went in after fermentation and brings no acid of its own: what holds it is never made to keep ambient here, whatever the pH around it. Keep it cold.`,
    );
  if (of.ph === null || !(of.ph >= 0 && of.ph <= 14))
    return no(
      'Its pH is not known by a blended reading with a fit meter. Read it first: what is not known is not kept ambient.',
    );
  if (!(of.ph <= of.maxPh && of.maxPh <= 4.6))
    return no(`pH ${of.ph.toFixed(2)}; the process holds up to ${of.maxPh}. Above it the way ambient is closed.`);
  return accept(undefined);
}

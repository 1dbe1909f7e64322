import { accept, type Outcome, refuse } from '../refusal.js';

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

/** A process that cannot be meant is asked about before it goes on file. */
export function decideProcess(limits: HeatLimits): Outcome<void> {
  const no = (field: string, words: string): Outcome<void> => refuse('heat.process', words, { field });
  if (limits.maxPh > 4.6)
    return no('maxPh', `pH ${limits.maxPh} was given; above 4.6 nothing of this house keeps ambient by these methods.`);
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
  if (of.ph === null)
    return no(
      'Its pH is not known by a blended reading with a fit meter. Read it first: what is not known is not kept ambient.',
    );
  if (of.ph > of.maxPh)
    return no(`pH ${of.ph.toFixed(2)}; the process holds up to ${of.maxPh}. Above it the way ambient is closed.`);
  return accept(undefined);
}

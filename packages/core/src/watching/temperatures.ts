import { counted } from '../units/print.js';
import { HOLDS_MS, knownHours, type CelsiusPoint } from './warmth.js';

const HOUR = 3_600_000;
export type School = 'cool' | 'room' | 'warm';
/** Bands of the schools, °C. Source: handbook 3.1. */
export const SCHOOL_BANDS: Record<School, { readonly least: number; readonly most: number; readonly words: string }> = {
  cool: { least: 11, most: 17, words: 'cool, 11 to 17 °C' },
  room: { least: 17, most: 22, words: 'room, 17 to 22 °C' },
  warm: { least: 22, most: 26, words: 'warm, 22 to 26 °C' },
};
/** Half a day outside the band is looked at. */
const ALLOWED_HOURS = 12;

/** The school of a room by its usual temperature; null for a cold store, which ferments nothing. */
export const schoolOf = (celsius: number): School | null =>
  celsius < 8 ? null : celsius <= 17 ? 'cool' : celsius <= 22 ? 'room' : 'warm';

export interface CelsiusBand {
  readonly least: number;
  readonly most: number;
}

/**
 * What the temperatures say: `act` above 32 °C for over 12 h or below 4 °C in the first 3 days, `watch` outside
 * the formula's band for longer than allowed, `open` where none was read. By readings each holding until the next,
 * for 36 hours at most. Source: handbook 3.3.
 */
export function temperatureSays(input: {
  points: readonly CelsiusPoint[];
  filledAt: number;
  now: number;
  band: CelsiusBand | null;
}): { verdict: 'met' | 'open' | 'watch' | 'act'; words: string } {
  const { filledAt, now, band } = input;
  const points = input.points.filter(({ at, celsius }) => Number.isFinite(celsius) && at >= filledAt && at <= now);
  if (points.length === 0) return { verdict: 'open', words: 'no temperature recorded' };
  // Where nothing is known there is no temperature: such hours are neither in nor out.
  const hoursOf = (where: (celsius: number) => boolean): number =>
    knownHours({ points, from: filledAt, until: now, where });
  const hot = hoursOf((celsius) => celsius > 32);
  if (hot > 12) return { verdict: 'act', words: `above 32 °C for ${Math.round(hot)} h: cool it, read its pH` };
  if (points.some(({ celsius, at }) => celsius < 4 && at - filledAt < 72 * HOUR))
    return { verdict: 'act', words: 'below 4 °C in the first 3 days: it hardly starts; warm it' };
  if (!band) return { verdict: 'met', words: 'cold store' };
  const outside = hoursOf((celsius) => celsius < band.least || celsius > band.most);
  const all = hoursOf(() => true);
  if (outside > ALLOWED_HOURS)
    return { verdict: 'watch', words: `outside ${band.least} to ${band.most} °C for ${Math.round(outside)} h` };
  if (now - Math.max(...points.map(({ at }) => at)) > HOLDS_MS)
    return {
      verdict: 'open',
      words: `last read ${counted(Math.floor((now - Math.max(...points.map(({ at }) => at))) / (24 * HOUR)), 'day')} ago`,
    };
  return {
    verdict: 'met',
    words: `${band.least} to ${band.most} °C, ${all > 0 ? Math.round((1 - outside / all) * 100) : 100} % of the time`,
  };
}

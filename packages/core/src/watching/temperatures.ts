import type { CelsiusPoint } from './lateness.js';

const HOUR = 3_600_000;
export type School = 'cool' | 'room' | 'warm';
/** Bands of the schools, °C. Source: handbook 3.1. */
export const SCHOOL_BANDS: Record<School, { readonly least: number; readonly most: number; readonly words: string }> = {
  cool: { least: 11, most: 17, words: 'cool, 11 to 17 °C' }, room: { least: 17, most: 22, words: 'room, 17 to 22 °C' }, warm: { least: 22, most: 26, words: 'warm, 22 to 26 °C' },
};
/** Half a day outside the band is looked at. */
const ALLOWED_HOURS = 12;

/** The school of a room by its usual temperature; null for a cold store, which ferments nothing. */
export const schoolOf = (celsius: number): School | null => (celsius < 8 ? null : celsius <= 17 ? 'cool' : celsius <= 22 ? 'room' : 'warm');

/**
 * What the temperatures say: `act` above 32 °C for over 12 h or below 4 °C in the first 3 days, `watch` outside
 * the band for longer than allowed. By readings each holding until the next. Source: handbook 3.3.
 */
export function temperatureSays(input: { points: readonly CelsiusPoint[]; filledAt: number; now: number; band: { least: number; most: number } | null }): { verdict: 'met' | 'watch' | 'act'; words: string } {
  const { filledAt, now, band } = input;
  const points = input.points.filter(({ at }) => at >= filledAt && at <= now).sort((a, b) => a.at - b.at);
  const hoursOf = (outside: (point: CelsiusPoint) => boolean): number => points.reduce((sum, point, index) => sum + (outside(point) ? ((points[index + 1]?.at ?? now) - point.at) / HOUR : 0), 0);
  const hot = hoursOf(({ celsius }) => celsius > 32);
  if (hot > 12) return { verdict: 'act', words: `above 32 °C for ${Math.round(hot)} h: cool it, read its pH` };
  if (points.some(({ celsius, at }) => celsius < 4 && at - filledAt < 72 * HOUR)) return { verdict: 'act', words: 'below 4 °C in the first 3 days: it hardly starts; warm it' };
  if (!band || points.length === 0) return { verdict: 'met', words: points.length === 0 ? 'no temperature recorded' : 'cold store' };
  const outside = hoursOf(({ celsius }) => celsius < band.least || celsius > band.most);
  const share = Math.round((1 - outside / Math.max(1, (now - points[0]!.at) / HOUR)) * 100);
  return outside > ALLOWED_HOURS ? { verdict: 'watch', words: `outside ${band.least} to ${band.most} °C for ${Math.round(outside)} h` } : { verdict: 'met', words: `${band.least} to ${band.most} °C, ${share} % of the time` };
}

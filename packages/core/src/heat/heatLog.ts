import type { HeatPoint } from './lethality.js';

export interface HeatLogRead {
  readonly points: readonly HeatPoint[];
  /** Clock of the first point, minutes since midnight; null where the log counts minutes. */
  readonly startsAt: number | null;
  /** What could not be read, with its line, in words. */
  readonly problems: readonly string[];
}

const LINE =
  /^(?:(\d{1,2}):(\d{2})(?::(\d{2}))?|(\d+(?:[.,]\d+)?)\s*(?:min)?)[\s;|]+(-?\d+(?:[.,]\d+)?)\s*(?:°?\s*([CFcf]))?$/;

/**
 * Reads a temperature log as it was written down, a line a point: `14:05 85.2`, `14:05:30; 85,2 °C`, `5 min 185 °F`.
 * °F is taken where it says so, or where the whole log is in it. A log goes forward: what stands out of order is asked.
 */
export function readHeatLog(text: string, unit: 'C' | 'F' = 'C'): HeatLogRead {
  const points: HeatPoint[] = [];
  const problems: string[] = [];
  let startsAt: number | null = null;
  let clock: boolean | null = null;
  for (const [index, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim();
    if (line === '' || (points.length === 0 && /^[^\d-]+$/.test(line))) continue;
    const [, hour, minute, second, minutes, degrees, said] = LINE.exec(line) ?? [];
    if (degrees === undefined) {
      problems.push(`Line ${index + 1}, “${line.slice(0, 40)}”: a time and a temperature are read, as 14:05 85.2.`);
      continue;
    }
    const isClock = hour !== undefined;
    if (clock !== null && clock !== isClock) {
      problems.push(`Line ${index + 1}: the log counts its time in two ways. Clock or minutes, one of them.`);
      continue;
    }
    clock = isClock;
    const number = (words: string): number => Number(words.replace(',', '.'));
    let at = isClock ? Number(hour) * 60 + Number(minute) + Number(second ?? 0) / 60 : number(minutes!);
    startsAt ??= isClock ? at : null;
    // Over midnight the clock begins anew.
    const last = points.at(-1);
    at -= isClock ? startsAt! : 0;
    if (isClock && last && at < last.minute && at + 1440 - last.minute < 720) at += 1440;
    const given = number(degrees);
    const celsius = (said ?? unit).toUpperCase() === 'F' ? ((given - 32) * 5) / 9 : given;
    if (last && at <= last.minute) {
      problems.push(`Line ${index + 1}, “${line.slice(0, 40)}”: not after the line before it. A log goes forward.`);
      continue;
    }
    if (celsius < -10 || celsius > 140) {
      problems.push(
        `Line ${index + 1}: ${degrees} ${(said ?? unit).toUpperCase() === 'F' ? '°F' : '°C'} was given; −10 to 140 °C is read.`,
      );
      continue;
    }
    points.push({ minute: Math.round(at * 1000) / 1000, celsius: Math.round(celsius * 100) / 100 });
  }
  if (unit === 'C' && points.some(({ celsius }) => celsius > 105))
    problems.push('Above 105 °C in an open kettle: is the log in °F?');
  return { points, startsAt, problems };
}

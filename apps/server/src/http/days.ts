import { momentsOfDay } from '@clear-tally/core';
import { z } from 'zod';

const day = z.iso.date({ error: 'a day as 2026-11-25' });

interface Days {
  readonly from?: string | undefined;
  readonly to?: string | undefined;
}

/** What may be asked of the days of a calendar, from the first to the last of them; either may be left open. */
export const DAYS = { from: day.optional(), to: day.optional() };

/** The first is not after the last. */
export const inOrder = ({ from, to }: Days): boolean => from === undefined || to === undefined || from <= to;
export const NOT_IN_ORDER = { path: ['to'], message: 'the last day is before the first' };

/** From the midnight that begins the first day to the one that ends the last, by the clock of the house. */
export const momentsOf = (
  { from, to }: Days,
  timeZone: string,
): { readonly from: Date | null; readonly to: Date | null } => ({
  from: from === undefined ? null : new Date(momentsOfDay(from, timeZone).from),
  to: to === undefined ? null : new Date(momentsOfDay(to, timeZone).to),
});

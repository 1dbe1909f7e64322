import { v7 } from 'uuid';
import type { Entry } from '@clear-tally/contract';
import { remember, remembered } from './tablet';

/** More than a form makes at once. */
const MOST = 400;
const KEY = 'ct.made';

/** Ids that pages of this tablet made for new things and that stand in no book yet, also before they were read again. */
const made = new Set<string>(remembered<readonly string[]>(KEY, []));

/** Fresh id of a new lot, batch or entry. */
export const newId = (): string => {
  const id = v7();
  made.add(id);
  return id;
};

export const isMade = (id: string): boolean => made.has(id);

export const keepMade = (): void => remember(KEY, [...made].slice(-MOST));

/** In the book: what names them from now on names them, and no new thing. */
export function known(entries: readonly Entry[]): void {
  JSON.stringify(entries, (_, value: unknown) => {
    if (typeof value === 'string') made.delete(value);
    return value;
  });
  keepMade();
}

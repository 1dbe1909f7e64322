import { bigint, customType } from 'drizzle-orm/pg-core';
import pg from 'pg';

const readMomentText = pg.types.getTypeParser(1184) as (text: string) => Date | number | null;

/**
 * A moment as the database writes it, read strictly: what a browser's parser makes of "0026-11-25 00:00:00+00" is another
 * year, or none. What is no moment is none, never the first of 1970.
 */
export const readMoment = (text: string): Date => new Date(readMomentText(text) ?? Number.NaN);

/** A moment, to the millisecond. */
export const moment = customType<{ data: Date; driverData: string }>({
  dataType: () => 'timestamp (3) with time zone',
  fromDriver: readMoment,
  toDriver: (value) => value.toISOString(),
});
/** A mass in whole milligrams: the ledger knows no rounding errors. */
export const milligrams = () => bigint({ mode: 'number' });
export const toMilligrams = (grams: number): number => Math.round(grams * 1000);
export const toGrams = (mg: number | string): number => Number(mg) / 1000;

/** A short decimal such as a pH, as a number. */
export const decimal = customType<{ data: number; driverData: string }>({
  dataType: () => 'numeric(9, 4)',
  fromDriver: (value) => Number(value),
});

export const bytea = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => 'bytea' });

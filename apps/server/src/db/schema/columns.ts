import { bigint, customType, timestamp } from 'drizzle-orm/pg-core';

/** A moment, as an ISO string in UTC on our side. */
export const moment = () => timestamp({ withTimezone: true, precision: 3, mode: 'date' });
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

import { formatGrams } from '@clear-tally/core';

/** Under this a dose is read to a tenth of a gram: a thickener is weighed on the fine scale. */
const FINE = 100;

export const mass = (grams: number): string => formatGrams(grams, Math.abs(grams) < FINE ? { stepGrams: 0.1 } : {});

/**
 * Batch code: site prefix, two-digit year, day of year, run letter. Source: handbook 5.2.
 * @example batchCode({ site: 'NY', year: 2026, dayOfYear: 327, run: 0 }) //=> 'NY26-327-A'
 * @throws {RangeError} a 27th run on one day
 */
export function batchCode(input: { site: string; year: number; dayOfYear: number; run: number }): string {
  const letter = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'[input.run];
  if (!letter) throw new RangeError('a day has 26 runs at most');
  return `${input.site}${String(input.year % 100).padStart(2, '0')}-${String(input.dayOfYear).padStart(3, '0')}-${letter}`;
}

/** Vessel fill: batch and vessel tag. `fillCode('NY26-327-A', 'C2') //=> 'NY26-327-A-C2'` */
export const fillCode = (batch: string, vesselTag: string): string => `${batch}-${vesselTag}`;

/** A preparation made for a batch: brine number n. */
export const brineCode = (batch: string, number: number): string => `${batch}-b${number}`;

/** Packing run: batch and a pack number of two digits. */
export function runCode(batch: string, number: number): string {
  if (!(number >= 1 && number <= 99)) throw new RangeError('a batch has 99 packing runs at most');
  return `${batch}-${String(number).padStart(2, '0')}`;
}

/** Supply lot: prefix of the supplier and a number of four digits or more. `supplyCode('SP', 871) //=> 'SP-0871'` */
export const supplyCode = (prefix: string, number: number): string => `${prefix}-${String(number).padStart(4, '0')}`;

/** How a calibration must come out for a reading to count for release. Source: handbook 3.2. */
export const METER_RULES = { slopeLeast: 92, slopeMost: 105, checkWithin: 0.05, hours: 24 } as const;
export const USUAL_BUFFERS = [4.01, 7.0, 9.18, 10.01] as const;

/** Volts per pH of an ideal electrode: RT ln 10 / F. */
const nernstMillivolts = (celsius: number): number => 0.198_416 * (celsius + 273.15);

export interface Calibration {
  readonly at: number;
  /** pH of the buffers it was calibrated with. */
  readonly buffers: readonly number[];
  readonly slopePercent: number;
  /** mV at pH 7. */
  readonly offsetMillivolts: number;
  /** A buffer read again afterwards. */
  readonly check: { readonly buffer: number; readonly read: number } | null;
}

/**
 * Slope and offset from two buffers read in millivolts. Source: handbook 3.2; the ideal slope is 59.16 mV per pH at 25 °C.
 * @throws {RangeError} two buffers less than 1 pH apart
 * @example slopeAndOffset({ buffers: [{ ph: 7, millivolts: 0 }, { ph: 4.01, millivolts: 173.4 }], celsius: 25 }) //=> { slopePercent: 98.0…, offsetMillivolts: 0 }
 */
export function slopeAndOffset(input: { buffers: readonly [Buffered, Buffered]; celsius: number }): {
  slopePercent: number;
  offsetMillivolts: number;
} {
  const [a, b] = input.buffers;
  if (!(Math.abs(a.ph - b.ph) >= 1)) throw new RangeError('two buffers at least 1 pH apart are needed');
  const perPh = (b.millivolts - a.millivolts) / (a.ph - b.ph);
  return {
    slopePercent: (perPh / nernstMillivolts(input.celsius)) * 100,
    offsetMillivolts: a.millivolts + perPh * (a.ph - 7),
  };
}
export interface Buffered {
  readonly ph: number;
  readonly millivolts: number;
}

/** pH by a calibration, from what the electrode gives; corrected for the sample's temperature (ATC). */
export const phOf = (input: {
  millivolts: number;
  celsius: number;
  slopePercent: number;
  offsetMillivolts: number;
}): number =>
  7 - (input.millivolts - input.offsetMillivolts) / ((input.slopePercent / 100) * nernstMillivolts(input.celsius));

/** What an electrode gives in a liquid. The other way round from `phOf`. */
export const millivoltsOf = (input: {
  ph: number;
  celsius: number;
  slopePercent: number;
  offsetMillivolts: number;
}): number => input.offsetMillivolts + (7 - input.ph) * (input.slopePercent / 100) * nernstMillivolts(input.celsius);

export interface Fitness {
  readonly fit: boolean;
  /** Why not; empty when it is. */
  readonly reasons: readonly string[];
  /** Since when it is fit, or was last; ms. */
  readonly since: number | null;
  readonly until: number | null;
}

/** How far a buffer may lie from a reading that it vouches for. At and under 4.6 it is the acid one. */
const NEAR = 1.5;
const ACID_BUFFER = { least: 3.5, most: 4.6 };
const isNear = (buffer: number, ph: number): boolean =>
  ph <= ACID_BUFFER.most ? buffer >= ACID_BUFFER.least && buffer <= ACID_BUFFER.most : Math.abs(buffer - ph) <= NEAR;

/**
 * Whether a reading of a meter counts for release: calibrated before it and on its day, slope and check in their
 * range, with a buffer near what was read (4.01 at and under 4.6). Without a reading it is told for an acid one.
 * Strips never count, and neither does a figure that is no number. Source: handbook 3.2.
 */
export function meterFitness(input: {
  kind: 'meter' | 'strips';
  calibration: Calibration | null;
  at: number;
  ph?: number;
}): Fitness {
  const { kind, calibration, at, ph = ACID_BUFFER.most } = input;
  if (kind === 'strips')
    return { fit: false, reasons: ['strips are for watching, never for release'], since: null, until: null };
  if (!calibration) return { fit: false, reasons: ['never calibrated'], since: null, until: null };
  const until = calibration.at + METER_RULES.hours * 3_600_000;
  const { slopePercent, check, buffers } = calibration;
  const reasons = [
    !(at >= calibration.at) && 'calibrated only after this reading',
    !(at <= until) &&
      `last calibrated ${Math.floor((at - calibration.at) / 3_600_000)} h ago, ${METER_RULES.hours} h are granted`,
    !(slopePercent >= METER_RULES.slopeLeast && slopePercent <= METER_RULES.slopeMost) &&
      `slope ${slopePercent.toFixed(1)} %, ${METER_RULES.slopeLeast} to ${METER_RULES.slopeMost} % are accepted`,
    !Number.isFinite(calibration.offsetMillivolts) && 'its offset is not known',
    check === null && 'no buffer was read again after it',
    check !== null &&
      !(Math.abs(check.read - check.buffer) <= METER_RULES.checkWithin + 1e-9) &&
      `buffer ${check.buffer} read as ${check.read.toFixed(2)}, ± ${METER_RULES.checkWithin} is accepted`,
    !buffers.some((buffer) => isNear(buffer, ph)) &&
      `calibrated with ${buffers.join(' and ')}: a buffer near ${ph <= ACID_BUFFER.most ? '4.01' : `pH ${ph.toFixed(1)}`} is wanted`,
    check !== null &&
      !isNear(check.buffer, ph) &&
      `buffer ${check.buffer} was read again; ${ph <= ACID_BUFFER.most ? 'at or under 4.6 it is 4.01' : `one near pH ${ph.toFixed(1)} is wanted`}`,
    !Number.isFinite(ph) && 'the reading is no number',
  ].filter((words): words is string => words !== false);
  return { fit: reasons.length === 0, reasons, since: calibration.at, until };
}

import { KITCHEN_UNITS, NATIONALITIES, type Nationality } from './measures.js';

/**
 * Millilitres of a kitchen measure; with the nationality unknown, the whole spread.
 * Source: handbook 2.1: "a litre is never a quart".
 * @throws {RangeError} a unit that the nationality does not have
 * @example kitchenVolume({ amount: 3, unit: 'qt', nationality: 'us' }) //=> { leastMl: 2839.06, mostMl: 2839.06 }
 */
export function kitchenVolume(input: { amount: number; unit: string; nationality?: Nationality }): {
  leastMl: number;
  mostMl: number;
} {
  const sizes = KITCHEN_UNITS[input.unit];
  if (!sizes) throw new RangeError(`not a kitchen measure: ${input.unit}`);
  const candidates = (input.nationality ? [input.nationality] : NATIONALITIES)
    .map((nation) => sizes[nation])
    .filter((ml): ml is number => ml !== undefined);
  if (candidates.length === 0) throw new RangeError(`no ${input.nationality} ${input.unit} exists`);
  return { leastMl: Math.min(...candidates) * input.amount, mostMl: Math.max(...candidates) * input.amount };
}

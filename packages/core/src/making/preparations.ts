import { calendarDay, isRecordableDay } from '../calendar/index.js';
import { checkMass } from '../units/parseMass.js';
import { counted } from '../units/print.js';
import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';
import { phStanding, type PhPoint } from '../watching/readings.js';

/** What is made beside the batch, each a lot of its own. Source: handbook 1.1 (5), 7. */
export const PREPARATIONS = [
  'brine',
  'paste',
  'porridge',
  'puree',
  'starterLiquor',
  'culture',
  'keptBrine',
  'repackBrine',
  'boiledBrine',
  'byProduct',
] as const;
export type Preparation = (typeof PREPARATIONS)[number];

export const PREPARATION_WORDS: Record<Preparation, string> = {
  brine: 'Brine',
  paste: 'Paste',
  porridge: 'Porridge',
  puree: 'Purée',
  starterLiquor: 'Starter liquor',
  culture: 'Woken culture',
  keptBrine: 'Kept brine',
  repackBrine: 'Fresh brine to repack in',
  boiledBrine: 'Own brine, boiled',
  byProduct: 'By-product',
};

/** Days kept brine is good for, cold, and how many generations it may go on, unless the house says otherwise. Source: handbook 7. */
export const KEPT_BRINE = { days: 30, generations: 5 } as const;

/** Kept cultures die above about 45 °C; brine and porridge cool to this before they meet one. */
export const COOLED_CELSIUS = 30;

export interface Donor {
  readonly code: string;
  readonly onHold: string | null;
  /** What was read on it: only what counts opens it, anything closes it. */
  readonly points: readonly PhPoint[];
  readonly generation: number;
}

/** Brine is kept only from a vessel that is not on hold, at or under the limit by a reading that counts and by all since. */
export function decideDonor(input: {
  donor: Donor;
  acidLimit: number;
  mostGenerations: number;
}): Outcome<{ generation: number }> {
  const { donor, acidLimit, mostGenerations } = input;
  if (!(acidLimit <= 4.6)) throw new RangeError('no house limit lies above 4.6');
  const field = 'fromLotId';
  if (donor.onHold)
    return refuse(
      'lot.onHold',
      `${donor.code} is on hold: ${donor.onHold}. Its brine starts nothing until the hold is lifted.`,
      { field },
    );
  const { counting, strict } = phStanding(donor.points);
  if (strict !== null && !(strict <= acidLimit))
    return refuse(
      'pack.phAboveLimit',
      `The pH of ${donor.code} stands at ${strict.toFixed(2)}, above the house limit of ${acidLimit}. It cannot start another batch.`,
      { field },
    );
  if (counting === null)
    return refuse(
      'pack.noPh',
      `${donor.code} has no pH reading that counts: blended, by a meter fit for release. A starter is taken only from a vessel that is read so.`,
      { field },
    );
  if (!(donor.generation >= 0 && Number.isFinite(donor.generation)))
    throw new RangeError('a generation is a number from nought on');
  const generation = donor.generation + 1;
  if (!Number.isFinite(mostGenerations)) throw new RangeError('a house goes to so many generations');
  if (generation > mostGenerations)
    return refuse(
      'starter.generation',
      `This would be generation ${generation}; the house goes to ${mostGenerations}. Begin again wild, or with a younger brine.`,
      { field, facts: { generation, mostGenerations } },
    );
  return accept({ generation });
}

/** A last day typed for kept brine is never later than the house's days allow. Dates are local calendar dates. */
export function decideUseBy(input: { typed: string | null; latest: string; days: number }): Outcome<string> {
  const { typed, latest, days } = input;
  if (!isRecordableDay(latest)) throw new RangeError('the last day the house allows is a day');
  if (typed === null || (isRecordableDay(typed) && typed <= latest)) return accept(typed ?? latest);
  return refuse(
    'starter.useBy',
    `${calendarDay(typed)} was given as its last day. This house keeps brine ${counted(days, 'day')} cold: ${calendarDay(latest)} at the latest.`,
    { field: 'useBy', facts: { latest, days } },
  );
}

/** Kept brine is used before its last day. `today` and `useBy` are local calendar dates. */
export function decideStarterAge(input: { code: string; useBy: string | null; today: string }): Outcome<void> {
  if (!isRecordableDay(input.today)) throw new RangeError('what day it is must be known');
  if (input.useBy !== null && !(isRecordableDay(input.useBy) && input.useBy >= input.today))
    return refuse(
      'starter.expired',
      `${input.code} was to be used by ${calendarDay(input.useBy)}. Keep fresh brine, or start this batch wild.`,
      { field: 'fromLotId', facts: { useBy: input.useBy } },
    );
  return accept(undefined);
}

/** Brine left over goes into another batch only when somebody has said whether it touched the product. Worked case W12. */
export function decideBrineUse(input: {
  code: string;
  touched: 'never' | 'pouredOff' | null;
  sameBatch: boolean;
}): Outcome<void> {
  if (input.sameBatch || input.touched === 'never' || input.touched === 'pouredOff') return accept(undefined);
  return refuse(
    'brine.unanswered',
    `${input.code}: did what is left of it ever touch the product, or was it poured off it? Without an answer it goes into nothing else.`,
    { field: 'fromLotId' },
  );
}

/** Weighing a brine is no finer than this. */
const BRINE_OFF = { grams: 20, share: 0.02 } as const;

/**
 * Made, poured and left over close, or the difference has a written reason: a jug that is missing went somewhere.
 * Source: handbook 5.1, worked case W12.
 */
export function decideBrineClosed(input: {
  readonly code: string;
  readonly bookGrams: number;
  readonly leftGrams: number;
  readonly reason?: string | null;
}): Outcome<void> {
  const left = checkMass({ grams: input.leftGrams, what: `left of ${input.code}`, field: 'leftGrams', zero: true });
  if (!left.ok) return left;
  const missing = input.bookGrams - input.leftGrams;
  const closes = missing <= Math.max(BRINE_OFF.grams, input.bookGrams * BRINE_OFF.share);
  if ((Number.isFinite(missing) && closes) || input.reason?.trim()) return accept(undefined);
  return refuse(
    'brine.difference',
    `${formatGrams(input.leftGrams)} is said to be left of ${input.code}; by what was made and poured it is ${formatGrams(input.bookGrams)}, so ${formatGrams(missing)} is missing. Weigh again, look at what was poured, or write where it went.`,
    { field: 'differenceReason', facts: { missingGrams: missing } },
  );
}

/** What a material stands for in the house's own work, whatever it is called here. */
export const STANDS_FOR = {
  keptBrine: 'brine kept from an earlier batch: it comes from a donor',
  vinegar: 'vinegar, to lower the starting pH',
  sweet: 'sugar, honey or syrup: it feeds a ferment again',
  thickener: 'a thickener, dusted into a sauce',
  oil: 'oil: what lies under it never keeps ambient',
} as const;
export type StandsFor = keyof typeof STANDS_FOR;
export const STANDS_FOR_KEYS = Object.keys(STANDS_FOR) as [StandsFor, ...StandsFor[]];

import type { Actor } from '../journal/record.js';
import type { Diary } from './diary.js';
import type { BatchPlan } from './batchPlan.js';

/** Reading days of the house's check plan; before it is packed, two within three days. */
const PH_DAYS = [1, 2, 3, 5, 7, 14, 21, 28, 35, 42, 49, 56];

const readingDays = (plan: BatchPlan): number[] => {
  const packed =
    plan.packedDaysAgo === undefined
      ? []
      : [plan.daysAgo - plan.packedDaysAgo - 3, plan.daysAgo - plan.packedDaysAgo - 1];
  return [...new Set([...PH_DAYS, ...packed, ...(plan.pairOn ?? [])])].filter((day) => day >= 1).sort((a, b) => a - b);
};

/** pH on its days, temperatures, and what else is due of a vessel. */
export function planReadings(
  diary: Diary,
  plan: BatchPlan,
  input: { lotId: string; filledAt: Date; actors: readonly Actor[]; meterId: string },
): void {
  const { start, end, perHour } = plan.souring ?? { start: 6.1, end: 3.55, perHour: 0.018 };
  // In the morning, today's round is still to be walked.
  const until = plan.packedDaysAgo ?? (diary.roundWalked ? 0 : 1);
  const warmth = plan.celsius ?? 14;
  for (const day of readingDays(plan)) {
    if (plan.daysAgo - day < until) break;
    const at = diary.moment(plan.daysAgo - day, 8, 5 + Math.floor(diary.random.next() * 50));
    if (at.getTime() > diary.moment(0, 23, 59).getTime() || at <= input.filledAt) break;
    const hours = (at.getTime() - input.filledAt.getTime()) / 3_600_000;
    // Sour comes slowly at first: a lag, then an exponential way down.
    const fallen = 1 - Math.exp(-perHour * Math.max(0, hours - 14));
    const ph = Math.round((start - (start - end) * fallen + diary.random.around(0.03)) * 100) / 100;
    const celsius = Math.round((warmth + diary.random.around(1.2)) * 10) / 10;
    const actor = input.actors[day % input.actors.length]!;
    diary.plan(at, async () => {
      await diary.record(
        'ph.read',
        {
          lotId: input.lotId,
          ph,
          sample: day < 2 ? 'brine' : 'blended',
          meterId: input.meterId,
          sampleCelsius: celsius,
        },
        at,
        actor,
      );
      await diary.record('temperature.read', { lotId: input.lotId, celsius }, new Date(at.getTime() + 60_000), actor);
    });
  }
}

import { accept, type Outcome, refuse } from '../refusal.js';

/** What a house may ask a training for, before somebody does it. */
export const TRAINED_TASKS = ['salting', 'reading', 'judging', 'cleaning', 'packing', 'heating', 'releasing'] as const;

export type TrainedTask = (typeof TRAINED_TASKS)[number];

export const TASK_WORDS: Readonly<Record<TrainedTask, string>> = {
  salting: 'Salt and brine',
  reading: 'pH, temperature and meters',
  judging: 'Judging what is seen',
  cleaning: 'Cleaning',
  packing: 'Packing and labels',
  heating: 'Heating',
  releasing: 'Release, and ending holds',
};

/** A training of one person in one task, by calendar days of the house; `until` null: it does not run out. */
export interface Training {
  readonly task: TrainedTask;
  readonly on: string;
  readonly until: string | null;
}

/** Where a training stands on a day. It counts on its first and on its last day. */
export function trainingOn(
  trainings: readonly Training[],
  task: TrainedTask,
  day: string,
): { readonly state: 'trained' | 'ended' | 'never'; readonly until: string | null } {
  const begun = trainings.filter((one) => one.task === task && one.on <= day);
  if (begun.length === 0) return { state: 'never', until: null };
  if (begun.some(({ until }) => until === null)) return { state: 'trained', until: null };
  const until = begun.map((one) => one.until!).reduce((a, b) => (a > b ? a : b));
  return { state: until >= day ? 'trained' : 'ended', until };
}

/**
 * Whether somebody may do what their house asks a training for.
 * @param input.day when it was done, `2026-11-24`, by the house's clock
 * @returns a refusal that says who can go on
 */
export function decideTrained(input: {
  readonly name: string;
  readonly task: TrainedTask;
  readonly trainings: readonly Training[];
  readonly day: string;
  /** The day as it is written. */
  readonly words: (day: string) => string;
}): Outcome<null> {
  const { name, task, trainings, day, words } = input;
  const { state, until } = trainingOn(trainings, task, day);
  if (state === 'trained') return accept(null);
  const lacks = state === 'never' ? 'is not on record' : `ended on ${words(until!)}`;
  return refuse(
    'training.missing',
    `${name}’s training in “${TASK_WORDS[task]}” ${lacks}, and this house asks for it. Somebody who is trained takes the tablet and records it; or an owner writes the training down on “Who comes in”. What was typed stays.`,
    { facts: { task } },
  );
}

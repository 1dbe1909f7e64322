import type { Entry, UntrainedReply } from '@clear-tally/contract';
import {
  calendarDay,
  decideTrained,
  isoDay,
  TASK_WORDS,
  type TrainedTask,
  type Training,
  trainingOn,
} from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { person, training } from '../../db/schema/house.js';
import { kind } from '../../journal/kind.js';
import { must, Refused, refused } from '../../journal/refused.js';
import { allKinds, kindOf } from '../../journal/registry.js';

export const personTrained = kind('person.train', {
  who: 'owner',
  words: 'Training',
  does: 'somebody was taught a task: by whom, when, until when',
  correct: 'book',
  record: async ({ tx, body, seq }) => {
    const { trainingId, personId, task, words, taughtBy, on, until } = body;
    const [of] = await tx.select({ name: person.name }).from(person).where(eq(person.id, personId));
    if (!of)
      throw refused('resource.unknown', 'No such person is in this house. Choose them from the list.', {
        field: 'personId',
      });
    if (until !== null && until < on)
      throw refused('rule.outside', `It would end on ${calendarDay(until)}, before it was given. Give a later day.`, {
        field: 'until',
      });
    await tx
      .insert(training)
      .values({ id: trainingId, personId, task, words, taughtBy, onDay: on, untilDay: until, seq });
    return { facts: { name: of.name } };
  },
  line: ({ entry: { body }, facts }) => ({
    what: `Trained: ${String(facts['name'] ?? '')}`,
    words: [
      TASK_WORDS[body.task],
      body.words,
      `by ${body.taughtBy}`,
      calendarDay(body.on),
      body.until && `until ${calendarDay(body.until)}`,
    ]
      .filter(Boolean)
      .join(' · '),
  }),
});

interface Asked {
  readonly name: string;
  readonly timeZone: string;
  readonly tasks: readonly TrainedTask[] | null;
  readonly trainings: readonly Training[];
}

/** What is asked of a person, and what they were taught. */
const askedOf = async (reader: Reader, personId: string): Promise<Asked | undefined> => {
  const [asked] = await rows<Asked>(
    reader,
    sql`select p.name, h.time_zone as "timeZone", h.settings -> 'trainedTasks' as tasks, coalesce(
        (select jsonb_agg(jsonb_build_object('task', t.task, 'on', t.on_day, 'until', t.until_day)) from training t where t.person_id = p.id), '[]') as trainings
      from house h, person p where p.id = ${personId}`,
  );
  return asked;
};

/** What this house would refuse a person today, because it asks a training for it: said before the work, not after. */
export async function readUntrained(reader: Reader, personId: string, now: Date): Promise<UntrainedReply> {
  const asked = await askedOf(reader, personId);
  if (!asked?.tasks || asked.tasks.length === 0) return { kinds: {} };
  const { trainings, tasks, timeZone } = asked;
  const day = isoDay(now.getTime(), timeZone);
  const lacking = new Map(
    tasks.flatMap((task) => {
      const { state, until } = trainingOn(trainings, task, day);
      if (state === 'trained') return [];
      const lacks = state === 'never' ? 'is not on record' : `ended on ${calendarDay(until!)}`;
      return [[task, `Your training in “${TASK_WORDS[task]}” ${lacks}: somebody trained records this.`] as const];
    }),
  );
  return {
    kinds: Object.fromEntries(
      allKinds().flatMap(({ kind: name, task }) => (task && lacking.has(task) ? [[name, lacking.get(task)!]] : [])),
    ),
  };
}

/**
 * What this house asks a training for is recorded by who has one on that day. Asked of whoever stands at a tablet, and
 * not of what a book already has.
 * @throws {Refused} the first entry nobody untrained may record, with its place in the list
 */
export async function refuseUntrained(reader: Reader, entries: readonly Entry[], by: string): Promise<void> {
  if (!entries.some(({ kind: name }) => kindOf(name).task)) return;
  const asked = await askedOf(reader, by);
  if (!asked?.tasks || asked.tasks.length === 0) return;
  const { name, timeZone, tasks, trainings } = asked;
  for (const [index, entry] of entries.entries()) {
    const { task } = kindOf(entry.kind);
    if (!task || !tasks.includes(task)) continue;
    try {
      const day = isoDay(Date.parse(entry.happenedAt), timeZone);
      must(decideTrained({ name, task, trainings, day, words: calendarDay }));
    } catch (error) {
      if (error instanceof Refused) error.entry ??= index;
      throw error;
    }
  }
}

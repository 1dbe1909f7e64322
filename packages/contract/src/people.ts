import { ROLES, TRAINED_TASKS } from '@clear-tally/core';
import { z } from 'zod';
import { day, entryOf, id, iso, text } from './shape.js';

export { ROLES };

/** An inspector’s sign-in ends with this day; null: when somebody ends it. */
const lastDay = day.nullish();

export const personAdd = entryOf(
  'person.add',
  z.strictObject({ personId: id, name: text(80), initials: text(4), role: z.enum(ROLES), lastDay }),
);

/** Called otherwise, or with other rights, from now on. */
export const personChange = entryOf(
  'person.change',
  z.strictObject({ personId: id, name: text(80), initials: text(4), role: z.enum(ROLES), lastDay }),
);

/** A person has left the house, or has come back. What they recorded keeps their name. */
export const personLeave = entryOf(
  'person.leave',
  z.strictObject({ personId: id, left: z.boolean(), reason: text(300).nullable() }),
);

/** Somebody was taught a task. What runs out is taught again; both stay on record. */
export const personTrain = entryOf(
  'person.train',
  z.strictObject({
    trainingId: id,
    personId: id,
    task: z.enum(TRAINED_TASKS),
    /** What was shown, by which paper. */
    words: text(200).nullable(),
    /** Who taught it: somebody of the house, or from outside. */
    taughtBy: text(80),
    on: day,
    until: day.nullable(),
  }),
);

const training = z.strictObject({
  id,
  task: z.enum(TRAINED_TASKS),
  words: z.string().nullable(),
  taughtBy: z.string(),
  on: day,
  until: day.nullable(),
});

export type TrainingRecord = z.infer<typeof training>;

export const person = z.strictObject({ id, name: z.string(), initials: z.string(), role: z.enum(ROLES) });

export const sessionReply = z.strictObject({ person: person.nullable() });

/** What whoever is signed in lacks the training for that this house asks, today: by kind of entry, in words. */
export const untrainedReply = z.strictObject({ kinds: z.record(z.string(), z.string()) });

export type UntrainedReply = z.infer<typeof untrainedReply>;

export const signInReply = z.strictObject({
  house: z.string().nullable(),
  people: z.array(person),
  demoPins: z.array(z.strictObject({ name: z.string(), pin: z.string() })).nullable(),
  /** The other house, where whoever asks may open it from here. */
  other: z.enum(['demo', 'own']).nullable(),
});

/** Who comes in, for an owner. */
export const peopleReply = z.strictObject({
  people: z.array(
    person.extend({
      leftAt: iso.nullable(),
      lastDay: day.nullable(),
      hasPin: z.boolean(),
      signedIn: z.int(),
      devices: z.int(),
      /** The newest first. */
      trainings: z.array(training),
    }),
  ),
  locks: z.array(z.strictObject({ personId: id, until: iso, here: z.boolean() })),
});

/** What an inspector looked at, the newest first. */
export const looksReply = z.strictObject({ looks: z.array(z.strictObject({ at: iso, what: z.string() })) });
export type LooksReply = z.infer<typeof looksReply>;

export type Person = z.infer<typeof person>;

export type SessionReply = z.infer<typeof sessionReply>;

export type SignInReply = z.infer<typeof signInReply>;

/** Every right against every role. */
export const rightsReply = z.strictObject({
  rights: z.array(
    z.strictObject({
      key: z.string(),
      words: z.string(),
      does: z.string(),
      owner: z.boolean(),
      maker: z.boolean(),
      inspector: z.boolean(),
      note: z.string().nullable(),
    }),
  ),
});

export type RightsReply = z.infer<typeof rightsReply>;
export type PeopleReply = z.infer<typeof peopleReply>;

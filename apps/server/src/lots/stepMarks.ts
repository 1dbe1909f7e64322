import { labourMinutes, type WorkMark } from '@clear-tally/core';
import { asc, eq } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { person } from '../db/schema/house.js';
import { stepMark } from '../db/schema/making.js';

export type StepState = 'open' | 'begun' | 'done' | 'skipped';

/** How a step stands: who did it, how long it took, what its target still lacks. */
export interface StepStanding {
  readonly state: StepState;
  readonly labourMinutes: number | null;
  readonly by: string | null;
  readonly at: string | null;
  readonly note: string | null;
  readonly unchecked: readonly string[];
  readonly begunBy: readonly { by: string; at: string }[];
  /** What its target still lacks; null when it is met or has none. */
  readonly open: string | null;
}

/** What the work itself says of a step. */
export interface StepWork {
  /** Its target is met, whether or not anybody said so. */
  readonly done: boolean;
  readonly open: string | null;
}

/** The steps of a sheet, of a batch or of a finish, as people marked them. */
export async function standingSteps<S extends { readonly key: string }>(
  reader: Reader,
  lotId: string,
  steps: readonly S[],
  work: (step: S) => StepWork,
): Promise<(S & StepStanding)[]> {
  const marks = await reader
    .select({
      step: stepMark.step,
      what: stepMark.what,
      by: stepMark.by,
      at: stepMark.at,
      minutes: stepMark.minutes,
      unchecked: stepMark.unchecked,
      note: stepMark.note,
      initials: person.initials,
    })
    .from(stepMark)
    .innerJoin(person, eq(person.id, stepMark.by))
    .where(eq(stepMark.batchId, lotId))
    .orderBy(asc(stepMark.seq));
  const labour = labourMinutes(
    marks.map((mark): WorkMark => ({
      step: mark.step,
      by: mark.by,
      what: mark.what,
      at: mark.at.getTime(),
      minutes: mark.minutes,
    })),
  );
  return steps.map((step) => {
    const own = marks.filter((mark) => mark.step === step.key);
    const end = own.find((mark) => mark.what !== 'begin');
    const { done, open } = work(step);
    return {
      ...step,
      open,
      state: stateOf(end?.what, done, open, own.length > 0),
      labourMinutes: labour.has(step.key) ? Math.round(labour.get(step.key)! * 10) / 10 : null,
      by: end?.initials ?? null,
      at: end?.at.toISOString() ?? null,
      note: end?.note ?? null,
      unchecked: end?.unchecked ?? [],
      begunBy: end ? [] : own.map((mark) => ({ by: mark.initials, at: mark.at.toISOString() })),
    };
  });
}

/** A step ended with its target open was left so: it counts as skipped. */
function stateOf(end: string | undefined, done: boolean, open: string | null, begun: boolean): StepState {
  if (end === 'skip' || (end === 'finish' && open)) return 'skipped';
  if (end === 'finish' || done) return 'done';
  return begun ? 'begun' : 'open';
}

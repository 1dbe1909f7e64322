import type { EntryChoices } from '@clear-tally/contract';
import { finishSheet, type SheetStep } from '@clear-tally/core';
import { and, eq, ne } from 'drizzle-orm';
import type { Reader, Transaction } from '../../db/database.js';
import { house, person } from '../../db/schema/house.js';
import { stepMark } from '../../db/schema/making.js';
import { refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { finishOf } from '../../lots/finishes.js';
import { readFinishSheet } from '../../lots/finishSheet.js';
import { loadLot, type LotRow, refuseClosed } from '../../lots/lots.js';
import { readSheet, stepsOf } from './runSheet.js';
import { sheetLines } from './sheetLines.js';

type AnyStep = Pick<SheetStep, 'key' | 'name' | 'checks' | 'irreversible'>;

/** The lot a sheet is of: a batch, or a finish. */
export async function sheetLot(tx: Transaction, id: string): Promise<LotRow> {
  const of = await loadLot(tx, id, 'batchId', ['batch', 'fill']);
  if (of.kind === 'fill' && !(await finishOf(tx, of.id)))
    throw refused('finish.not', `${of.code} is a vessel that ferments: it has no sheet of its own.`, {
      field: 'batchId',
    });
  refuseClosed(of, 'batchId');
  return of;
}

/** The steps of the sheet of a batch or a finish. */
async function stepsOn(reader: Reader, of: LotRow): Promise<AnyStep[]> {
  const finishing = of.kind === 'fill' ? await finishOf(reader, of.id) : null;
  return finishing ? finishSheet(finishing.what) : stepsOf(reader, of, (await batchState(reader, of)).formula);
}

/** What a correction may choose among: the steps, and what is ticked at each. */
export async function stepChoices(reader: Reader, batchId: string | null): Promise<EntryChoices> {
  if (batchId === null) return {};
  const steps = await stepsOn(reader, await loadLot(reader, batchId, 'batchId', ['batch', 'fill']));
  return {
    step: steps.map(({ key, name }) => ({ id: key, label: name })),
    checked: steps.flatMap(({ key, checks }) =>
      checks.map((check) => ({ id: check.key, label: check.words, where: { field: 'step', is: key } })),
    ),
  };
}

/** The lines of the batch's formula, for a correction to choose among. */
export async function lineChoices(reader: Reader, batchId: string): Promise<EntryChoices> {
  const batch = await loadLot(reader, batchId, 'batchId', ['batch']);
  const lines = await sheetLines(reader, batch, await batchState(reader, batch));
  return { line: lines.map(({ key, name }) => ({ id: key, label: name })) };
}

/** A step of the run sheet of a batch. @throws {Refused} its sheet has none of that key */
export async function stepNamed(tx: Transaction, batch: LotRow, key: string): Promise<AnyStep> {
  const steps = await stepsOn(tx, batch);
  const step = steps.find((one) => one.key === key);
  if (!step)
    throw refused(
      'making.stepUnknown',
      `“${key}” is no step of ${batch.code}. Its run sheet has: ${steps.map((one) => one.name).join(', ')}.`,
      { field: 'step' },
    );
  return step;
}

/** How the steps of a batch stand: begun, done, by what. */
export async function standingOf(
  tx: Transaction,
  of: LotRow,
  at: Date,
): Promise<readonly { key: string; open: string | null }[]> {
  const finishing = of.kind === 'fill' ? await finishOf(tx, of.id) : null;
  return finishing
    ? await readFinishSheet(tx, of.id, finishing, at)
    : (await readSheet(tx, of, await batchState(tx, of))).steps;
}

/** Two people at one step: the second is told who was first, and when. */
export async function refuseDone(tx: Transaction, batch: LotRow, step: AnyStep): Promise<void> {
  const [end] = await tx
    .select({ what: stepMark.what, at: stepMark.at, name: person.name })
    .from(stepMark)
    .innerJoin(person, eq(person.id, stepMark.by))
    .where(and(eq(stepMark.batchId, batch.id), eq(stepMark.step, step.key), ne(stepMark.what, 'begin')));
  if (!end) return;
  const [of] = await tx.select({ timeZone: house.timeZone }).from(house);
  const time = new Intl.DateTimeFormat('en-GB', { timeZone: of!.timeZone, hour: '2-digit', minute: '2-digit' }).format(
    end.at,
  );
  throw refused(
    'making.stepDone',
    `“${step.name}” of ${batch.code} was ${end.what === 'skip' ? 'skipped' : 'finished'} by ${end.name} at ${time}. Nothing was recorded twice: go on with the next step.`,
    { field: 'step', facts: { by: end.name, at: end.at.toISOString() } },
  );
}

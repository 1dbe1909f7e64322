import type { BodyOf } from '@clear-tally/contract';
import {
  decideClose,
  decideFinish,
  decideTick,
  finishSheet,
  formatGrams,
  type SheetLine,
  type SheetStep,
} from '@clear-tally/core';
import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import { rows, type Transaction } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { house, person } from '../../db/schema/house.js';
import { lot } from '../../db/schema/ledger.js';
import { lineMark, saltConfirmation, stepMark, timer } from '../../db/schema/making.js';
import { material } from '../../db/schema/stores.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { finishOf } from '../../lots/finishes.js';
import { readFinishSheet } from '../../lots/finishSheet.js';
import { listed, unticked } from '../../lots/lineWords.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { addMovements, loadLot, type LotRow, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { readSheet, stepsOf } from './runSheet.js';

type AnyStep = Pick<SheetStep, 'key' | 'name' | 'checks' | 'irreversible'>;

/** The lot a sheet is of: a batch, or a finish. */
async function sheetLot(tx: Transaction, id: string): Promise<LotRow> {
  const of = await loadLot(tx, id, 'batchId', ['batch', 'fill']);
  if (of.kind === 'fill' && !(await finishOf(tx, of.id)))
    throw refused('finish.not', `${of.code} is a vessel that ferments: it has no sheet of its own.`, {
      field: 'batchId',
    });
  refuseClosed(of, 'batchId');
  return of;
}

async function stepNamed(tx: Transaction, batch: LotRow, key: string): Promise<AnyStep> {
  const finishing = batch.kind === 'fill' ? await finishOf(tx, batch.id) : null;
  const steps: AnyStep[] = finishing
    ? finishSheet(finishing.what)
    : await stepsOf(tx, batch, (await batchState(tx, batch)).formula);
  const step = steps.find((one) => one.key === key);
  if (!step)
    throw refused(
      'making.stepUnknown',
      `“${key}” is no step of ${batch.code}. Its run sheet has: ${steps.map((one) => one.name).join(', ')}.`,
      { field: 'step' },
    );
  return step;
}

async function standingOf(
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
async function refuseDone(tx: Transaction, batch: LotRow, step: AnyStep): Promise<void> {
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

export const stepBegin = kind('step.begin', {
  who: 'maker',
  words: 'Step begun',
  does: 'a step of the run sheet begun; done with its ticks, or skipped with its reason; labour minutes',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const batch = await sheetLot(tx, body.batchId);
    const step = await stepNamed(tx, batch, body.step);
    await refuseDone(tx, batch, step);
    await tx
      .insert(stepMark)
      .values({ entryId: entry.id, batchId: batch.id, step: step.key, what: 'begin', by: entry.by, at, seq });
    return { facts: { name: step.name }, lots: [batch.id] };
  },
  line: ({ facts }) => ({ what: `Begun: ${String(facts['name'] ?? '')}`, words: null }),
});

export const stepFinish = kind('step.finish', {
  who: 'maker',
  words: 'Step ended',
  does: 'a step of the run sheet begun; done with its ticks, or skipped with its reason; labour minutes',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const batch = await sheetLot(tx, body.batchId);
    const step = await stepNamed(tx, batch, body.step);
    await refuseDone(tx, batch, step);
    const { unchecked } =
      body.skipped === null
        ? must(
            decideFinish({
              ...step,
              checked: body.checked,
              note: body.note,
              open: (await standingOf(tx, batch, at)).find((one) => one.key === step.key)?.open ?? null,
            }),
          )
        : { unchecked: [] };
    await tx.insert(stepMark).values({
      entryId: entry.id,
      batchId: batch.id,
      step: step.key,
      what: body.skipped === null ? 'finish' : 'skip',
      by: entry.by,
      at,
      minutes: body.minutes,
      unchecked,
      note: body.skipped ?? body.note,
      seq,
    });
    return { facts: { name: step.name, unchecked }, lots: [batch.id] };
  },
  line: ({ entry, facts }) => ({
    what: `${entry.body.skipped === null ? 'Done' : 'Skipped'}: ${String(facts['name'] ?? '')}`,
    words: [entry.body.skipped, entry.body.note, unticked(facts)].filter(Boolean).join(' · ') || null,
  }),
});

export const lineSettled = kind('line.settle', {
  who: 'maker',
  words: 'Line settled',
  does: 'a formula line in by its planned mass, not weighed, of its lot (`fromLotId`, or a note why none is known); or left out with its reason',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const { lines } = await readSheet(tx, batch, await batchState(tx, batch));
    const line = lines.find((one) => one.key === body.line);
    if (!line)
      throw refused('making.stepUnknown', `“${body.line}” is no line of this batch’s formula.`, { field: 'line' });
    const facts = body.how === 'ticked' ? await tickLine(recording, body, batch, line) : {};
    const row = {
      batchId: batch.id,
      line: line.key,
      how: body.how,
      reason: body.how === 'leftOut' ? body.reason : body.note,
      by: entry.by,
      at,
      seq,
    };
    await tx
      .insert(lineMark)
      .values(row)
      .onConflictDoUpdate({ target: [lineMark.batchId, lineMark.line], set: row });
    return {
      facts: { name: line.name, ...facts },
      lots: [batch.id, ...(body.how === 'ticked' && body.fromLotId ? [body.fromLotId] : [])],
    };
  },
  line: ({ entry, facts }) => ({
    what: `${entry.body.how === 'ticked' ? 'In, not weighed' : 'Left out'}: ${String(facts['name'] ?? '')}`,
    words:
      entry.body.how === 'ticked'
        ? [
            typeof facts['grams'] === 'number' && `about ${formatGrams(facts['grams'])}`,
            facts['fromCode'] ? `of ${String(facts['fromCode'])}` : 'of no known lot',
            entry.body.note,
          ]
            .filter(Boolean)
            .join(' · ')
        : entry.body.reason,
  }),
});

/** In, not weighed: its planned mass moves out of its lot, so that every trace and every allergen finds it. */
async function tickLine(
  recording: InHand,
  body: BodyOf<'line.settle'> & { how: 'ticked' },
  batch: LotRow,
  line: SheetLine,
): Promise<Record<string, unknown>> {
  const [of] = await recording.tx.select().from(material).where(eq(material.id, line.materialId));
  const { grams } = must(
    decideTick({
      name: line.name,
      material: { ...of!, ...of!.details },
      plannedGrams: line.plannedGrams,
      grams: body.grams,
      knowsLot: !!body.fromLotId,
      note: body.note,
    }),
  );
  if (!body.fromLotId) return { grams, notWeighed: true };
  const from = await loadLot(recording.tx, body.fromLotId, 'fromLotId', ['supply', 'preparation']);
  if (from.kind === 'supply' && from.materialId !== line.materialId)
    throw refused('lot.wrongKind', `${from.code} is ${from.name}; the line is ${line.name}. Choose a lot of it.`, {
      field: 'fromLotId',
    });
  if (from.kind === 'preparation' && (from.batchId !== batch.id || from.form === 'brine' || from.form === 'keptBrine'))
    throw refused('lot.wrongKind', `${from.code} is ${from.name}: it is weighed in, with its lot and its past.`, {
      field: 'fromLotId',
    });
  refuseClosed(from, 'fromLotId');
  await refuseHeld(recording.tx, from, 'fromLotId');
  await refusePast(recording.tx, from, recording.at, body.note ?? undefined);
  await addMovements(recording, [{ from: { lot: from }, to: { lotId: batch.id }, grams, field: 'grams' }], {
    entryId: recording.entry.id,
    kind: 'ingredient.add',
    at: recording.at,
  });
  return { grams, notWeighed: true, fromCode: from.code };
}

export const timerStarted = kind('timer.start', {
  who: 'maker',
  words: 'Timer started',
  does: 'timers, kept on the server',
  correct: 'book',
  record: async ({ tx, entry, body, at }) => {
    if (body.batchId) await sheetLot(tx, body.batchId);
    await tx.insert(timer).values({
      id: body.timerId,
      batchId: body.batchId,
      step: body.step,
      words: body.words,
      minutes: body.minutes,
      startedAt: at,
      by: entry.by,
    });
    return { lots: body.batchId ? [body.batchId] : [] };
  },
  line: ({ entry }) => ({ what: `Timer: ${entry.body.words}`, words: `${entry.body.minutes} min` }),
});

export const timerStopped = kind('timer.stop', {
  who: 'maker',
  words: 'Timer stopped',
  does: 'timers, kept on the server',
  correct: 'book',
  falls: true,
  record: async ({ tx, body, at }) => {
    const [stopped] = await tx
      .update(timer)
      .set({ stoppedAt: at })
      .where(and(eq(timer.id, body.timerId), isNull(timer.stoppedAt)))
      .returning();
    if (!stopped)
      throw refused('timer.unknown', 'This timer is not running: somebody stopped it already.', { field: 'timerId' });
    return {
      facts: { words: stopped.words, minutes: Math.round((at.getTime() - stopped.startedAt.getTime()) / 6000) / 10 },
      lots: stopped.batchId ? [stopped.batchId] : [],
    };
  },
  line: ({ facts }) => ({
    what: `Timer stopped: ${String(facts['words'] ?? '')}`,
    words: `after ${String(facts['minutes'] ?? '')} min`,
  }),
});

export const saltConfirmed = kind('salt.confirm', {
  who: 'maker',
  whoWords: 'maker, not who weighed',
  words: 'Salt confirmed',
  does: 'a second person has looked at the salt as it is now',
  correct: 'ledger',
  falls: true,
  record: async ({ tx, entry, body, at, seq }) => {
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const state = await batchState(tx, batch);
    if (Math.abs(state.saltInGrams - body.sawGrams) >= 0.5)
      throw refused(
        'making.changedMeanwhile',
        `The salt has changed meanwhile: ${state.saltInGrams} g is in, your screen showed ${body.sawGrams} g. Look again, then confirm.`,
        { field: 'sawGrams' },
      );
    const weighers = await rows<{ by: string }>(
      tx,
      sql`
    select distinct j.by from live_movement m join journal j on j.seq = m.seq where m.kind = 'salt.weigh' and m.to_lot in (${batch.id}, ${state.brine?.lotId ?? batch.id})`,
    );
    if (weighers.length === 0)
      throw refused('salt.nothingToSalt', 'No salt is weighed yet: there is nothing to confirm.', {
        field: 'sawGrams',
      });
    if (weighers.some((row) => row.by === entry.by))
      throw refused(
        'salt.samePerson',
        'You weighed this salt. A second person looks at the scale, the lot and the figure, and confirms under their own name.',
      );
    await tx
      .insert(saltConfirmation)
      .values({ batchId: batch.id, by: entry.by, at, seq })
      .onConflictDoUpdate({ target: saltConfirmation.batchId, set: { by: entry.by, at, seq } });
    return { facts: { grams: state.saltInGrams }, lots: [batch.id] };
  },
  line: () => ({ what: 'Salt confirmed by a second person', words: null }),
});

export const batchClosed = kind('batch.close', {
  who: 'maker',
  words: 'Making closed',
  does: 'nothing more is made of it',
  correct: 'ledger',
  falls: true,
  record: async ({ tx, body, at }) => {
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const state = await batchState(tx, batch);
    const sheet = await readSheet(tx, batch, state);
    const brines = await rows<{ code: string; mg: string }>(
      tx,
      sql`select code, ${onHandMg(sql`lot.id`)} as mg from lot where batch_id = ${batch.id} and form = 'brine' and touched is null and closed_at is null`,
    );
    must(
      decideClose({
        code: batch.code,
        lines: sheet.lines,
        steps: sheet.steps,
        fills: sheet.fills,
        inBowlsGrams: sheet.inBowlsGrams,
        producedGrams: state.produceGrams,
        unanswered: brines.filter((row) => toGrams(row.mg) > 20).map((row) => row.code),
      }),
    );
    await tx.update(lot).set({ closedAt: at }).where(eq(lot.id, batch.id));
    const skipped = sheet.steps.filter((step) => step.state === 'skipped').map((step) => step.name);
    const leftOut = sheet.lines.filter((line) => line.state === 'leftOut').map((line) => line.name);
    return {
      facts: {
        skipped,
        leftOut,
        labourMinutes: Math.round(sheet.steps.reduce((sum, step) => sum + (step.labourMinutes ?? 0), 0)),
      },
      lots: [batch.id],
    };
  },
  line: ({ entry, facts }) => ({
    what: 'Making closed',
    words:
      [listed('skipped', facts['skipped']), listed('left out', facts['leftOut']), entry.body.note]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

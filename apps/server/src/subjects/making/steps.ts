import type { BodyOf } from '@clear-tally/contract';
import { decideFinish, decideTick, formatGrams, type SheetLine } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { lineMark, stepMark } from '../../db/schema/making.js';
import { material } from '../../db/schema/stores.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { unticked } from '../../lots/lineWords.js';
import { addMovements, loadLot, type LotRow, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { readSheet } from './runSheet.js';
import { lineChoices, refuseDone, sheetLot, standingOf, stepChoices, stepNamed } from './onSheet.js';

export const stepBegin = kind('step.begin', {
  who: 'maker',
  words: 'Step begun',
  does: 'a step of the run sheet begun; done with its ticks, or skipped with its reason; labour minutes',
  correct: 'book',
  choices: (reader, { batchId }) => stepChoices(reader, batchId),
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
  choices: (reader, { batchId }) => stepChoices(reader, batchId),
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
  choices: (reader, { batchId }) => lineChoices(reader, batchId),
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

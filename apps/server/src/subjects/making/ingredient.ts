import type { BodyOf } from '@clear-tally/contract';
import { checkMass, decideBrineUse, decideUsual, formatWeighed, piecesWords } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { material } from '../../db/schema/stores.js';
import { happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { addMovements, loadLot, type LotRow, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { donorGeneration, refuseTiredStarter } from '../../lots/starters.js';
import { lineChoices } from './onSheet.js';
import { sheetLines } from './sheetLines.js';

/** Flavourings and starters; kept brine from another vessel makes that vessel an ancestor. */
export const ingredientAdd = kind('ingredient.add', {
  who: 'maker',
  words: 'Ingredient added',
  does: 'a flavouring, or kept brine from another vessel (which becomes an ancestor); into the bowls, or into the brine (`brine`: stays, strained)',
  correct: 'ledger',
  choices: (reader, { batchId }) => lineChoices(reader, batchId),
  rulesBefore: true,
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['supply', 'preparation', 'fill']);
    refuseClosed(batch, 'batchId');
    refuseClosed(from, 'fromLotId');
    await refuseHeld(tx, from, 'fromLotId');
    await refusePast(tx, from, recording.at, body.pastReason);
    const generation = from.kind === 'fill' ? await donorGeneration(tx, from) : from.generation;
    if (from.form === 'keptBrine' && !happened(tx)) await refuseTiredStarter(tx, from, recording.at);
    must(
      decideBrineUse({
        code: from.code,
        touched: from.form === 'brine' ? from.touched : 'never',
        sameBatch: from.batchId === batch.id,
      }),
    );
    if (from.materialId) {
      const [what] = await tx.select({ kind: material.kind }).from(material).where(eq(material.id, from.materialId));
      if (what?.kind === 'packaging')
        throw refused('lot.wrongKind', `${from.code} is ${from.name}: packaging is counted, and goes into no bowl.`, {
          field: 'fromLotId',
        });
    }
    must(checkMass({ grams: body.grams, what: from.name, field: 'grams' }));
    if (body.line && body.unusualReason === undefined && !happened(tx)) await refuseUnusual(tx, batch, body);
    const scale = await weighOn(recording, { ...body, lotId: batch.id });
    if (body.brine) return spiceInBrine(recording, batch, from, scale);
    await addMovements(recording, [
      { from: { lot: from }, to: { lotId: batch.id }, grams: body.grams, field: 'grams' },
    ]);
    return { facts: { ...(generation === null ? {} : { generation }), ...scale }, lots: [batch.id, from.id] };
  },
  line: ({ entry, facts, code }) => ({
    what: `Added ${code(entry.body.fromLotId)}`,
    words:
      [
        entry.body.pieces && piecesWords({ grams: entry.body.grams, pieces: entry.body.pieces }),
        entry.body.brine
          ? `into the brine ${String(facts['brine'] ?? '')}${entry.body.brine === 'strained' ? ', strained out of it' : ''}`
          : entry.body.unusualReason,
        onScale(facts),
      ]
        .filter(Boolean)
        .join(' · ') || null,
    figure: formatWeighed(entry.body.grams),
  }),
});

/** More of a line than its formula calls usual is asked about: ten times too much is a comma, seldom a wish. */
async function refuseUnusual(
  tx: Transaction,
  batch: LotRow,
  body: Pick<BodyOf<'ingredient.add'>, 'line' | 'grams'>,
): Promise<void> {
  const state = await batchState(tx, batch);
  if (!state.formula.lines.some((line) => line.most != null)) return;
  const line = (await sheetLines(tx, batch, state)).find(({ key }) => key === body.line);
  if (line) must(decideUsual({ ...line, grams: body.grams, reason: null }));
}

/** A spice in the brine: what is poured of it carries its lot and its allergens, also when the spice itself is strained out. */
async function spiceInBrine(
  recording: InHand & { body: BodyOf<'ingredient.add'> },
  batch: LotRow,
  from: LotRow,
  scale: { scale?: string },
): Promise<{ facts: Record<string, unknown>; lots: string[] }> {
  const { tx, body } = recording;
  const { brine } = await batchState(tx, batch);
  if (!brine)
    throw refused('lot.unknown', `${batch.code} has no brine yet: make up its water first, then its spices go in.`, {
      field: 'brine',
    });
  const into = await loadLot(tx, brine.lotId, 'brine');
  refuseClosed(into, 'brine');
  if (into.touched !== null)
    throw refused(
      'lot.closed',
      `${into.code} is poured, and what is left of it is told already: nothing more goes into it.`,
      { field: 'brine' },
    );
  await addMovements(recording, [{ from: { lot: from }, to: { lotId: into.id }, grams: body.grams, field: 'grams' }]);
  if (body.brine === 'strained')
    await addMovements(recording, [
      { from: { lot: into }, to: { sink: 'residue' }, grams: body.grams, field: 'grams' },
    ]);
  return {
    facts: { brine: into.code, strained: body.brine === 'strained', ...scale },
    lots: [batch.id, into.id, from.id],
  };
}

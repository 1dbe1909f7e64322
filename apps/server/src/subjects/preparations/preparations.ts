import { checkMass, decideBrineUse, formatGrams, PREPARATION_WORDS } from '@clear-tally/core';
import { happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { addLot, addMovements, codeFor, loadLot, type LotRow, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { donorGeneration, refuseTiredStarter } from '../../lots/starters.js';
import { lineChoices } from '../making/index.js';
import { nextPreparationCode } from './nextPreparationCode.js';

/** Anything that goes into a preparation, checked as it would be for the bowls. */
async function loadPart(recording: InHand, fromLotId: string, batch: LotRow): Promise<LotRow> {
  const from = await loadLot(recording.tx, fromLotId, 'parts', ['supply', 'preparation', 'fill']);
  refuseClosed(from, 'parts');
  await refuseHeld(recording.tx, from, 'parts');
  await refusePast(recording.tx, from, recording.at, undefined);
  if (from.kind === 'fill') await donorGeneration(recording.tx, from);
  if (from.form === 'keptBrine' && !happened(recording.tx)) await refuseTiredStarter(recording.tx, from, recording.at);
  must(
    decideBrineUse({
      code: from.code,
      touched: from.form === 'brine' ? from.touched : 'never',
      sameBatch: from.batchId === batch.id,
    }),
  );
  return from;
}

export const preparationMade = kind('preparation.make', {
  who: 'maker',
  words: 'Preparation made',
  does: 'paste, porridge, purée, liquor, woken culture: weighed lots become a lot',
  correct: 'ledger',
  choices: (reader, { batchId }) => lineChoices(reader, batchId),
  rulesBefore: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    refuseClosed(batch, 'batchId');
    const parts: { from: LotRow; grams: number }[] = [];
    for (const part of body.parts) {
      const from = await loadPart(recording, part.fromLotId, batch);
      must(checkMass({ grams: part.grams, what: from.name, field: 'parts' }));
      parts.push({ from, grams: part.grams });
    }
    const total = parts.reduce((sum, part) => sum + part.grams, 0);
    if (body.boiledOffGrams >= total)
      throw refused(
        'lot.overdrawn',
        `${formatGrams(body.boiledOffGrams)} boiled off is all of the ${formatGrams(total)} that went in. Weigh what is left.`,
        { field: 'boiledOffGrams' },
      );
    const code = codeFor(recording, body.lotId, await nextPreparationCode(tx, batch));
    await addLot(recording, {
      id: body.lotId,
      code,
      kind: 'preparation',
      form: body.form,
      name: body.name,
      origin: 'made',
      at,
      batchId: batch.id,
    });
    await addMovements(
      recording,
      parts.map(({ from, grams }) => ({ from: { lot: from }, to: { lotId: body.lotId }, grams, field: 'parts' })),
    );
    if (body.boiledOffGrams > 0)
      await addMovements(recording, [
        {
          from: { lot: await loadLot(tx, body.lotId, 'lotId') },
          to: { sink: 'evaporation' },
          grams: body.boiledOffGrams,
          field: 'boiledOffGrams',
        },
      ]);
    const heaviest = Math.max(...parts.map(({ grams }) => grams));
    const scale = await weighOn(recording, { ...body, grams: heaviest, lotId: body.lotId });
    return {
      facts: { code, grams: total - body.boiledOffGrams, form: PREPARATION_WORDS[body.form], ...scale },
      lots: [batch.id, body.lotId, ...parts.map(({ from }) => from.id)],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${String(facts['form'] ?? 'Preparation')} made, ${String(facts['code'] ?? '')}`,
    words: `${entry.body.name}: ${entry.body.parts.map((part) => `${code(part.fromLotId)} ${formatGrams(part.grams)}`).join(', ')}${entry.body.boiledOffGrams > 0 ? ` · ${formatGrams(entry.body.boiledOffGrams)} boiled off` : ''}${onScale(facts) ? ` · ${onScale(facts)}` : ''}`,
    figure: formatGrams(entry.body.parts.reduce((sum, part) => sum + part.grams, -entry.body.boiledOffGrams)),
  }),
});

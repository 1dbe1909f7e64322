import { checkMass, decideFill, DRAINED, FINISH_WORDS, formatGrams, type Outcome } from '@clear-tally/core';
import type { Transaction } from '../../db/database.js';
import { finish } from '../../db/schema/finishing.js';
import { hold } from '../../db/schema/ledger.js';
import { happened, isReplay } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { refuseUnripeThen } from '../../lots/packableThen.js';
import { addLot, addMovements, closeEmptied, codeFor, loadLot, type LotRow, refuseClosed } from '../../lots/lots.js';
import { freeFillCode, loadVessel } from '../vessels/index.js';
import { packableAll } from './finishInHand.js';

const DOES =
  'what is done with a ferment before it is packed: drained and repacked, blended, opened, dried, infused; a lot of its own';

export const finishBegun = kind('finish.begin', {
  who: 'maker',
  words: 'Taken in hand',
  does: DOES,
  correct: 'ledger',
  judged: true,
  rulesBefore: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body, at, seq } = recording;
    const fills: LotRow[] = [];
    for (const part of body.from) {
      const fill = await loadLot(tx, part.fillLotId, 'from', ['fill']);
      refuseClosed(fill, 'from');
      fills.push(fill);
      must(checkMass({ grams: part.grams, what: 'what is taken from a vessel', field: 'from' }));
    }
    if (new Set(fills.map(({ id }) => id)).size < fills.length)
      throw refused('pack.nothing', 'One vessel is named twice. Name each vessel once, with all that is taken of it.', {
        field: 'from',
      });
    refuseMixed(tx, fills, body.merge);
    const unfit = await packableAll(recording, fills);
    await refuseUnripeThen(recording, fills);
    const into = await loadVessel(tx, body.vesselId);
    const grams = body.from.reduce((sum, part) => sum + part.grams, 0);
    const fit = must(
      decideFill({
        vessel: into,
        grams,
        bound: 'brim',
        overReason: happened(tx) ? 'as it was filled' : undefined,
      }),
    );
    const [first] = fills;
    const batch = await loadLot(tx, first!.batchId!, 'from');
    const code = codeFor(recording, body.finishLotId, await freeFillCode(tx, batch.code, into.tag), into.id);
    await addLot(recording, {
      id: body.finishLotId,
      code,
      kind: 'fill',
      name: first!.name,
      origin: first!.origin,
      at,
      batchId: first!.batchId,
      formulaId: first!.formulaId,
      formulaVersion: first!.formulaVersion,
      vesselId: into.id,
    });
    await tx.insert(finish).values({ lotId: body.finishLotId, what: body.what, at, seq });
    for (const [index, part] of body.from.entries())
      await addMovements(
        recording,
        [{ from: { lot: fills[index]! }, to: { lotId: body.finishLotId }, grams: part.grams, field: 'from' }],
        { entryId: recording.entry.id, kind: part.of === 'solids' ? DRAINED : 'finish.begin', at },
      );
    await holdUnfit(recording, body.finishLotId, unfit);
    const emptied: string[] = [];
    for (const fill of fills) if (await closeEmptied(recording, fill)) emptied.push(fill.code);
    return {
      facts: { code, fillFraction: fit.fillFraction, ...(emptied.length > 0 ? { emptied } : {}) },
      lots: [body.finishLotId, ...fills.map(({ id }) => id)],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${FINISH_WORDS[entry.body.what]}: ${String(facts['code'] ?? '')}`,
    words: [
      ...entry.body.from.map(
        (part) => `${code(part.fillLotId)} ${formatGrams(part.grams)}${part.of === 'solids' ? ', drained' : ''}`,
      ),
      ...(entry.body.merge ? ['of several batches, and meant'] : []),
    ].join(' · '),
    figure: formatGrams(entry.body.from.reduce((sum, part) => sum + part.grams, 0)),
  }),
});

/** Several batches become one thing only when somebody says so; of two formulas never: nobody could name it. */
function refuseMixed(tx: Transaction, fills: readonly LotRow[], merge: true | undefined): void {
  if (happened(tx)) return;
  const names = fills.map(({ code }) => code).join(' and ');
  if (new Set(fills.map(({ formulaId, formulaVersion }) => `${formulaId} ${formulaVersion}`)).size > 1)
    throw refused(
      'pack.differentBatches',
      `${names} are of different formulas, or of two versions of one. One finish is of one formula version: make two of it.`,
      { field: 'from' },
    );
  if (new Set(fills.map(({ batchId }) => batchId)).size > 1 && !merge)
    throw refused(
      'pack.differentBatches',
      `${names} are of different batches. Together they are one thing, and every jar of it comes from all of them. Is that meant?`,
      { field: 'from', facts: { asks: 'merge' } },
    );
}

async function holdUnfit({ tx, entry, at }: InHand, lotId: string, unfit: readonly Outcome<void>[]): Promise<void> {
  if (isReplay(tx)) return;
  const why = unfit.flatMap((outcome) => (outcome.ok ? [] : [outcome.refusal.message]));
  if (why.length === 0) return;
  await tx.insert(hold).values({
    entryId: entry.id,
    lotId,
    rule: 'person',
    causeLot: null,
    placedAt: at,
    reason: `Taken in hand before it was known: ${why.join(' ')}`.slice(0, 300),
  });
}

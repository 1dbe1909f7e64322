import { decideClose } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { lot } from '../../db/schema/ledger.js';
import { saltConfirmation } from '../../db/schema/making.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { batchState } from '../../lots/batchSalt.js';
import { listed } from '../../lots/lineWords.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { loadLot, refuseClosed } from '../../lots/lots.js';
import { readSheet } from './runSheet.js';

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

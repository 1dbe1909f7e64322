import type { Outcome } from '@clear-tally/core';
import type { Transaction } from '../../db/database.js';
import { ask } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { refused } from '../../journal/refused.js';
import { finishOf, type FinishOf } from '../../lots/finishes.js';
import { loadLot, type LotRow, refuseClosed } from '../../lots/lots.js';
import { loadWatched } from '../../lots/watched.js';

/** The lot of a finish that is in hand. */
export async function inHand(tx: Transaction, id: string): Promise<{ of: LotRow; finishing: FinishOf }> {
  const of = await loadLot(tx, id, 'finishLotId', ['fill']);
  const finishing = await finishOf(tx, of.id);
  if (!finishing)
    throw refused('finish.not', `${of.code} is a vessel that ferments. Take it in hand on the page “Finish” first.`, {
      field: 'finishLotId',
    });
  refuseClosed(of, 'finishLotId');
  return { of, finishing };
}

/** What may not be packed may not be finished either; what was, before it was known, is held. */
export async function packableAll({ tx, at }: InHand, fills: readonly LotRow[]): Promise<Outcome<void>[]> {
  const watched = await loadWatched(
    tx,
    at,
    fills.map(({ id }) => id),
  );
  const all = watched.map(({ packable }) => packable);
  for (const one of all) ask(tx, one);
  return all;
}

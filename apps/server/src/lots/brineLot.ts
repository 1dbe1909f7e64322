import type { InHand } from '../journal/handler.js';
import { addLot, codeFor, type LotRow } from './lots.js';

/**
 * The brine of a batch: there already, or made now by what goes in first, water or a brine of another batch.
 * @param known the one that is there
 * @param nextCode asked only where there is none
 */
export async function brineLot(
  recording: InHand & { readonly at: Date },
  batch: LotRow,
  known: { readonly lotId: string; readonly code: string } | null,
  id: string,
  nextCode: () => Promise<string>,
): Promise<{ readonly lotId: string; readonly code: string }> {
  if (known) return known;
  const code = codeFor(recording, id, await nextCode());
  const { at } = recording;
  await addLot(recording, {
    id,
    code,
    kind: 'preparation',
    form: 'brine',
    name: 'Brine',
    origin: 'made',
    at,
    batchId: batch.id,
  });
  return { lotId: id, code };
}

import type { BodyOf } from '@clear-tally/contract';
import { jarCode } from '@clear-tally/core';
import { toMilligrams } from '../../db/schema/columns.js';
import { jarRange } from '../../db/schema/ledger.js';
import type { InHand } from '../../journal/handler.js';
import { refused } from '../../journal/refused.js';

/** Serial ranges, one after the other, in the order of the sizes given. */
export async function issueJars({ tx }: InHand, runLotId: string, code: string, jars: BodyOf<'pack.run'>['jars']) {
  const issued: { sizeMl: number; count: number; first: string; last: string }[] = [];
  let next = 1;
  for (const { sizeMl, netGrams, count } of jars) {
    const last = next + count - 1;
    if (last > 99_999)
      throw refused('code.exhausted', 'A packing run has 99,999 jars at most. Make two runs of it.', { field: 'jars' });
    await tx
      .insert(jarRange)
      .values({ runLotId, firstSerial: next, lastSerial: last, sizeMl, netMilligrams: toMilligrams(netGrams) });
    issued.push({ sizeMl, count, first: jarCode(code, next).text, last: jarCode(code, last).text });
    next = last + 1;
  }
  return issued;
}

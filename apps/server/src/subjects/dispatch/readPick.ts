import { jarCode, pickList } from '@clear-tally/core';
import type { Reader } from '../../db/database.js';
import { refused } from '../../journal/refused.js';
import { readJars } from './readJars.js';
import { readOrders } from './readOrders.js';

/** What is picked for an open order, place by place and oldest first, as its paper says it. */
export async function readPick(reader: Reader, orderId: string, now: Date) {
  const { orders } = await readOrders(reader);
  const order = orders.find((one) => one.orderId === orderId);
  if (!order) throw refused('resource.unknown', 'There is no such open order: it was answered or closed.');
  const { runs } = await readJars(reader, now);
  const stock = runs.flatMap(({ lotId, formulaId, packedAt, refusal, stretches }) =>
    refusal === null
      ? [
          {
            runLotId: lotId,
            formulaId,
            packedAt: Date.parse(packedAt),
            stretches: stretches.filter(({ kept }) => kept === null),
          },
        ]
      : [],
  );
  const { picks, missing } = pickList(order.lines, stock);
  return {
    order,
    picks: picks.map(({ runLotId, where, sizeMl, first, last }) => {
      const run = runs.find(({ lotId }) => lotId === runLotId)!;
      return {
        where,
        run: run.code,
        name: run.name,
        sizeMl,
        count: last - first + 1,
        codes:
          first === last
            ? jarCode(run.code, first).text
            : `${jarCode(run.code, first).text} to ${jarCode(run.code, last).text}`,
      };
    }),
    missing: missing.map(({ formulaId, sizeMl, lacks }) => ({
      name: order.lines.find((line) => line.formulaId === formulaId)?.name ?? '',
      sizeMl,
      lacks,
    })),
  };
}

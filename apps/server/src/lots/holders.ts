import type { Reader } from '../db/database.js';
import { customerNames } from './house.js';
import { jarsOf } from './runs.js';

/** Who has jars of these runs now, how many of each. */
export async function holdersOf(reader: Reader, runs: readonly { readonly lotId: string; readonly code: string }[]) {
  const codes = new Map(runs.map(({ lotId, code }) => [lotId, code]));
  const names = await customerNames(reader);
  const found = new Map<string, { customerId: string; name: string; run: string; count: number }>();
  for (const { runLotId, segments } of await jarsOf(reader, [...codes.keys()]))
    for (const { where, first, last } of segments) {
      if (where.kind !== 'customer') continue;
      const key = `${where.customerId} ${runLotId}`;
      const before = found.get(key)?.count ?? 0;
      found.set(key, {
        customerId: where.customerId,
        name: names.get(where.customerId) ?? '',
        run: codes.get(runLotId)!,
        count: before + last - first + 1,
      });
    }
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name, 'en') || a.run.localeCompare(b.run, 'en'));
}

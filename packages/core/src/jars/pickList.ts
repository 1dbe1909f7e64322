import { type Serials, takeJars } from './standing.js';

export interface Wanted {
  readonly formulaId: string;
  readonly sizeMl: number;
  readonly count: number;
}

/** A run that may leave, and where its free jars are. */
export interface PickFrom {
  readonly runLotId: string;
  readonly formulaId: string | null;
  readonly packedAt: number;
  readonly stretches: readonly (Serials & { readonly sizeMl: number; readonly where: string })[];
}

export interface Pick extends Serials {
  readonly where: string;
  readonly runLotId: string;
  readonly sizeMl: number;
}

/**
 * What is picked for an order: of each line the oldest jars first, listed place by place as somebody walks. What is not
 * there is said as missing. Source: handbook 4.6, 5.4.
 */
export function pickList(
  lines: readonly Wanted[],
  stock: readonly PickFrom[],
): { picks: Pick[]; missing: (Wanted & { readonly lacks: number })[] } {
  const oldest = [...stock].sort((a, b) => a.packedAt - b.packedAt);
  const picks: Pick[] = [];
  const missing: (Wanted & { lacks: number })[] = [];
  // Two lines of one product take from the same jars: what the first took is gone.
  const taken = new Map<string, number>();
  for (const line of lines) {
    const key = `${line.formulaId} ${line.sizeMl}`;
    const skip = taken.get(key) ?? 0;
    const all = oldest
      .filter(({ formulaId }) => formulaId === line.formulaId)
      .flatMap(({ runLotId, stretches }) =>
        stretches
          .filter(({ sizeMl }) => sizeMl === line.sizeMl)
          .sort((a, b) => a.first - b.first)
          .map((one) => ({ ...one, runLotId })),
      );
    const free = leaveOut(all, skip);
    let wanted = line.count;
    for (const one of free) {
      const [got] = takeJars([one], wanted);
      if (!got) break;
      wanted -= got.last - got.first + 1;
      picks.push({ where: one.where, runLotId: one.runLotId, sizeMl: one.sizeMl, ...got });
    }
    taken.set(key, skip + line.count - wanted);
    if (wanted > 0) missing.push({ ...line, lacks: wanted });
  }
  const places = [...new Set(picks.map(({ where }) => where))];
  return { picks: places.flatMap((place) => picks.filter(({ where }) => where === place)), missing };
}

function leaveOut<T extends Serials>(stretches: readonly T[], count: number): T[] {
  let gone = count;
  return stretches.flatMap((one): T[] => {
    const many = one.last - one.first + 1;
    const out = Math.min(gone, many);
    gone -= out;
    return out === many ? [] : [{ ...one, first: one.first + out }];
  });
}

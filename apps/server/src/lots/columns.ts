/**
 * The column of every lot in the way of a jar: one further than the furthest it takes from. Two lots that
 * gave to each other would push each other on for ever; a lot on the walk's own path does not count.
 */
export function columnsOf(ids: readonly string[], flows: readonly { from: string; to: string }[]): Map<string, number> {
  const sources = new Map<string, string[]>();
  for (const flow of flows) (sources.get(flow.to) ?? sources.set(flow.to, []).get(flow.to)!).push(flow.from);
  const columns = new Map<string, number>();
  const walking = new Set<string>();
  const columnOf = (id: string): number => {
    const known = columns.get(id);
    if (known !== undefined) return known;
    if (walking.has(id)) return -1;
    walking.add(id);
    const column = Math.max(-1, ...(sources.get(id) ?? []).map(columnOf)) + 1;
    walking.delete(id);
    columns.set(id, column);
    return column;
  };
  ids.forEach(columnOf);
  return columns;
}

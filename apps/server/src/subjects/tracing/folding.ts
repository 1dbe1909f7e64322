import type { TraceReply } from '@clear-tally/contract';

type Node = TraceReply['nodes'][number];

type Flow = TraceReply['flows'][number];
type Link = TraceReply['links'][number];

/** A way of more lots than this is folded: nobody reads more at once, and no tablet draws them. */
export const MOST_DRAWN = 240;

/** Lots of a kind that stay apart in a column of a folded way. */
const APART = 8;

export interface Folded {
  readonly nodes: Node[];
  readonly flows: Flow[];
  readonly links: Link[];
  /** By the lot that stands for them: what is folded there. */ readonly folds: ReadonlyMap<string, readonly Node[]>;
}

/**
 * A large way, folded: of each kind in a column the lots that matter most stay apart (held, live, then the heaviest),
 * the others become one that says how many they are. Nothing is left out: masses, jars and bands add up.
 */
export function foldWay(
  nodes: readonly Node[],
  flows: readonly Flow[],
  subject: string,
  links: readonly Link[] = [],
): Folded {
  if (nodes.length <= MOST_DRAWN) return { nodes: [...nodes], flows: [...flows], links: [...links], folds: new Map() };
  const groups = new Map<string, Node[]>();
  for (const node of nodes) {
    const key = node.lotId === subject ? node.lotId : `${node.column} ${node.kind} ${node.forward} ${node.carriedOver}`;
    const group = groups.get(key);
    if (group) group.push(node);
    else groups.set(key, [node]);
  }
  const folds = new Map<string, Node[]>();
  const standsFor = new Map<string, string>();
  const shown: Node[] = [];
  for (const group of groups.values()) {
    group.sort(
      (a, b) =>
        Number(b.hold !== null) - Number(a.hold !== null) ||
        Number(a.closed) - Number(b.closed) ||
        b.grams - a.grams ||
        (a.code < b.code ? -1 : 1),
    );
    const rest = group.slice(APART);
    shown.push(...group.slice(0, rest.length > 1 ? APART : APART + 1));
    if (rest.length <= 1) continue;
    const head = rest[0]!;
    folds.set(head.lotId, rest);
    rest.forEach(({ lotId }) => standsFor.set(lotId, head.lotId));
    shown.push(together(head, rest));
  }
  const sums = new Map<string, Flow>();
  for (const flow of flows) {
    const [from, to] = [standsFor.get(flow.from) ?? flow.from, standsFor.get(flow.to) ?? flow.to];
    if (from === to) continue;
    const key = `${from} ${to}`;
    const before = sums.get(key);
    sums.set(key, {
      from,
      to,
      grams: (before?.grams ?? 0) + flow.grams,
      at: before && before.at < flow.at ? before.at : flow.at,
    });
  }
  const drawn = links.map((link) => ({
    ...link,
    from: standsFor.get(link.from) ?? link.from,
    to: standsFor.get(link.to) ?? link.to,
  }));
  return { nodes: shown, flows: [...sums.values()], links: drawn.filter(({ from, to }) => from !== to), folds };
}

const sum = (nodes: readonly Node[], of: (node: Node) => number | null): number =>
  nodes.reduce((total, node) => total + (of(node) ?? 0), 0);

function together(head: Node, all: readonly Node[]): Node {
  const held = all.filter(({ hold }) => hold !== null).length;
  return {
    ...head,
    supplier: null,
    supplierLotCode: null,
    detail: null,
    grams: sum(all, ({ grams }) => grams),
    onHandGrams: sum(all, ({ onHandGrams }) => onHandGrams),
    reachedAt: all.reduce<string | null>(
      (first, { reachedAt }) => (first === null || (reachedAt !== null && reachedAt < first) ? reachedAt : first),
      null,
    ),
    closed: all.every(({ closed }) => closed),
    jars: all.some(({ jars }) => jars !== null) ? sum(all, ({ jars }) => jars) : null,
    hold: held > 0 ? `${held} of them` : null,
    folded: all.length,
  };
}

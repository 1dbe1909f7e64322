import type { TraceReply } from '@clear-tally/contract';

export interface PlacedNode {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly height: number;
  readonly node: TraceReply['nodes'][number];
}
export interface PlacedFlow {
  readonly key: string;
  readonly path: string;
  readonly width: number;
  readonly grams: number;
  readonly from: string;
  readonly to: string;
  /** Its first movement. */
  readonly at: string;
}
/** Two stays in a vessel that nobody cleaned in between. */
export interface PlacedLink {
  readonly key: string;
  readonly path: string;
  readonly x: number;
  readonly y: number;
  readonly vesselTag: string;
}
export interface Way {
  readonly nodes: readonly PlacedNode[];
  readonly flows: readonly PlacedFlow[];
  readonly links: readonly PlacedLink[];
  readonly width: number;
  readonly height: number;
  readonly labelWidth: number;
}

const ROW = 52;
const BAR = 12;
const THINNEST = 2;
/** A name in two lines and a code find room in it. */
const LEAST_STEP = 158;
/** Of the last column: its code and mass stand in one line. */
const LAST_STEP = 228;

/**
 * Places the lots of a way in columns, in the order of work, and its flows as bands whose width follows the
 * mass. A lot's bands leave and arrive stacked on its bar, in the order of the lots at their other end.
 */
export function layWay(
  reply: Pick<TraceReply, 'nodes' | 'flows'> & { readonly links?: TraceReply['links'] },
  width: number,
): Way {
  const columns = Math.max(0, ...reply.nodes.map((node) => node.column)) + 1;
  const perColumn = Array.from({ length: columns }, (_, column) =>
    reply.nodes
      .filter((node) => node.column === column)
      .sort((a, b) => b.grams - a.grams || a.code.localeCompare(b.code)),
  );
  const most = Math.max(1, ...perColumn.map((column) => column.length));
  const largest = Math.max(1, ...reply.nodes.map((node) => node.grams));
  const height = Math.max(most * ROW, 150) + 10;
  const step = columns > 1 ? Math.max(LEAST_STEP, (width - LAST_STEP) / (columns - 1)) : width;
  const thick = (grams: number): number => Math.max(THINNEST, (grams / largest) * (ROW - 16));
  const placed = new Map<string, PlacedNode>();
  perColumn.forEach((column, index) => {
    // Few lots in a column stand spread over the height, so that the bands run level.
    const gap = height / (column.length + 1);
    const pitch = Math.max(ROW, Math.min(gap, ROW * 2));
    const top = height / 2 - ((column.length - 1) * pitch) / 2;
    column.forEach((node, row) =>
      placed.set(node.lotId, {
        id: node.lotId,
        x: index * step + 4,
        y: top + row * pitch,
        height: Math.max(6, thick(node.grams)),
        node,
      }),
    );
  });
  const byPlace =
    (end: 'from' | 'to') =>
    (a: TraceReply['flows'][number], b: TraceReply['flows'][number]): number =>
      (placed.get(a[end])?.y ?? 0) - (placed.get(b[end])?.y ?? 0);
  const leave = offsets(reply.flows, 'from', byPlace('to'), thick);
  const arrive = offsets(reply.flows, 'to', byPlace('from'), thick);
  const flows = reply.flows.flatMap((flow): PlacedFlow[] => {
    const [from, to] = [placed.get(flow.from), placed.get(flow.to)];
    if (!from || !to) return [];
    const [x1, y1] = [from.x + BAR, from.y + leave.get(flow)!];
    const [x2, y2] = [to.x, to.y + arrive.get(flow)!];
    const bend = Math.max(40, Math.abs(x2 - x1) * 0.5);
    return [
      {
        key: `${flow.from}-${flow.to}`,
        path: `M${x1} ${y1}C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2} ${y2}`,
        width: thick(flow.grams),
        grams: flow.grams,
        from: flow.from,
        to: flow.to,
        at: flow.at,
      },
    ];
  });
  const links = (reply.links ?? []).flatMap((link): PlacedLink[] => {
    const [from, to] = [placed.get(link.from), placed.get(link.to)];
    if (!from || !to) return [];
    const [x1, y1, x2, y2] = [from.x + BAR / 2, from.y + from.height / 2, to.x + BAR / 2, to.y - to.height / 2];
    return [
      {
        key: `${link.from}-${link.to}`,
        path: `M${x1} ${y1}C${x1} ${y1 + 34} ${x2} ${y2 - 34} ${x2} ${y2}`,
        x: (x1 + x2) / 2,
        y: (y1 + y2) / 2,
        vesselTag: link.vesselTag,
      },
    ];
  });
  return {
    nodes: [...placed.values()],
    flows,
    links,
    width: Math.max(width, columns > 1 ? (columns - 1) * step + LAST_STEP : step),
    height,
    labelWidth: step - BAR - 20,
  };
}

/** Where each band sits on the bar of one of its ends, from the middle of the bar. */
function offsets(
  flows: TraceReply['flows'],
  end: 'from' | 'to',
  order: (a: TraceReply['flows'][number], b: TraceReply['flows'][number]) => number,
  thick: (grams: number) => number,
): Map<TraceReply['flows'][number], number> {
  const result = new Map<TraceReply['flows'][number], number>();
  for (const lot of new Set(flows.map((flow) => flow[end]))) {
    const bands = flows.filter((flow) => flow[end] === lot).sort(order);
    const whole = bands.reduce((sum, flow) => sum + thick(flow.grams), 0);
    let at = -whole / 2;
    for (const flow of bands) {
      result.set(flow, at + thick(flow.grams) / 2);
      at += thick(flow.grams);
    }
  }
  return result;
}

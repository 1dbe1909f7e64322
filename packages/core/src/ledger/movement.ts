/** How things leave without being lost, and nothing anybody writes as a loss: jars out of the house, lids onto jars. */
export const GOINGS = ['sold', 'given', 'staff', 'packed'] as const;
export type Going = (typeof GOINGS)[number];

/** Where mass is lost. Source: handbook 5.1, 7. */
export const LOSSES = [
  'trim',
  'drip',
  'gas',
  'spoiled',
  'sample',
  'retained',
  'overflow',
  'evaporation',
  'rinse',
  'spill',
  'residue',
  'leftover',
  'thrownOut',
  'returned',
  'broken',
  'countDifference',
] as const;

export type Loss = (typeof LOSSES)[number];

/** Where mass can leave the ledger. */
export const SINKS = [...LOSSES, ...GOINGS] as const;
export type Sink = (typeof SINKS)[number];

/** Where mass can enter it. */
export const SOURCES = ['received', 'opening', 'countDifference', 'jarsBack'] as const;
export type Source = (typeof SOURCES)[number];

/**
 * A quantity that goes from a lot or a source to a lot or a sink at a moment. `order` settles ties of the
 * same moment (the journal's sequence).
 */
export interface Movement {
  readonly id: number;
  readonly order: number;
  /** Milliseconds since 1970, UTC. */
  readonly at: number;
  readonly from: { readonly lot: string } | { readonly source: Source };
  readonly to: { readonly lot: string } | { readonly sink: Sink };
  readonly grams: number;
  /** The loss was not weighed but taken as what is missing. */
  readonly byDifference?: boolean;
}

export const fromLot = (movement: Movement): string | null => ('lot' in movement.from ? movement.from.lot : null);
export const toLot = (movement: Movement): string | null => ('lot' in movement.to ? movement.to.lot : null);

/** Earlier first; of one moment, the one recorded first. */
export const inTime = (a: Movement, b: Movement): number => a.at - b.at || a.order - b.order;

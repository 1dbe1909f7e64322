import { fisher } from './fisher.js';

/** What packing runs may have in common. */
export const CAUSE_KINDS = [
  'supply',
  'preparation',
  'batch',
  'fill',
  'vessel',
  'room',
  'person',
  'filledOn',
  'packedOn',
  'meter',
  'closure',
  'label',
] as const;
export type CauseKind = (typeof CAUSE_KINDS)[number];
export const CAUSE_WORDS: Readonly<Record<CauseKind, string>> = {
  supply: 'Supply lot',
  preparation: 'Preparation',
  batch: 'Batch',
  fill: 'Vessel fill',
  vessel: 'Vessel',
  room: 'Room',
  person: 'Person at work on it',
  filledOn: 'Filled on',
  packedOn: 'Packed on',
  meter: 'Meter',
  closure: 'Jars or lids, lot',
  label: 'Labels, lot',
};

/** One thing a run has: its kind, its id or day, and what it is called. */
export interface Trait {
  readonly kind: CauseKind;
  readonly key: string;
  readonly words: string;
}

export interface Cause {
  /** Things that the same runs have, so that nothing tells them apart. */
  readonly traits: readonly Trait[];
  readonly badWith: number;
  readonly bad: number;
  readonly goodWith: number;
  readonly good: number;
  /** By chance alone, one-sided. */
  readonly p: number;
  readonly says: 'hardlyChance' | 'unusual' | 'mayBeChance';
}

export const CAUSE_SAYS: Readonly<Record<Cause['says'], string>> = {
  hardlyChance: 'hardly by chance',
  unusual: 'unusual',
  mayBeChance: 'may well be chance',
};

const says = (p: number): Cause['says'] => (p < 0.01 ? 'hardlyChance' : p < 0.05 ? 'unusual' : 'mayBeChance');

/**
 * What bad runs share that is rare among good ones, the most telling first. A run counts once, however many of its jars
 * are bad: jars of one run share everything. Things that exactly the same runs have stand together, because counting
 * cannot tell them apart. Source: handbook 5.3 (3).
 */
export function sharedCause(bad: readonly (readonly Trait[])[], good: readonly (readonly Trait[])[]): Cause[] {
  const having = new Map<string, { trait: Trait; bad: Set<number>; good: Set<number> }>();
  const note = (runs: readonly (readonly Trait[])[], side: 'bad' | 'good'): void =>
    runs.forEach((traits, run) =>
      traits.forEach((trait) => {
        const key = `${trait.kind} ${trait.key}`;
        const found = having.get(key) ?? { trait, bad: new Set(), good: new Set() };
        found[side].add(run);
        having.set(key, found);
      }),
    );
  note(bad, 'bad');
  note(good, 'good');
  const patterns = new Map<string, { traits: Trait[]; badWith: number; goodWith: number }>();
  for (const { trait, bad: badRuns, good: goodRuns } of having.values()) {
    // Shared is what two have; of one bad run everything is "shared".
    if (badRuns.size < Math.min(2, bad.length)) continue;
    const pattern = `${[...badRuns].join()} ${[...goodRuns].join()}`;
    const found = patterns.get(pattern) ?? { traits: [], badWith: badRuns.size, goodWith: goodRuns.size };
    found.traits.push(trait);
    patterns.set(pattern, found);
  }
  return [...patterns.values()]
    .map(({ traits, badWith, goodWith }): Cause => {
      const p = fisher({ badWith, bad: bad.length, goodWith, good: good.length });
      const inOrder = traits.sort((a, b) => CAUSE_KINDS.indexOf(a.kind) - CAUSE_KINDS.indexOf(b.kind));
      return { traits: inOrder, badWith, bad: bad.length, goodWith, good: good.length, p, says: says(p) };
    })
    .sort((a, b) => a.p - b.p || b.badWith - a.badWith || a.goodWith - b.goodWith);
}

const DAY = 86_400_000;

/** Live jars that stand cool keep no longer than this, whatever their label gives cold ones. Source: handbook 4.3. */
export const COOL_LIFE_DAYS = 28;

/**
 * Days from packing that a jar is given by its label, by where it is kept; null where none are printed.
 * @example givenDays({ labelDays: 240, storage: 'cellar', heated: false }) //=> 28
 */
export const givenDays = (of: {
  readonly labelDays: number | null;
  readonly storage: 'cold' | 'cellar' | 'ambient' | null;
  readonly heated: boolean;
}): number | null =>
  of.labelDays !== null && of.storage === 'cellar' && !of.heated
    ? Math.min(of.labelDays, COOL_LIFE_DAYS)
    : of.labelDays;

/** A retained jar tasted, of this run or of another run of its formula. */
export interface Tasting {
  readonly run: string;
  readonly packedAt: number;
  readonly at: number;
  readonly fine: boolean;
}

export interface ShelfEvidence {
  /** Days after packing on which a jar was still as it should be, and none was not before; null: nobody has tasted one. */
  readonly days: number | null;
  /** The run it was seen on. */
  readonly run: string | null;
  /** The first day on which one was not as it should be. */
  readonly against: { readonly days: number; readonly run: string } | null;
  /** `supported`: to the last day the label gives; `short`: not as far; `against`: something speaks against it. */
  readonly says: 'supported' | 'short' | 'against' | 'none';
}

/**
 * What retained jars say of a shelf life: as far as the farthest jar that was still as it should be, and never beyond
 * the first that was not. Source: handbook 4.5.
 */
export function shelfEvidence(input: {
  readonly tastings: readonly Tasting[];
  /** Days from packing the label gives; null where none is printed. */
  readonly labelDays: number | null;
}): ShelfEvidence {
  const dayOf = ({ packedAt, at }: Tasting): number => Math.floor((at - packedAt) / DAY);
  const bad = input.tastings.filter(({ fine }) => !fine).map((one) => ({ days: dayOf(one), run: one.run }));
  const against = bad.sort((a, b) => a.days - b.days)[0] ?? null;
  const good = input.tastings
    .filter(({ fine }) => fine)
    .map((one) => ({ days: dayOf(one), run: one.run }))
    .filter(({ days }) => against === null || days < against.days)
    .sort((a, b) => b.days - a.days)[0];
  const { labelDays } = input;
  const days = good?.days ?? null;
  const says =
    against !== null && (labelDays === null || against.days <= labelDays)
      ? 'against'
      : days === null
        ? 'none'
        : labelDays !== null && days >= labelDays
          ? 'supported'
          : 'short';
  return { days, run: good?.run ?? null, against, says };
}

import type { SaltBasis } from '../salt/bases.js';

/** What a formula of a kind begins with, until a house says otherwise: usual values, in the middle of the trade's range. */
export const BEGINNINGS = {
  shred: {
    words: 'in its own juice',
    style: 'dryShred',
    form: 'shred',
    saltBasis: 'ofVegetable',
    saltFraction: 0.022,
    waterPerProduce: 0,
    solidsFraction: 1,
    usualDays: 28,
    firstTaste: 14,
  },
  brine: {
    words: 'in brine',
    style: 'brinedWhole',
    form: 'wholeSmall',
    saltBasis: 'ofEverything',
    saltFraction: 0.026,
    waterPerProduce: 0.7,
    solidsFraction: 0.58,
    usualDays: 21,
    firstTaste: 7,
  },
  mash: {
    words: 'mash',
    style: 'brinedMash',
    form: 'mash',
    saltBasis: 'ofEverything',
    saltFraction: 0.03,
    waterPerProduce: 0.12,
    solidsFraction: 1,
    usualDays: 30,
    firstTaste: 14,
  },
} as const satisfies Record<string, { readonly saltBasis: SaltBasis } & Record<string, string | number>>;

export type Beginning = keyof typeof BEGINNINGS;

export const BEGINNING_KEYS = Object.keys(BEGINNINGS) as Beginning[];

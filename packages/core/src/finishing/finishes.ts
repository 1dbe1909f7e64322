import type { CheckItem } from '../making/checklists.js';
import type { Caution } from '../making/cautions.js';

/** What is done with a ferment before it is packed, each on a sheet of its own. Source: handbook 1.1 (11), 4.1, 4.2, 7. */
export const FINISHES = ['repack', 'sauce', 'fruit', 'drying', 'infusion'] as const;
export type Finish = (typeof FINISHES)[number];

export const FINISH_WORDS: Readonly<Record<Finish, string>> = {
  repack: 'Drained and repacked',
  sauce: 'Sauce',
  fruit: 'Bag opened: fruit and juice',
  drying: 'Dried',
  infusion: 'Infused in syrup or honey',
};

/** What goes into a finish. A word for a person; what a thing really is stands at its material. */
export const FINISH_PARTS = ['brine', 'vinegar', 'thickener', 'sweet', 'spice', 'water', 'salt'] as const;
export type FinishPart = (typeof FINISH_PARTS)[number];

export const FINISH_PART_WORDS: Readonly<Record<FinishPart, string>> = {
  brine: 'Brine',
  vinegar: 'Vinegar',
  thickener: 'Thickener',
  sweet: 'Sugar, honey or fruit',
  spice: 'Spice or other flavouring',
  water: 'Water',
  salt: 'Salt',
};

/** Where on the sheet work stands; the page shows what belongs there. */
export const FINISH_STATIONS = [
  'drain',
  'brine',
  'pour',
  'juice',
  'blend',
  'vinegar',
  'season',
  'thicken',
  'syrup',
  'dry',
  'read',
  'balance',
] as const;
export type FinishStation = (typeof FINISH_STATIONS)[number];

export interface FinishStep {
  /** The station: each stands once on a sheet. */
  readonly key: FinishStation;
  readonly name: string;
  readonly words: readonly string[];
  /** A rest or a soak runs against a timer. */
  readonly minutes: number | null;
  readonly irreversible: boolean;
  readonly checks: readonly CheckItem[];
  readonly cautions: readonly Caution[];
}

const check = (key: string, words: string): CheckItem => ({ key, words });
const caution = (words: string, wear = false): Caution => ({ words, wear });

const CLEAN = check('clean', 'Bowl, sieve and blades are clean, and nothing of the product before is left on them');

const STEPS: Readonly<Record<FinishStation, Omit<FinishStep, 'key'>>> = {
  drain: {
    name: 'Drain and weigh',
    words: ['Let it drip until it no longer runs. What was weighed is the figure everything else follows.'],
    minutes: null,
    irreversible: false,
    checks: [CLEAN, check('weights', 'As many weights came out as went in, none of them chipped')],
    cautions: [],
  },
  brine: {
    name: 'Make the brine ready',
    words: [
      'Own brine as it is, strained and boiled, or fresh: weigh it, and let it cool before it meets the product.',
    ],
    minutes: null,
    irreversible: false,
    checks: [check('cool', 'Cooled to 30 °C or lower')],
    cautions: [caution('Boiling brine spits and scalds.', true)],
  },
  pour: {
    name: 'Pour it on',
    words: ['What the salt and the acid come to stands beside it before it is poured.'],
    minutes: null,
    irreversible: true,
    checks: [],
    cautions: [],
  },
  juice: {
    name: 'Fruit and juice apart',
    words: ['Weigh both. The juice is a lot of its own, with all that is known of the bag.'],
    minutes: null,
    irreversible: false,
    checks: [check('bag', 'The bag was tight, and no piece of it is in the fruit')],
    cautions: [caution('A bag may stand under pressure: open it over a bowl, away from the face.', true)],
  },
  blend: {
    name: 'Blend, with brine back in steps',
    words: ['Blend in loads the jug holds. Give the brine back a quarter at a time, and stop when it is right.'],
    minutes: null,
    irreversible: true,
    checks: [CLEAN, check('blade', 'Blade and seal are whole before and after')],
    cautions: [
      caution('Very hot chilli: gloves, glasses, a window open; never rub an eye.', true),
      caution('Nothing hot in a closed blender: steam lifts its lid.'),
    ],
  },
  vinegar: {
    name: 'Vinegar',
    words: ['By weight of what is in the bowl. What it does to the pH is an estimate until it is read.'],
    minutes: null,
    irreversible: true,
    checks: [],
    cautions: [],
  },
  season: {
    name: 'Spices, sugar, fruit',
    words: ['What is new here stands on the label. Sugar or fruit starts it again.'],
    minutes: null,
    irreversible: true,
    checks: [],
    cautions: [],
  },
  thicken: {
    name: 'Thicken, sieve',
    words: ['Dust the thickener in while the blade turns; it swells for some minutes. Weigh what sieve and jug keep.'],
    minutes: 10,
    irreversible: true,
    checks: [],
    cautions: [],
  },
  syrup: {
    name: 'Cover with syrup or honey',
    words: ['Weigh it in. It draws water out of the pieces for days, and thins.'],
    minutes: null,
    irreversible: true,
    checks: [check('covered', 'Every piece lies below it')],
    cautions: [
      caution('Sugar starts it again: cold, or heated to a process. It gasses in a closed jar.'),
      caution('Honey is not for children under one year: the label says so.'),
    ],
  },
  dry: {
    name: 'Dry and weigh',
    words: ['Temperature, hours, and the mass when it comes out. Without a water activity it stays cold.'],
    minutes: null,
    irreversible: true,
    checks: [check('single', 'In one layer, air on both sides')],
    cautions: [],
  },
  read: {
    name: 'Read the finished pH',
    words: [
      'Blended and rested, with a meter fit for release. What was read before something went in is of another thing.',
    ],
    minutes: null,
    irreversible: false,
    checks: [],
    cautions: [],
  },
  balance: {
    name: 'Count the bottles before the first',
    words: ['What comes out, in how many, what is left. Set out what is missing before you fill.'],
    minutes: null,
    irreversible: false,
    checks: [check('dry', 'Bottles and lids clean, whole and dry')],
    cautions: [],
  },
};

const SHEETS: Readonly<Record<Finish, readonly FinishStation[]>> = {
  repack: ['drain', 'brine', 'pour', 'season', 'balance'],
  sauce: ['drain', 'blend', 'vinegar', 'season', 'thicken', 'read', 'balance'],
  fruit: ['juice', 'season', 'read', 'balance'],
  drying: ['drain', 'dry', 'balance'],
  infusion: ['drain', 'syrup', 'season', 'read', 'balance'],
};

/**
 * The steps of a finish in the order of work.
 * @example finishSheet('drying').map(({ key }) => key) //=> ['drain', 'dry', 'balance']
 */
export const finishSheet = (finish: Finish): FinishStep[] => SHEETS[finish].map((key) => ({ key, ...STEPS[key] }));

import { accept, refuse, type Outcome } from '../refusal.js';

/** One way of answering a question of the house. */
export interface RuleOption {
  readonly key: string;
  readonly words: string;
  /** What the riskier way asks in exchange; null when it asks nothing. */
  readonly asks: string | null;
}

export interface HouseRule {
  readonly key: string;
  readonly question: string;
  readonly options: readonly RuleOption[];
  /** The option before anybody has chosen: the more careful one. */
  readonly usual: string;
  /** Whether a formula may differ from the house. */
  readonly byFormula: boolean;
  /** Of the house at any moment, never of a batch: what a batch was started under does not name it. */
  readonly ofHouseOnly?: true;
  /** A figure of the house's own may stand in place of the options. */
  readonly figure?: { readonly least: number; readonly most: number };
}

const option = (key: string, words: string, asks: string | null = null): RuleOption => ({ key, words, asks });

/** Every question on which schools differ. Source: handbook 1.3, 2.1, 3.3, 6. */
export const HOUSE_RULES: readonly HouseRule[] = [
  {
    key: 'wash',
    question: 'Is produce washed?',
    usual: 'rinse',
    byFormula: true,
    options: [
      option('rinse', 'Rinsed in cold water'),
      option(
        'none',
        'Not washed, the wild microbes are wanted',
        'Produce from a grower who is known, free of soil and sprays; inspected leaf by leaf.',
      ),
    ],
  },
  {
    key: 'sanitise',
    question: 'How are vessels and tools cleaned?',
    usual: 'sanitise',
    byFormula: false,
    options: [
      option('sanitise', 'Washed, then sanitised with its contact time'),
      option(
        'soap',
        'Hot soapy water and rinsing is enough',
        'Hot washing is not sterilising: smooth, whole surfaces only, dried upside down, checked by eye before each fill.',
      ),
    ],
  },
  {
    key: 'core',
    question: 'What happens to cores and outer leaves?',
    usual: 'out',
    byFormula: true,
    options: [
      option('out', 'Out, and weighed as trim waste'),
      option('in', 'Cores are cut in', 'Cut as fine as the rest, or they stay behind the leaf.'),
    ],
  },
  {
    key: 'rinse',
    question: 'How far is heavy salt rinsed?',
    usual: 'measured',
    byFormula: true,
    options: [
      option('measured', 'Until a measured salt on the drained juice'),
      option(
        'taste',
        'To taste, against two reference brines',
        'Two people taste, and the reference brines are mixed fresh by weight.',
      ),
      option('count', 'A fixed number of rinses', 'The estimate carries a wide band: pH on days 1, 2 and 3.'),
    ],
  },
  {
    key: 'juice',
    question: 'How is juice drawn out of shred?',
    usual: 'rub',
    byFormula: true,
    options: [
      option('rub', 'Rubbed, rested, pressed'),
      option('pound', 'Pounded'),
      option(
        'rest',
        'Salted and left to rest only',
        'If its own juice does not cover it after the rest, brine of the same strength is added.',
      ),
    ],
  },
  {
    key: 'addedLiquid',
    question: 'What is added when liquid is short?',
    usual: 'brine',
    byFormula: true,
    options: [
      option('brine', 'Brine of the same water-phase strength'),
      option(
        'water',
        'Plain water',
        'It thins the salt: the new water-phase salt is shown and has to stay in its band.',
      ),
    ],
  },
  {
    key: 'weight',
    question: 'What keeps produce under its brine?',
    usual: 'weight',
    byFormula: true,
    options: [
      option('weight', 'Glass or ceramic weights, counted in and out'),
      option('bag', 'A bag filled with brine', 'Food-grade bag, brine of the same strength inside, in case it leaks.'),
      option('leaf', 'A cover leaf, wedged', 'Looked at every day for the first week.'),
    ],
  },
  {
    key: 'lid',
    question: 'How is a live vessel closed?',
    usual: 'airlock',
    byFormula: true,
    options: [
      option('airlock', 'Airlock or valve'),
      option('loose', 'Loose lid or cloth', 'Surface looked at every day; film is dealt with at once.'),
      option(
        'sealed',
        'Sealed, and burped by the plan',
        'Never without venting: the burp interval is on the round, and eye protection is worn.',
      ),
    ],
  },
  {
    key: 'headspace',
    question: 'How much headspace is left?',
    usual: 'house',
    byFormula: true,
    options: [
      option('house', 'By the window of the vessel'),
      option(
        'tight',
        'Filled to the brim under an airlock',
        'A tray under it, level checked after 24 hours; salt lost with the overflow is put back.',
      ),
    ],
  },
  {
    key: 'light',
    question: 'Where do vessels stand?',
    usual: 'dark',
    byFormula: false,
    options: [
      option('dark', 'In the dark'),
      option('light', 'In daylight', 'Not in the sun: the temperature swings, and colours fade.'),
    ],
  },
  {
    key: 'floaters',
    question: 'What happens to floaters?',
    usual: 'out',
    byFormula: true,
    options: [
      option('out', 'Taken out and weighed'),
      option('down', 'Pushed back down', 'Every day, with a clean tool, for the first week.'),
    ],
  },
  {
    key: 'film',
    question: 'What happens to white film?',
    usual: 'reject',
    byFormula: false,
    options: [
      option('reject', 'Held, and decided by the reviewer'),
      option(
        'skim',
        'Skimmed, and the batch goes on',
        'Only flat white film with a steady pH at or under the limit; re-checked within three days. Anything raised, coloured or hairy is thrown out.',
      ),
    ],
  },
  {
    key: 'brine',
    question: 'What happens to the brine at packing?',
    usual: 'own',
    byFormula: true,
    options: [
      option('own', 'Its own brine goes back'),
      option(
        'boiled',
        'Its own brine, boiled and cooled',
        'Evaporation raises the salt, and the live culture is gone.',
      ),
      option(
        'fresh',
        'Fresh brine',
        'Salt and acid are thinned: pH of the blended product after 24 hours, before release.',
      ),
    ],
  },
  {
    key: 'vinegar',
    question: 'Is vinegar added at the start?',
    usual: 'none',
    byFormula: true,
    options: [
      option('none', 'No'),
      option(
        'splash',
        'A little, to lower the starting pH',
        'It never stands in for souring: deadlines stay as they are.',
      ),
    ],
  },
  {
    key: 'starter',
    question: 'How does a batch start?',
    usual: 'wild',
    byFormula: true,
    options: [
      option('wild', 'Wild'),
      option(
        'kept',
        'With kept brine',
        'The donor is not on hold, and at or under its limit; its allergens come along.',
      ),
      option(
        'culture',
        'With a bought culture',
        'Dose, sachet and wake-up water are recorded: the water thins the salt.',
      ),
    ],
  },
  {
    key: 'heat',
    question: 'Is the product heated?',
    usual: 'alive',
    byFormula: true,
    options: [
      option('alive', 'Kept alive and cold'),
      option('heat', 'Heated, to stand warm', 'A scheduled process from a process authority, on file.'),
    ],
  },
  {
    key: 'storage',
    question: 'Where is the finished product kept?',
    usual: 'cold',
    byFormula: true,
    options: [
      option('cold', 'Cold, 0 to 5 °C'),
      option(
        'cellar',
        'Cool and live, a cellar of 16 °C at most',
        'A short life of its own, one jar opened every two weeks, and “keep cool, live” on its label.',
      ),
      option('ambient', 'Ambient', 'Only heated, to a scheduled process on file.'),
    ],
  },
  {
    key: 'acidLimit',
    question: 'What pH must a lot reach?',
    usual: '4.2',
    byFormula: false,
    figure: { least: 2.5, most: 4.6 },
    options: [
      option('3.8', '3.8 or lower'),
      option('4.0', '4.0 or lower'),
      option('4.2', '4.2 or lower'),
      option(
        '4.6',
        '4.6 or lower',
        '4.6 is the boundary itself: no margin is left for the meter. Two readings with a meter fit for release.',
      ),
    ],
  },
  {
    key: 'secondPerson',
    question: 'Does a second person confirm the salt?',
    usual: 'yes',
    byFormula: true,
    options: [
      option('yes', 'Yes'),
      option('no', 'No', 'The scale’s own record and the way back at the bench have to do.'),
    ],
  },
  {
    key: 'release',
    question: 'Who releases what was packed?',
    usual: 'second',
    byFormula: false,
    ofHouseOnly: true,
    options: [
      option('second', 'A reviewer who did not pack it'),
      option(
        'night',
        'Who packed it, from the next day on',
        'For a house of one. Sleep over it: the release is marked as reviewed by who packed it.',
      ),
    ],
  },
  {
    key: 'measures',
    question: 'Whose spoons, cups and quarts are meant?',
    usual: 'ask',
    byFormula: true,
    options: [
      option('ask', 'Ask each time'),
      option('us', 'US'),
      option('metric', 'Metric'),
      option('imperial', 'Imperial'),
      option('australian', 'Australian'),
    ],
  },
];

/** An answer of a question: one of its options, or a figure within its range, such as a limit of 4.1. */
export function ruleOption(rule: HouseRule, key: string | undefined): RuleOption | undefined {
  const listed = rule.options.find((one) => one.key === key);
  if (listed || !rule.figure || key === undefined || !/^\d(\.\d{1,2})?$/.test(key)) return listed;
  const value = Number(key);
  const next = rule.options.find((one) => Number(one.key) >= value);
  return value >= rule.figure.least && value <= rule.figure.most
    ? { key, words: `${key} or lower`, asks: value > 4.4 ? (next?.asks ?? null) : null }
    : undefined;
}

/** The choice in force for a question: the formula's where it may differ, else the house's, else the usual one. */
export function ruleInForce(
  rule: HouseRule,
  chosen: Readonly<Record<string, string>>,
  byFormula: Readonly<Record<string, string>> = {},
): { option: RuleOption; from: 'formula' | 'house' | 'usual' } {
  const find = (key: string | undefined): RuleOption | undefined => ruleOption(rule, key);
  const own = rule.byFormula ? find(byFormula[rule.key]) : undefined;
  if (own) return { option: own, from: 'formula' };
  const house = find(chosen[rule.key]);
  return house ? { option: house, from: 'house' } : { option: find(rule.usual)!, from: 'usual' };
}

/** All choices in force, as a batch keeps them. */
export const rulesInForce = (
  chosen: Readonly<Record<string, string>>,
  byFormula: Readonly<Record<string, string>> = {},
): Record<string, string> =>
  Object.fromEntries(
    HOUSE_RULES.filter(({ ofHouseOnly }) => !ofHouseOnly).map((rule) => [
      rule.key,
      ruleInForce(rule, chosen, byFormula).option.key,
    ]),
  );

/** Answers that do not go together: nothing stands warm that was not heated. Source: handbook 4.3, 6. */
export function decideTogether(rules: Readonly<Record<string, string>>): Outcome<void> {
  if (rules['storage'] === 'ambient' && (rules['heat'] ?? 'alive') !== 'heat') {
    return refuse(
      'rule.notTogether',
      'Ambient storage was given for what is kept alive. Only what is heated, to a scheduled process on file, stands warm: answer the question on heat first, or keep it cold.',
      { field: 'option' },
    );
  }
  return accept(undefined);
}

/**
 * Where a run is kept: warm only what was heated to a scheduled process that is on file. pH alone never makes a jar
 * keep at room temperature. Source: handbook 4.3, 6.
 */
export function decideStorage(input: {
  readonly storage: 'cold' | 'cellar' | 'ambient';
  readonly processOnFile: boolean;
  /** What was put in after fermentation and feeds it again. */
  readonly restarts: readonly string[];
  /** Dried, and its water activity was not measured. */
  readonly driedUnmeasured: readonly string[];
  /** A rule of the house, or of the formula, lets live jars stand cool. */
  readonly coolAllowed: boolean;
}): Outcome<void> {
  const { storage, restarts, driedUnmeasured } = input;
  if (storage !== 'cold' && storage !== 'cellar' && storage !== 'ambient')
    throw new RangeError(`“${String(storage)}” is no way of keeping jars`);
  if (input.storage === 'cellar' && restarts.length > 0) {
    return refuse(
      'finish.restarts',
      `Cool was given, and ${restarts.join(' and ')} went in after fermentation: it starts again and gasses in a closed jar. Keep it cold and open one on its days, or heat it to a process on file.`,
      { field: 'storage', facts: { restarts } },
    );
  }
  if (input.storage !== 'cold' && driedUnmeasured.length > 0) {
    return refuse(
      'finish.notMeasured',
      `${driedUnmeasured.join(' and ')} was dried, and its water activity was not measured: nobody knows what grows in it. Keep it cold, or have it measured.`,
      { field: 'storage', facts: { driedUnmeasured } },
    );
  }
  if (storage === 'cellar' && input.coolAllowed !== true)
    return refuse(
      'pack.cool',
      'Cool was given, and no rule of this house lets live jars stand outside the cold. Keep it cold; or an owner says under “House rules”, for this formula or for all, that it is kept cool: it then has a short life of its own, and a jar is opened every two weeks.',
      { field: 'storage' },
    );
  if (input.storage === 'ambient' && !input.processOnFile) {
    return refuse(
      'pack.ambient',
      'Ambient was given, and no scheduled process is on file for this run: a pH at or under the limit alone does not make a jar keep at room temperature. Keep it cold.',
      { field: 'storage' },
    );
  }
  return accept(undefined);
}

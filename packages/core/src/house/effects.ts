import type { Check } from '../formula/index.js';
import type { Station } from '../making/stations.js';
import type { NATIONALITIES } from '../units/measures.js';
import { HOUSE_RULES, ruleInForce } from './rules.js';

/** What is poured over what stands in jars, and where jars are kept. */
export const BRINES_AT_PACKING = ['own', 'boiled', 'fresh'] as const;
export const STORAGES = ['cold', 'cellar', 'ambient'] as const;
export const BRINE_AT_PACKING_WORDS: Record<(typeof BRINES_AT_PACKING)[number], string> = {
  own: 'Its own brine',
  boiled: 'Its own, boiled',
  fresh: 'Fresh brine',
};
export const STORAGE_WORDS: Record<(typeof STORAGES)[number], string> = {
  cold: '0 to 5 °C',
  cellar: 'Cool, 16 °C at most',
  ambient: 'Ambient',
};

type Nationality = (typeof NATIONALITIES)[number];

/** Something looked at before a step goes on. */
export interface HouseCheckItem {
  readonly key: string;
  readonly words: string;
}

/** What the answers of a house make of its work: each page and rule reads them here. Source: handbook 1.3. */
export interface RuleEffects {
  /** What is looked at, station by station, beside what the trade always looks at. */
  readonly checklist: Readonly<Partial<Record<Station, readonly HouseCheckItem[]>>>;
  /** What a riskier way asks on the round in exchange. */
  readonly checks: readonly Check[];
  /** What is asked before and after jars are packed. */
  readonly packing: readonly { readonly key: string; readonly words: string }[];
  readonly sanitise: boolean;
  /** Proposed when a vessel is closed; a person may choose another. */
  readonly closures: readonly Closure[];
  /** What keeps the produce down. */
  readonly weight: 'weight' | 'bag' | 'leaf';
  /** Filled to the brim under an airlock, instead of to the vessel's own window. */
  readonly toTheBrim: boolean;
  readonly topUpWith: 'brine' | 'water';
  readonly floaters: 'out' | 'down';
  readonly leafSalt: 'measured' | 'taste' | 'count';
  readonly starter: 'wild' | 'kept' | 'culture';
  readonly brineAtPacking: (typeof BRINES_AT_PACKING)[number];
  readonly heated: boolean;
  readonly storage: (typeof STORAGES)[number];
  /** A little vinegar at the start. */
  readonly vinegar: boolean;
  readonly filmIsHeld: boolean;
  readonly acidLimit: number;
  readonly secondPerson: boolean;
  /** Whether who packed a run may release it. */
  readonly releasedBy: 'second' | 'night';
  /** Null: asked each time. */
  readonly measures: Nationality | null;
}
type Closure = 'airlock' | 'valve' | 'loose' | 'cloth' | 'sealed' | 'vacuum';

interface Effect {
  readonly checklist?: readonly (readonly [Station, string, string])[];
  readonly checks?: readonly Check[];
  readonly packing?: string;
}

const onDays = (what: Check['what'], days: number[], words: string | null = null): Check => ({
  what,
  words,
  rule: { kind: 'onDays', days, thenEveryDays: null },
  condition: 'always',
});
const daily = (what: Check['what'], words: string | null = null): Check => ({
  what,
  words,
  rule: { kind: 'every', hours: 24, forDays: null },
  condition: 'always',
});
const FIRST_WEEK = [1, 2, 3, 4, 5, 6, 7];
const FIRST_DAYS = [1, 2, 3];

/** Word for word what each answer adds; an answer that only sets a default stands in `effectsOf`. */
const ADDS: Readonly<Record<string, Readonly<Record<string, Effect>>>> = {
  wash: {
    rinse: { checklist: [['inspect', 'washed', 'Rinsed in cold water, drained']] },
    none: {
      checklist: [
        [
          'inspect',
          'unwashed',
          'From a grower who is known, free of soil and sprays; looked at leaf by leaf, not washed',
        ],
      ],
    },
  },
  core: {
    out: { checklist: [['inspect', 'core', 'Cores and outer leaves out; they are weighed as trim waste']] },
    in: { checklist: [['inspect', 'core', 'Outer leaves out; cores cut in as fine as the rest']] },
  },
  rinse: {
    measured: { checklist: [['rinse', 'measured', 'The salt of the drained juice is measured']] },
    taste: { checklist: [['rinse', 'tasted', 'Two people tasted it against fresh reference brines, mixed by weight']] },
    count: {
      checklist: [
        ['rinse', 'counted', 'Rinsed as often as the formula says; its salt is an estimate with a wide band'],
      ],
      checks: [onDays('ph', FIRST_DAYS)],
    },
  },
  juice: {
    rub: { checklist: [['rest', 'rubbed', 'Rubbed, rested, pressed']] },
    pound: { checklist: [['rest', 'pounded', 'Pounded until the juice runs']] },
    rest: {
      checklist: [
        [
          'rest',
          'rested',
          'Rested to its time; where its juice does not cover it, brine of the same strength is added',
        ],
      ],
      checks: [onDays('level', [1])],
    },
  },
  weight: {
    weight: { checklist: [['close', 'counted', 'Weights counted in: they are counted out again']] },
    bag: { checklist: [['close', 'bag', 'The bag is of food grade, with brine of the same strength in it']] },
    leaf: {
      checklist: [['close', 'leaf', 'The cover leaf is wedged, nothing floats past it']],
      checks: [onDays('look', FIRST_WEEK)],
    },
  },
  lid: {
    airlock: { checklist: [['close', 'lid', 'Airlock filled, or the valve opens to the thumb']] },
    loose: { checklist: [['close', 'lid', 'Loose lid or cloth tied, no fly gets in']], checks: [daily('look')] },
    sealed: {
      checklist: [['close', 'lid', 'Sealed; its burps stand on the round, goggles hang beside it']],
      checks: [
        {
          what: 'burp',
          words: null,
          rule: { kind: 'untilQuiet', hours: 24, forDays: 5, thenHours: 48, quietTimes: 2, thenEveryDays: 7 },
          condition: 'sealed',
        },
      ],
    },
  },
  headspace: {
    tight: { checklist: [['close', 'tray', 'A tray stands under it']], checks: [onDays('level', [1])] },
  },
  light: {
    dark: { checklist: [['close', 'dark', 'It stands in the dark']] },
    light: { checklist: [['close', 'light', 'Not in the sun']], checks: [daily('own', 'out of the sun')] },
  },
  floaters: {
    out: { checklist: [['fill', 'floaters', 'What floats is taken out and weighed']] },
    down: {
      checklist: [['fill', 'floaters', 'What floats is pushed down, with a clean tool']],
      checks: [onDays('press', FIRST_WEEK)],
    },
  },
  film: {
    skim: { packing: 'A film that was skimmed was looked at again within three days, with a steady pH.' },
  },
  brine: {
    own: { packing: 'Its own brine goes back into the jars.' },
    boiled: {
      packing: 'Its own brine, boiled and cooled: weigh what boiled away, its salt has risen; the culture is gone.',
    },
    fresh: {
      packing: 'Fresh brine thins salt and acid: the pH of the blended product after 24 hours, before release.',
    },
  },
  vinegar: {
    splash: {
      checklist: [
        ['flavour', 'vinegar', 'The vinegar is weighed as a line of the formula; its deadline stays as it is'],
      ],
      checks: [onDays('ph', FIRST_DAYS)],
    },
  },
  starter: {
    kept: {
      checklist: [['starter', 'donor', 'The donor is not on hold and at or under its limit; its allergens come along']],
    },
    culture: {
      checklist: [['starter', 'culture', 'Dose, sachet and wake-up water are weighed: the water thins the salt']],
    },
  },
  heat: { heat: { packing: 'Heated only to a scheduled process on file; without one it is kept cold.' } },
  storage: {
    cold: { packing: 'Kept at 0 to 5 °C.' },
    cellar: { packing: 'Kept cool, at 16 °C at most: a short life, a gas check every two weeks, and live jars vent.' },
    ambient: { packing: 'Ambient only after a scheduled process; a run without one goes cold.' },
  },
};

const CLOSURES: Readonly<Record<string, readonly Closure[]>> = {
  airlock: ['airlock', 'valve'],
  loose: ['loose', 'cloth'],
  sealed: ['sealed', 'vacuum'],
};

/** What the answers in force change, everywhere. `rules` as a batch keeps them, or the house's own. */
export function effectsOf(rules: Readonly<Record<string, string>>): RuleEffects {
  const answer = (key: string): string =>
    ruleInForce(
      HOUSE_RULES.find((rule) => rule.key === key)!,
      rules,
      rules,
    ).option.key;
  const added = HOUSE_RULES.flatMap(({ key }) => {
    const effect = ADDS[key]?.[answer(key)];
    return effect ? [{ key, ...effect }] : [];
  });
  const checklist: Partial<Record<Station, HouseCheckItem[]>> = {};
  for (const [station, key, words] of added.flatMap((effect) => effect.checklist ?? []))
    (checklist[station] ??= []).push({ key, words });
  const measures = answer('measures');
  return {
    checklist,
    checks: added.flatMap((effect) => effect.checks ?? []),
    packing: added.flatMap(({ key, packing }) => (packing ? [{ key, words: packing }] : [])),
    sanitise: answer('sanitise') === 'sanitise',
    closures: CLOSURES[answer('lid')]!,
    weight: answer('weight') as RuleEffects['weight'],
    toTheBrim: answer('headspace') === 'tight',
    topUpWith: answer('addedLiquid') as RuleEffects['topUpWith'],
    floaters: answer('floaters') as RuleEffects['floaters'],
    leafSalt: answer('rinse') as RuleEffects['leafSalt'],
    starter: answer('starter') as RuleEffects['starter'],
    brineAtPacking: answer('brine') as RuleEffects['brineAtPacking'],
    heated: answer('heat') === 'heat',
    storage: answer('storage') as RuleEffects['storage'],
    vinegar: answer('vinegar') === 'splash',
    filmIsHeld: answer('film') === 'reject',
    acidLimit: Number(answer('acidLimit')),
    secondPerson: answer('secondPerson') === 'yes',
    releasedBy: answer('release') === 'night' ? 'night' : 'second',
    measures: measures === 'ask' ? null : (measures as Nationality),
  };
}

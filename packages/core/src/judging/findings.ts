import type { LotFacts } from './facts.js';
import type { Verdict } from './verdicts.js';

/** Where something is seen, smelt or felt. */
export const PLACES = {
  surface: 'on the surface',
  brine: 'in the brine',
  piece: 'inside the piece',
  wall: 'on the wall or rim',
  bottom: 'on the bottom',
  smell: 'smelt',
  feel: 'felt or bitten',
  vessel: 'on the vessel',
  jar: 'on a packed jar',
} as const;
export type Place = keyof typeof PLACES;
export const PLACE_KEYS = Object.keys(PLACES) as [Place, ...Place[]];

export interface Finding {
  readonly key: string;
  readonly name: string;
  /** Where it can be; the first is where it usually is. */
  readonly places: readonly Place[];
  /** The finding it is mistaken for. */
  readonly double: string | null;
  readonly tell: string;
  readonly stage: string;
  readonly means: string;
  readonly usual: Verdict;
  /** What makes the usual verdict stricter or milder here, by the rules of the trade. */
  readonly by?: (facts: LotFacts, place: Place) => readonly [Verdict, string] | null;
  readonly todo: readonly string[];
  readonly note: string;
}

const GROWTH =
  'Growth on the surface is not for sale, whatever the pH. Some kitchens lift it off; goods for sale are thrown out.';
const PRESSURE_HEATED = [
  'Do not open, do not taste',
  'Isolate the jar and hold its run and its siblings',
  'Ask the local food authority or a process authority',
];

/** Colours that are harmless in the piece alone. Source: handbook 3.4. */
const COLOURS = ['blueGreenIn', 'olive', 'uneven', 'pinkTop', 'redBleed', 'dryTop', 'crystals'];
/** Where a colour of its own kind belongs, so that nothing is wrong with the place. */
const AT_HOME: Readonly<Record<string, readonly Place[]>> = {
  blueGreenIn: ['piece'],
  olive: ['piece', 'brine', 'smell', 'feel'],
  uneven: ['piece', 'brine', 'smell', 'feel'],
  pinkTop: ['piece', 'brine'],
  redBleed: ['piece', 'brine'],
  dryTop: ['surface', 'brine', 'smell', 'feel'],
  crystals: ['piece', 'jar', 'bottom', 'brine', 'vessel', 'smell', 'feel'],
};
const OUTSIDE: readonly Place[] = ['bottom', 'vessel', 'jar', 'smell', 'feel', 'brine'];

/** What the place makes of a colour: growth on surface or wall, whatever its name; held anywhere else it does not belong. */
export function colourAtPlace(finding: string, place: Place): readonly [Verdict, string] | null {
  if (!COLOURS.includes(finding) || AT_HOME[finding]!.includes(place)) return null;
  if (place === 'surface' || place === 'wall')
    return ['throwOut', `Coloured or raised ${PLACES[place]} it is growth, whatever its name. ${GROWTH}`];
  return OUTSIDE.includes(place)
    ? [
        'hold',
        `${PLACES[place].replace(/^./, (letter) => letter.toUpperCase())} it is not the pigment of a piece: it is held.`,
      ]
    : null;
}

/** Gas and new cloudiness: in a packed jar they take the rows of packed jars. Source: handbook 3.4. */
export const GAS_FINDINGS: readonly string[] = [
  'bubbles',
  'cloudy',
  'hissHeated',
  'hissLive',
  'heatedCloudy',
  'overflow',
];
export const LIVE_JAR_TODO = [
  'Chill it first',
  'Open over a sink, eyes protected',
  'Hold its run; gas checks on its siblings',
  'List who already has some',
];
export { PRESSURE_HEATED };

/** What people see, and what it usually means. Source: handbook 3.4. */
export const FINDINGS: readonly Finding[] = [
  {
    key: 'bubbles',
    name: 'Small gas bubbles, hiss on opening',
    places: ['brine', 'surface'],
    double: 'hissHeated',
    tell: 'In a live vessel, rising from between the pieces; a hiss in a packed jar is another matter.',
    stage: 'days 1 to 10',
    means: 'It works.',
    usual: 'fine',
    by: (facts) => (!(facts.ageDays <= 10) ? ['watch', 'After ten days gas should be going down.'] : null),
    todo: ['Burp by the plan', 'Level and weight: gas lifts'],
    note: 'day, strong or weak',
  },
  {
    key: 'noLife',
    name: 'No sign of life',
    places: ['brine'],
    double: 'bubbles',
    tell: 'No bubble when the wall is tapped, the brine as clear as on the first day.',
    stage: 'from day 3; alliums, frozen or cold produce from day 5',
    means: 'A slow start, too cold, too salty, or chlorine in the water.',
    usual: 'watch',
    by: (facts) => (facts.ageDays < (facts.slowStart ? 5 : 3) ? ['fine', 'It is early yet.'] : null),
    todo: ['Read its pH now, blended', 'Look at the temperature, the salt, the water'],
    note: 'temperature of the vessel’s middle',
  },
  {
    key: 'cloudy',
    name: 'Cloudy brine',
    places: ['brine'],
    double: 'ropy',
    tell: 'Milky, but it runs off a spoon like water.',
    stage: 'from day 3',
    means: 'The culture itself, in its brine.',
    usual: 'fine',
    todo: [],
    note: 'since when',
  },
  {
    key: 'sediment',
    name: 'White sediment on the bottom',
    places: ['bottom'],
    double: 'crystals',
    tell: 'Fine and loose: it swirls up and settles again.',
    stage: 'from day 7',
    means: 'Culture that has settled.',
    usual: 'fine',
    todo: [],
    note: 'nothing more',
  },
  {
    key: 'olive',
    name: 'Colour from bright to olive, even right through',
    places: ['piece', 'surface'],
    double: 'uneven',
    tell: 'Cut one: the same colour at the middle as at the skin.',
    stage: 'from day 5',
    means: 'Acid has reached the middle; often a sign of doneness.',
    usual: 'fine',
    todo: ['Cut a piece and look at its middle'],
    note: 'colour right through, yes or no',
  },
  {
    key: 'uneven',
    name: 'Uneven colour, a bright core',
    places: ['piece', 'surface'],
    double: 'olive',
    tell: 'Cut one: the middle is still bright and raw.',
    stage: 'before it is done',
    means: 'Not through yet: the middle of a large piece lags behind its brine.',
    usual: 'watch',
    todo: ['Give it time; read a blended sample, not the brine'],
    note: 'thickness of the piece',
  },
  {
    key: 'blueGreenIn',
    name: 'Garlic or onion turned blue-green',
    places: ['piece', 'surface'],
    double: 'fuzz',
    tell: 'The colour is in the flesh, smooth and clear. Growth sits on top and can be wiped.',
    stage: 'days 2 to 20',
    means: 'A pigment of the plant, made by acid.',
    usual: 'fine',
    todo: ['Cut through: the colour must be in the piece'],
    note: 'in the piece, or on it',
  },
  {
    key: 'glassy',
    name: 'Some pieces glassy, translucent',
    places: ['piece'],
    double: 'soft',
    tell: 'Still crisp to the bite.',
    stage: 'from day 7',
    means: 'Brine has taken the place of air in the piece.',
    usual: 'fine',
    todo: [],
    note: 'crisp or not',
  },
  {
    key: 'film',
    name: 'White film: flat, thin, dull, wrinkled',
    places: ['surface'],
    double: 'fuzz',
    tell: 'Flat as paper, wrinkles when pushed, breaks in sheets. Nothing stands up from it, nothing is coloured.',
    stage: 'warm, or with air',
    means: 'Film yeast. It eats acid while it lives.',
    usual: 'act',
    by: (facts) =>
      facts.stage === 'packed'
        ? ['hold', 'On a packed jar a film has air, or time, that it should not have had.']
        : facts.trend === 'rising' || !(facts.rise <= 0.1)
          ? ['hold', 'Film with a rising pH: the acid is being eaten.']
          : facts.filmBefore
            ? ['hold', 'It has come again after it was skimmed.']
            : facts.filmIsHeld
              ? ['hold', 'In this house every film is held, and decided by the reviewer.']
              : null,
    todo: [
      'Skim it, weigh what comes off',
      'Wipe the wall',
      'Everything under the brine again',
      'Read its pH; look again within three days',
    ],
    note: 'grams skimmed, pH, part of the surface covered',
  },
  {
    key: 'fuzz',
    name: 'Raised or fuzzy, or coloured growth',
    places: ['surface', 'wall', 'vessel'],
    double: 'film',
    tell: 'It stands up from the surface, or it is blue, green, black, brown, pink or orange. Film is flat and white.',
    stage: 'any',
    means: 'Mould, or another growth that is not wanted.',
    usual: 'throwOut',
    todo: [
      'Close the vessel, do not stir, do not taste',
      'Set it apart from the others',
      'Throw out with a record; clean the vessel and the shelf',
    ],
    note: 'colour, size, where, photo',
  },
  {
    key: 'pinkTop',
    name: 'Pink or red without a red ingredient',
    places: ['piece', 'brine', 'surface'],
    double: 'redBleed',
    tell: 'Nothing red went in. Look at the formula’s lines before you decide. On the surface or the wall it is growth.',
    stage: 'any',
    means: 'Pigmented yeasts: salt too high, or uneven.',
    usual: 'hold',
    todo: ['Do not taste', 'Was the salt weighed, and is it even?', 'Read its pH, blended'],
    note: 'where, how much, photo',
  },
  {
    key: 'redBleed',
    name: 'Red or pink from a red ingredient',
    places: ['brine', 'piece'],
    double: 'pinkTop',
    tell: 'The formula has something red, and the colour is even through brine and pieces.',
    stage: 'from day 1',
    means: 'Colour that has bled out.',
    usual: 'fine',
    by: (facts) =>
      facts.redIngredient === true
        ? null
        : ['hold', 'Nothing red is known to be in the formula: this is not its colour.'],
    todo: ['Compare with a sister vessel'],
    note: 'which ingredient',
  },
  {
    key: 'dryTop',
    name: 'Top layer brown or grey, liquid below it',
    places: ['surface'],
    double: 'fuzz',
    tell: 'Dull and dry, the colour of a cut apple; smooth, no growth on it.',
    stage: 'any',
    means: 'It stood in air.',
    usual: 'act',
    todo: [
      'Take the dry layer off, weigh it',
      'Cover with brine of the same strength',
      'Read the pH of the top',
      'Note the hours it stood open',
    ],
    note: 'hours exposed, grams taken off',
  },
  {
    key: 'ropy',
    name: 'Ropy, viscous brine',
    places: ['brine'],
    double: 'cloudy',
    tell: 'It draws a thread off a spoon.',
    stage: 'days 2 to 8',
    means: 'A sugar that some bacteria make early; it usually goes with time.',
    usual: 'watch',
    by: (facts) =>
      facts.stage !== 'ferment'
        ? ['hold', 'It is ropy at the finish, when it should have gone.']
        : !(facts.ageDays <= 12)
          ? ['hold', 'It should have gone by now.']
          : null,
    todo: ['Look again in 3 to 5 days', 'Keep it at its temperature'],
    note: 'length of the thread, day',
  },
  {
    key: 'soft',
    name: 'Soft, hollow, mushy',
    places: ['feel', 'piece'],
    double: 'glassy',
    tell: 'It gives way, or is hollow inside; glassy pieces are still crisp.',
    stage: 'late, or too warm',
    means: 'Too little salt, too warm, blossom ends left on, or hollow produce.',
    usual: 'hold',
    by: (facts) =>
      facts.ph !== null && facts.phCounts && facts.ph <= facts.acidLimit
        ? null
        : [
            'throwOut',
            facts.ph === null
              ? 'Soft, and its pH was never read.'
              : facts.phCounts
                ? `Soft, and its pH is ${facts.ph.toFixed(2)}, above ${facts.acidLimit}.`
                : 'Soft, and no blended reading says that it is sour.',
          ],
    todo: ['A reject of quality: it is not packed as it is', 'Look at salt and temperature of this batch'],
    note: 'how many of how many',
  },
  {
    key: 'floaters',
    name: 'Pieces float above the brine',
    places: ['surface'],
    double: 'dryTop',
    tell: 'Fresh in colour, wet.',
    stage: 'the first week',
    means: 'Gas lifts them; the weight does not reach.',
    usual: 'act',
    todo: ['Press down, or take out and weigh', 'Look at the weight'],
    note: 'grams taken out',
  },
  {
    key: 'overflow',
    name: 'It has run over',
    places: ['vessel'],
    double: 'dryLock',
    tell: 'Brine on the outside or in the tray.',
    stage: 'days 1 to 5',
    means: 'Filled too high, or lively. Salt went with it.',
    usual: 'act',
    todo: ['Take the level', 'Top up with brine of the same strength', 'Clean the outside', 'Record what was lost'],
    note: 'grams lost',
  },
  {
    key: 'sourSmell',
    name: 'Sharp, clean sour smell',
    places: ['smell'],
    double: 'solvent',
    tell: 'Like fresh acid, no sting in the nose.',
    stage: 'from day 3',
    means: 'It goes as it should. A good smell is no proof of it.',
    usual: 'fine',
    todo: [],
    note: 'nothing more',
  },
  {
    key: 'sulphur',
    name: 'Cabbage-like sulphur smell',
    places: ['smell'],
    double: 'putrid',
    tell: 'Like boiled cabbage, gone after airing.',
    stage: 'the first week',
    means: 'Usual with the cabbage family.',
    usual: 'fine',
    by: (facts) => (!(facts.ageDays <= 7) ? ['watch', 'After the first week it should have gone.'] : null),
    todo: ['Air it'],
    note: 'gone after airing, yes or no',
  },
  {
    key: 'alcohol',
    name: 'Yeast, bread or alcohol smell',
    places: ['smell'],
    double: 'sourSmell',
    tell: 'Like dough or young wine.',
    stage: 'warm; sweet or fruit formulas',
    means: 'Yeasts have sugar.',
    usual: 'watch',
    by: (facts) =>
      facts.sweet !== false ? ['act', 'Sweet or fruit: sugar is being turned to alcohol. Its pH and Brix now.'] : null,
    todo: ['Read its pH', 'Sweet or fruit formulas: Brix, and a note on alcohol', 'Cooler'],
    note: 'pH, Brix',
  },
  {
    key: 'solvent',
    name: 'Solvent, nail varnish, or vinegar-sharp',
    places: ['smell'],
    double: 'sourSmell',
    tell: 'It stings in the nose.',
    stage: 'any, after air',
    means: 'Air got in.',
    usual: 'act',
    todo: ['Look at lid, airlock and level', 'Everything under the brine', 'Read its pH'],
    note: 'where the air came in',
  },
  {
    key: 'putrid',
    name: 'Putrid, faecal, rancid or cheesy',
    places: ['smell'],
    double: 'sulphur',
    tell: 'It turns the stomach, and airing does not help.',
    stage: 'any',
    means: 'Rot.',
    usual: 'throwOut',
    todo: ['Do not taste', 'Throw out with a record', 'Look at salt, temperature and produce of this batch'],
    note: 'since when',
  },
  {
    key: 'hissHeated',
    name: 'Lid bulging, hiss or gush: heated or ambient jar',
    places: ['jar'],
    double: 'hissLive',
    tell: 'A heated jar has nothing alive in it that may make gas.',
    stage: 'after packing',
    means: 'Something lives in it.',
    usual: 'hold',
    todo: PRESSURE_HEATED,
    note: 'jar code, where it stood',
  },
  {
    key: 'hissLive',
    name: 'Lid bulging, hiss or gush: live, chilled jar',
    places: ['jar'],
    double: 'hissHeated',
    tell: 'Live and kept cold: gas is in its nature, but so much is not.',
    stage: 'after packing',
    means: 'It works on in the jar: too warm, or packed too early.',
    usual: 'hold',
    todo: [
      'Chill it first',
      'Open over a sink, eyes protected',
      'Gas checks on its siblings',
      'List who already has some',
    ],
    note: 'jar code, temperature',
  },
  {
    key: 'heatedCloudy',
    name: 'Heated jar newly cloudy or fizzing',
    places: ['jar'],
    double: 'sauceSettles',
    tell: 'It was clear when it was packed.',
    stage: 'after packing',
    means: 'Something lives in it.',
    usual: 'hold',
    todo: PRESSURE_HEATED,
    note: 'jar code, since when',
  },
  {
    key: 'glass',
    name: 'Cracked or chipped glass, foreign body',
    places: ['vessel', 'piece', 'jar'],
    double: null,
    tell: 'Count the weights: in and out.',
    stage: 'any',
    means: 'A splinter can be anywhere in it.',
    usual: 'throwOut',
    todo: ['Glass procedure: clear, wipe, look under light', 'Hold the neighbours', 'Throw out with a record'],
    note: 'what is missing, photo',
  },
  {
    key: 'flies',
    name: 'Flies or larvae',
    places: ['surface', 'wall', 'vessel'],
    double: 'floaters',
    tell: 'They move; look under the rim.',
    stage: 'loose lids, warm rooms',
    means: 'The vessel stood open to them.',
    usual: 'throwOut',
    todo: ['Throw out with a record', 'Cloth or lid; clean the room'],
    note: 'where from',
  },
  {
    key: 'dryLock',
    name: 'Dry airlock, slipped lid',
    places: ['vessel'],
    double: 'overflow',
    tell: 'No water stands in the lock.',
    stage: 'any',
    means: 'Exposed for an unknown time.',
    usual: 'act',
    todo: ['Refill, close', 'Treat as exposed: surface and pH now, again in two days'],
    note: 'last time it was seen closed',
  },
  {
    key: 'bagLeaks',
    name: 'Bag lost its vacuum, or leaks',
    places: ['vessel'],
    double: 'bagDrum',
    tell: 'Loose to the hand, brine outside.',
    stage: 'any',
    means: 'Air got in.',
    usual: 'hold',
    todo: ['Read its pH, smell it', 'Rebag only at or under the limit'],
    note: 'pH, where it leaks',
  },
  {
    key: 'bagDrum',
    name: 'Bag drum-tight',
    places: ['vessel'],
    double: 'bagLeaks',
    tell: 'Hard to the hand, round.',
    stage: 'near its end',
    means: 'The sign that it is near its end.',
    usual: 'act',
    todo: ['Cold first', 'Vent or open it cold, eyes protected', 'Read its pH'],
    note: 'swelling 0 to 4, day',
  },
  {
    key: 'sealFailed',
    name: 'Seal failed after heating',
    places: ['jar'],
    double: null,
    tell: 'The lid gives to the thumb.',
    stage: 'the day of heating',
    means: 'It is not closed.',
    usual: 'hold',
    todo: ['Chill within hours, or throw out'],
    note: 'jar code, hours since heating',
  },
  {
    key: 'sauceSettles',
    name: 'Sediment or separation in a sauce',
    places: ['jar', 'bottom'],
    double: 'heatedCloudy',
    tell: 'Layers that shake together again; no gas.',
    stage: 'after packing',
    means: 'A matter of quality: thickener, grain.',
    usual: 'fine',
    todo: ['Shake before use, on the label'],
    note: 'days since packing',
  },
  {
    key: 'crystals',
    name: 'White crystals or spots on packed greens',
    places: ['jar', 'piece'],
    double: 'film',
    tell: 'Hard and gritty between the fingers: crystals of an amino acid. Soft and smearing: yeast colonies.',
    stage: 'after packing',
    means: 'Crystals are a matter of looks; colonies are not wanted.',
    usual: 'watch',
    todo: ['Rub one: gritty, or smearing?', 'Read its pH'],
    note: 'gritty or smearing',
  },
  {
    key: 'looksRight',
    name: 'Nothing unusual',
    places: ['surface', 'brine', 'piece', 'smell', 'vessel'],
    double: null,
    tell: 'Covered, calm, colour and smell as they should be.',
    stage: 'any',
    means: 'Nothing is seen. A good look never releases.',
    usual: 'fine',
    todo: [],
    note: 'nothing more',
  },
];

export const FINDING_KEYS = FINDINGS.map(({ key }) => key) as [string, ...string[]];
export const findingOf = (key: string): Finding | undefined => FINDINGS.find((one) => one.key === key);

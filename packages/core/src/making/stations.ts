/** Where in the order of work something is done. Source: handbook 1.1. */
export const STATIONS = [
  'inspect',
  'weigh',
  'water',
  'salt',
  'rest',
  'rinse',
  'prepare',
  'flavour',
  'starter',
  'clean',
  'fill',
  'close',
  'label',
] as const;
export type Station = (typeof STATIONS)[number];

/** Where a formula's own step can belong: a place of the making day, or later, at finishing. */
export const STEP_PLACES = [...STATIONS, 'later'] as const;
export type StepPlace = (typeof STEP_PLACES)[number];

export const STATION_WORDS: Record<Station, string> = {
  inspect: 'Inspect the produce',
  weigh: 'Trim and weigh',
  water: 'Water for the brine',
  salt: 'Weigh the salt',
  rest: 'Rest, turn, press',
  rinse: 'Rinse and drain',
  prepare: 'Preparations',
  flavour: 'Flavourings',
  starter: 'Starter',
  clean: 'Clean vessels',
  fill: 'Fill vessels',
  close: 'Weight in, close',
  label: 'Label before the lid',
};

/** Steps whose end the ledger shows by itself: what was weighed, salted, filled. */
export const WEIGHED_STATIONS: ReadonlySet<Station> = new Set(['weigh', 'water', 'salt', 'flavour', 'starter', 'fill']);

/** How a check is answered at the vessel: which part of the round's panel stands there. */
export type CheckAnswer =
  | 'done'
  | 'gas'
  | 'swelling'
  | 'photo'
  | 'salt'
  | 'move'
  /** By an entry of its own, in a form of its own. */
  | 'reading'
  | 'taste';

/** Something a hand does to a vessel, due or not. */
export interface Deed {
  readonly words: string;
  readonly quiet: boolean;
  /** Only where the vessel is closed so. */
  readonly closures?: readonly string[];
}

export interface CheckKindOf {
  /** What is due, in words; an own kind brings its own. */
  readonly words: string;
  readonly answer: CheckAnswer;
  /** A look answers it, so that "all quiet" for many vessels does. */
  readonly quiet: boolean;
  /** Closures that have what is looked at; null: every vessel has. */
  readonly closures: readonly string[] | null;
  /** What the book says when it was quiet, and when not. */
  readonly book: { readonly quiet: string; readonly other: string };
  /** Gas comes faster in a warm room and out of fruit: asked twice as often in the first days. */
  readonly oftenWhenLively?: true;
  /** What is offered at a vessel's page, beside what is due. */
  readonly deeds?: readonly Deed[];
  /** Asked by a finding alone; never of a plan. */
  readonly askedByFindings?: true;
}

const BOOK = { quiet: 'quiet', other: 'done' } as const;
const look = (words: string, more: Partial<CheckKindOf> = {}): CheckKindOf => ({
  words,
  answer: 'done',
  quiet: true,
  closures: null,
  book: BOOK,
  ...more,
});
const own = (words: string, answer: CheckAnswer, more: Partial<CheckKindOf> = {}): CheckKindOf => ({
  words,
  answer,
  quiet: false,
  closures: null,
  book: BOOK,
  ...more,
});

/**
 * What is looked at on a round, each kind described once: plan editor, floor, book, schema and rules read from it. A house
 * may add kinds of its own, in words. Source: handbook 3.1.
 */
export const CHECKS = {
  ph: own('pH', 'reading'),
  temperature: own('temperature', 'reading'),
  look: look('look', { deeds: [{ words: 'Looked at, calm', quiet: true }] }),
  press: look('press down, floaters', { deeds: [{ words: 'Pressed down', quiet: false }] }),
  level: look('brine level', { deeds: [{ words: 'Level as it was', quiet: true }] }),
  burp: own('burp', 'gas', {
    book: { quiet: 'no gas', other: 'gas' },
    oftenWhenLively: true,
    deeds: [
      { words: 'Burped, gas', quiet: false, closures: ['sealed', 'vacuum'] },
      { words: 'Burped, no gas', quiet: true, closures: ['sealed', 'vacuum'] },
    ],
  }),
  airlock: look('airlock water', {
    closures: ['airlock', 'valve'],
    deeds: [{ words: 'Airlock refilled', quiet: false }],
  }),
  skim: look('skim', { deeds: [{ words: 'Skimmed', quiet: false }] }),
  taste: own('taste', 'taste'),
  move: own('move', 'move'),
  salt: own('measure the salt', 'salt'),
  photo: own('photo', 'photo'),
  swelling: own('swelling of the bag, 0 to 4', 'swelling', { closures: ['vacuum'] }),
  own: look(''),
  todo: own('', 'done', { askedByFindings: true }),
} as const satisfies Readonly<Record<string, CheckKindOf>>;

export type CheckKind = keyof typeof CHECKS;
export const CHECK_KIND_KEYS = Object.keys(CHECKS) as [CheckKind, ...CheckKind[]];
export const checkKindOf = (what: CheckKind): CheckKindOf => CHECKS[what];

/** What each kind is called. */
export const CHECK_KINDS = Object.fromEntries(CHECK_KIND_KEYS.map((key) => [key, CHECKS[key].words])) as Readonly<
  Record<CheckKind, string>
>;

/** What a plan can ask. */
export type PlanKind = Exclude<CheckKind, 'todo'>;
export const PLAN_KIND_KEYS = CHECK_KIND_KEYS.filter((key) => !checkKindOf(key).askedByFindings) as [
  PlanKind,
  ...PlanKind[],
];

/** Kinds that a look alone answers. A pH, a temperature, a taste, a burp and a photo are not among them. */
export const QUIET_KINDS: readonly CheckKind[] = CHECK_KIND_KEYS.filter((key) => CHECKS[key].quiet);

/** What a closure has not, nobody looks at. */
export const closureHas = (what: CheckKind, closure: string): boolean =>
  checkKindOf(what).closures?.includes(closure) ?? true;

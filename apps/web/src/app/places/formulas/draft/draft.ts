import { v7 } from 'uuid';
import {
  type Check,
  type Doneness,
  type Form,
  type FormulaWindow,
  type Nationality,
  type SaltBasis,
  type ScaleBy,
  type StepPlace,
  planFor,
} from '@clear-tally/core';
import type { BodyOf } from '@clear-tally/contract';

export type Style = BodyOf<'formula.save'>['style'];

/** A formula while somebody writes it: everything as typed, nothing rounded, nothing guessed. */
export interface Draft {
  readonly formulaId: string;
  /** The version it was opened from; 0 is a new formula. */
  readonly base: number;
  readonly number: number;
  readonly name: string;
  readonly style: Style;
  readonly form: Form;
  readonly makes: string;
  readonly produce: readonly DraftProduce[];
  readonly saltBasis: SaltBasis | null;
  readonly salt: string;
  readonly saltMaterial: string;
  readonly saltWritten: string;
  readonly water: string;
  readonly nationality: Nationality | null;
  readonly heavy: DraftHeavy | null;
  readonly lines: readonly DraftLine[];
  readonly variants: readonly string[];
  readonly trim: string;
  readonly ferment: string;
  readonly pack: string;
  readonly finish: string;
  readonly solids: string;
  readonly jars: readonly DraftJar[];
  readonly usualDays: string;
  /** A range of days the recipe names, in its words: no usual number is put in its place. */
  readonly saidDays?: string;
  /** Where its vessels should stand, °C; both empty: by their room. */
  readonly coolest?: string;
  readonly warmest?: string;
  readonly note: string;
  readonly steps: readonly DraftStep[];
  readonly checks: readonly Check[];
  readonly done: Doneness | null;
  /** What it is made with, tags and words between commas. */
  readonly equipment?: string;
  /** Ready windows by condition; drafts from before there were any have none. */
  readonly windows?: readonly FormulaWindow[];
  readonly labourFixed: string;
  readonly labourPerKg: string;
  readonly rules: Readonly<Record<string, string>>;
  /** What a recipe from elsewhere left open or what could not be taken in. */
  readonly marks: readonly string[];
}

export interface DraftProduce {
  readonly key: string;
  readonly material: string;
  readonly amount: string;
}
export interface DraftLine {
  readonly key: string;
  readonly material: string;
  readonly amount: string;
  readonly scaleBy: ScaleBy;
  readonly perMl: string;
  readonly exponent: string;
  /** What usually goes in, typed as the amount is. */
  readonly least: string;
  readonly most: string;
  readonly pieceGrams: number | null;
  readonly variants: readonly string[] | null;
  readonly note: string;
  readonly written: string;
}
export interface DraftHeavy {
  readonly minutes: string;
  readonly cut: 'leaf' | 'quarters';
  readonly rinses: string;
  readonly litresPerKg: string;
  readonly drain: string;
  readonly wanted: string;
}
export interface DraftJar {
  readonly sizeMl: string;
  readonly fillGrams: string;
  readonly perCase: string;
  readonly packagingCost: string;
  readonly price: string;
}
export interface DraftStep {
  readonly key: string;
  readonly words: string;
  readonly minutes: string;
  readonly irreversible: boolean;
  /** Where in the order of work; empty where the formula does not say. */ readonly at: StepPlace | '';
}

export const newKey = (): string => v7().slice(-12);
export const emptyLine = (material = '', amount = ''): DraftLine => ({
  key: newKey(),
  material,
  amount,
  scaleBy: 'mainMass',
  perMl: '',
  exponent: '',
  least: '',
  most: '',
  pieceGrams: null,
  variants: null,
  note: '',
  written: '',
});
export const emptyStep = (words = ''): DraftStep => ({
  key: newKey(),
  words,
  minutes: '',
  irreversible: false,
  at: '',
});
export const USUAL_HEAVY: DraftHeavy = {
  minutes: '90',
  cut: 'leaf',
  rinses: '3',
  litresPerKg: '2',
  drain: '80',
  wanted: '2.6',
};
export const USUAL_DONE: Doneness = {
  phAtMost: 4.2,
  stableHours: 24,
  acidAtLeast: null,
  days: null,
  colourThrough: false,
  tasteSignOff: true,
  gasQuietDays: null,
};

/** Where a new formula starts: the house's jars and usual yields, a plan of checks, and everything else open. */
export function newDraft(number: number, over: Partial<Draft> = {}): Draft {
  return {
    formulaId: v7(),
    base: 0,
    number,
    name: '',
    style: 'brinedWhole',
    form: 'wholeSmall',
    makes: '',
    produce: [{ key: newKey(), material: '', amount: '' }],
    saltBasis: null,
    salt: '',
    saltMaterial: '',
    saltWritten: '',
    water: '',
    nationality: null,
    heavy: null,
    lines: [],
    variants: [],
    trim: '80',
    ferment: '93',
    pack: '97',
    finish: '',
    solids: '58',
    jars: [
      { sizeMl: '330', fillGrams: '320', perCase: '12', packagingCost: '', price: '' },
      { sizeMl: '720', fillGrams: '690', perCase: '6', packagingCost: '', price: '' },
    ],
    usualDays: '21',
    coolest: '',
    warmest: '',
    note: '',
    steps: [],
    checks: planFor('wholeSmall'),
    done: USUAL_DONE,
    labourFixed: '',
    labourPerKg: '',
    rules: {},
    marks: [],
    ...over,
  };
}

/** Figures a recipe seldom says, empty: nobody said them, so nothing stands there. */
export const NOT_SAID = { trim: '', ferment: '', pack: '', solids: '', usualDays: '' } as const;

/** What of these nobody has said, and may be taken as usual: days of which a range was named are chosen, not taken. */
export const unsaid = (draft: Draft): (keyof typeof NOT_SAID)[] =>
  (Object.keys(NOT_SAID) as (keyof typeof NOT_SAID)[]).filter(
    (key) => draft[key].trim() === '' && !(key === 'usualDays' && draft.saidDays),
  );

/** What tables usually give, to be taken with one tap and weighed by oneself later. */
export const usualFigures = (form: Form): Readonly<Record<keyof typeof NOT_SAID, string>> => ({
  trim: '80',
  ferment: '93',
  pack: '97',
  solids: form === 'wholeSmall' ? '58' : form === 'leaf' ? '72' : '100',
  usualDays: '21',
});

/** Packed otherwise, it is checked otherwise: a plan nobody has changed becomes that of the new form. */
export const packedAs = (draft: Draft, form: Form): Partial<Draft> => ({
  form,
  ...(JSON.stringify(draft.checks) === JSON.stringify(planFor(draft.form)) ? { checks: planFor(form) } : {}),
});

/** What a school brings with it when it is chosen. */
export const STYLE_DEFAULTS: Record<Style, Partial<Draft>> = {
  dryShred: { form: 'shred', solids: '100', saltBasis: 'ofVegetable', heavy: null },
  brinedWhole: { form: 'wholeSmall', solids: '58', heavy: null },
  brinedMash: { form: 'mash', solids: '100', heavy: null },
  // Paste is the rest of the jar; what drains off after the rinses counts with the ferment.
  heavySaltPaste: { form: 'leaf', solids: '72', ferment: '76', saltBasis: 'ofVegetable', heavy: USUAL_HEAVY },
  drySaltedFruit: { form: 'berries', solids: '100', saltBasis: 'ofVegetable', heavy: null },
};

export const STYLE_WORDS: Record<Style, string> = {
  dryShred: 'dry-salted shred',
  brinedWhole: 'whole or cut, in brine',
  brinedMash: 'mash',
  heavySaltPaste: 'heavy salt, rinse, paste',
  drySaltedFruit: 'dry-salted fruit',
};

import { usualChecks, type Check, type StepPlace } from '@clear-tally/core';
import type { BodyOf } from '@clear-tally/contract';
import type { Diary } from './diary.js';

type Formula = BodyOf<'formula.save'>;
type Line = Formula['lines'][number];
export const DEMO_FORMULAS = ['shred', 'turnips', 'collard', 'mash', 'gooseberries', 'celtuce', 'ramsons', 'swede'] as const;
export type DemoFormula = (typeof DEMO_FORMULAS)[number];

const JARS: Formula['jarSizes'] = [{ sizeMl: 330, fillGrams: 320, perCase: 12, packagingCost: 0.62, price: 6.5 }, { sizeMl: 720, fillGrams: 690, perCase: 6, packagingCost: 0.88, price: 11.5 }];
const step = (at: StepPlace, words: string, minutes: number | null = null, irreversible = false) => ({ words, minutes, at, ...(irreversible ? { irreversible } : {}) });
const done = (from: number, to: number): NonNullable<Formula['done']> => ({ phAtMost: 4.2, stableHours: 24, acidAtLeast: null, days: { from, to }, colourThrough: false, tasteSignOff: true, gasQuietDays: null });
/** The usual plan; the rooms of this house hardly change, so a temperature a day will do. */
const demoChecks = (firstTasteDay: number): Check[] => usualChecks(firstTasteDay).map((check) => (check.what === 'temperature' ? { ...check, rule: { kind: 'every', hours: 24, forDays: null } } : check));
const labour = { fixedMinutes: 75, minutesPerKg: 4 };

/** All eight formulas of the demo house, none taken from anybody. Each is its newest version. */
export function demoFormulas(diary: Diary, m: Record<string, string>, at: Date): Record<DemoFormula, Formula> {
  const line = (material: string, scaleBy: Line['scaleBy'], amount: number | null, more: Partial<Line> = {}): Line => ({ materialId: m[material]!, scaleBy, amount, ...more });
  const of = (material: string, share = 1) => ({ materialId: m[material]!, share });
  const head = (number: number, version: number) => ({ formulaId: diary.id(at), number, version, saltMaterialId: m['coarse']!, labour, jarSizes: JARS, solidsFraction: 1, waterPerProduce: 0 });
  return {
    shred: {
      ...head(1, 1), celsius: { least: 11, most: 17 }, name: 'Kohlrabi and celeriac shred with juniper', style: 'dryShred', form: 'shred',
      produce: [of('kohlrabi', 0.7), of('celeriac', 0.3)], saltBasis: 'ofVegetable', saltFraction: 0.022, lines: [line('juniper', 'saltMass', 0.3, { least: 0.1, most: 0.4 })],
      yields: { trim: 0.78, ferment: 0.97, pack: 0.97 }, usualDays: 28, referenceGrams: 20_000,
      note: 'Cool school: 11 to 17 °C. Rub, rest ten minutes, press until its own juice covers it.',
      steps: [step('weigh', 'Peel, cut the core out, weigh after trimming.'), step('salt', 'Shred to matchsticks, rub the salt in.'), step('rest', 'Rest.', 10), step('rest', 'Press until its own juice covers it.'), step('fill', 'Fill, weight on, look for air pockets.', null, true)],
      checks: demoChecks(14), done: done(21, 42),
    },
    turnips: {
      ...head(2, 2), celsius: { least: 17, most: 22 }, name: 'Baby turnips with lemon thyme', style: 'brinedWhole', form: 'wholeSmall',
      produce: [of('turnip')], saltBasis: 'ofEverything', saltFraction: 0.026, waterPerProduce: 0.7,
      lines: [line('thyme', 'mainMass', 0.004, { exponent: 0.9 }), line('pepper', 'mainMass', 0.003), line('mustard', 'mainMass', 0.005)],
      solidsFraction: 0.58, yields: { trim: 0.81, ferment: 0.93, pack: 0.97 }, usualDays: 21, referenceGrams: 4000,
      note: 'Prick each turnip to its middle. The brine is cool before it is poured.',
      steps: [step('weigh', 'Top and tail, prick each turnip to its middle, weigh after trimming.'), step('salt', 'Dissolve the salt in warm water and let it cool to 30 °C or lower.', 60), step('fill', 'Pack tight, weight on, pour to the mark.', null, true), step('close', 'Fill the airlock with what is left of the brine.')],
      checks: demoChecks(7), done: done(18, 35),
    },
    collard: {
      ...head(3, 1), name: 'Collard leaves with damson and chilli paste', style: 'heavySaltPaste', form: 'leaf',
      produce: [of('collard')], saltBasis: 'ofVegetable', saltFraction: 0.1, heavy: { minutes: 90, cut: 'leaf', rinses: 3, litresPerKg: 2, drainYield: 0.8, wanted: 0.026 },
      variants: ['with soy sauce', 'without soy sauce'],
      lines: [
        line('damson', 'mainMass', 0.12), line('redchilli', 'mainMass', 0.018, { least: 0.008, most: 0.03 }), line('buckwheat', 'mainMass', 0.1, { note: 'cooked, cooled to 30 °C' }), line('garlic', 'mainMass', 0.02, { pieceGrams: 6 }),
        line('ginger', 'mainMass', 0.012), line('soy', 'mainMass', 0.03, { variants: ['with soy sauce'] }),
      ],
      // In a jar 72 % is leaf; what drains off after the rinses counts with the ferment.
      solidsFraction: 0.72, yields: { trim: 0.72, ferment: 0.76, pack: 0.96 }, usualDays: 12, referenceGrams: 6000,
      note: 'Rinse to a measured salt, not to a count. The paste is mixed while the leaf rests.',
      steps: [step('weigh', 'Cut to pieces of three fingers, salt, turn.'), step('rest', 'Turn.', 30), step('rest', 'Turn.', 30), step('rest', 'Rest to the end.', 30), step('rinse', 'Rinse three times, drain, measure the salt of the drained juice.'), step('prepare', 'Cook the porridge, cool it, mix the paste. Gloves and goggles.', 25), step('fill', 'Coat every leaf, fill tight, weight on.', null, true)],
      checks: demoChecks(3), done: done(8, 21),
    },
    mash: {
      ...head(4, 1), celsius: { least: 12, most: 18 }, name: 'Physalis and lovage sauce', style: 'brinedMash', form: 'mash',
      produce: [of('physalis', 0.8), of('chilli', 0.2)], saltBasis: 'ofEverything', saltFraction: 0.032, waterPerProduce: 0.12,
      lines: [line('lovage', 'mainMass', 0.012), line('kept', 'everything', 0.02), line('vinegar', 'finishedMass', 0.04), line('gum', 'finishedMass', 0.0015, { least: 0.001, most: 0.003 })],
      yields: { trim: 0.86, ferment: 0.96, pack: 0.95, finish: 0.975 }, jarSizes: [{ sizeMl: 150, fillGrams: 154.5, perCase: 24, packagingCost: 0.54, price: 7.2 }, { sizeMl: 330, fillGrams: 340, perCase: 12, packagingCost: 0.7, price: 12.5 }], usualDays: 30, referenceGrams: 20_000,
      note: 'Starts slowly: about 2 % kept brine of the last mash. Gloves and goggles for the chilli.',
      steps: [step('weigh', 'Wash, stem, mash coarse. Gloves and goggles for the chilli; ventilate.'), step('salt', 'Salt, water and kept brine in; stir until no crystal is left.'), step('fill', 'Fill, airlock on.', null, true), step('later', 'When done: blend with its brine and the vinegar, dust the thickener in while the blade turns.'), step('later', 'Hot-fill to the scheduled process on file.')],
      checks: demoChecks(14), done: done(25, 60), rules: { starter: 'kept', heat: 'heat' },
    },
    gooseberries: {
      ...head(5, 1), name: 'Green gooseberries', style: 'drySaltedFruit', form: 'berries', produce: [of('gooseberry')], saltBasis: 'ofVegetable', saltFraction: 0.024, lines: [],
      yields: { trim: 0.95, ferment: 0.94, pack: 0.97 }, usualDays: 7, referenceGrams: 2000, note: 'Vacuum bags, flat. A bag drum-tight is near its end: it is vented or opened cold.',
      steps: [step('weigh', 'Top and tail, prick each berry.'), step('fill', 'Salt evenly, one layer to a bag, seal.', null, true)],
      checks: [...demoChecks(7), { what: 'swelling', words: null, rule: { kind: 'every', hours: 24, forDays: null }, condition: 'always' }], done: done(5, 12), rules: { lid: 'sealed' },
    },
    celtuce: {
      ...head(6, 1), celsius: { least: 17, most: 22 }, name: 'Celtuce sticks', style: 'brinedWhole', form: 'sticks', produce: [of('celtuce')], saltBasis: 'ofWater', saltFraction: 0.06, waterPerProduce: 0.62,
      lines: [line('dill', 'mainMass', null, { written: 'a pinch' }), line('leaf', 'vessel', 20, { pieceGrams: 20 }), line('firming', 'jar', 0.8, { perMl: 500 })],
      solidsFraction: 0.6, yields: { trim: 0.62, ferment: 0.95, pack: 0.97 }, usualDays: 6, referenceGrams: 3000, note: 'Quick: five or six days at room temperature, then cold.',
      steps: [step('weigh', 'Peel until no string is left, cut to the height of the jar.'), step('fill', 'Stand the sticks upright, tight. Pour the cool brine.', null, true)],
      checks: demoChecks(3), done: done(4, 9),
    },
    ramsons: {
      ...head(7, 1), name: 'Ramson buds in brine', style: 'brinedWhole', form: 'cloves', produce: [of('ramson')], saltBasis: 'ofWater', saltFraction: 0.056, waterPerProduce: 0.8,
      lines: [line('culture', 'everything', 0.0004)], solidsFraction: 0.55, yields: { trim: 0.95, ferment: 0.96, pack: 0.97 }, usualDays: 24, referenceGrams: 2000,
      note: 'A bought culture, because they start slowly. Its wake-up water is on the ledger.',
      steps: [step('inspect', 'Pick over, rinse, drain.'), step('prepare', 'Wake the culture in 100 g of cool water.', 15), step('fill', 'Fill, brine and culture in, airlock on.', null, true)],
      checks: demoChecks(14), done: done(18, 40), rules: { starter: 'culture' },
    },
    swede: {
      ...head(8, 1), celsius: { least: 11, most: 17 }, name: 'Swede and parsnip shred with nigella', style: 'dryShred', form: 'shred', produce: [of('swede', 0.75), of('parsnip', 0.25)], saltBasis: 'ofVegetable', saltFraction: 0.023,
      lines: [line('nigella', 'mainMass', 0.004), line('kept', 'mainMass', 0.02)], yields: { trim: 0.82, ferment: 0.97, pack: 0.97 }, usualDays: 24, referenceGrams: 10_000,
      note: 'With kept brine of a shred that carries no mustard.',
      steps: [step('weigh', 'Peel, shred, rub the salt in.'), step('rest', 'Rest.', 20), step('fill', 'Kept brine in, press, fill, weight on.', null, true)], checks: demoChecks(14), done: done(18, 40), rules: { starter: 'kept' },
    },
  };
}

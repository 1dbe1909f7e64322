import {
  formatGrams,
  givenDays,
  isoDay,
  jarCode,
  type JarHeat,
  type LabelDesign,
  type LabelFacts,
  type LabelIngredient,
} from '@clear-tally/core';
import type { Reader } from '../db/database.js';
import { refused } from '../journal/refused.js';
import { contentsIn } from './contents.js';
import { heatOf } from './heat.js';
import { loadHouse } from './house.js';
import { ingredientsOf } from './ingredients.js';
import { lotAllergens } from './lotAllergens.js';
import { lotByCode } from './lotByCode.js';
import { jarsOf, loadRun, type RunStanding } from './runs.js';

/** The packing run of a code. @throws {Refused} another lot, or none */
export async function labelledRun(reader: Reader, code: string): Promise<RunStanding> {
  const of = await lotByCode(reader, code);
  if (of.kind !== 'run')
    throw refused('lot.wrongKind', `${of.code} is no packing run. Jars are labelled run by run.`, { field: 'code' });
  return loadRun(reader, of);
}

const laterDay = (iso: string, days: number): string =>
  new Date(Date.parse(`${iso}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** What was ticked and never weighed has no mass, and its allergens stand there all the same: last, by its name. */
function withAll(
  ingredients: readonly LabelIngredient[],
  allergens: Awaited<ReturnType<typeof lotAllergens>>,
): LabelIngredient[] {
  const said = new Set(ingredients.flatMap((one) => one.allergens));
  const may = new Set(ingredients.flatMap((one) => one.mayContain));
  const more = allergens.flatMap(({ words, certain, from }): LabelIngredient[] =>
    said.has(words) || (!certain && may.has(words))
      ? []
      : [
          {
            name: from[0] ?? words,
            grams: 0,
            allergens: certain ? [words] : [],
            mayContain: certain ? [] : [words],
            carried: false,
          },
        ],
  );
  return [...ingredients, ...more];
}

/** What a jar of a run says, by the ledger; and why it says what nobody typed. */
export async function labelFacts(
  reader: Reader,
  run: RunStanding,
  design: LabelDesign,
  serial: number,
): Promise<{ facts: LabelFacts; because: string[] }> {
  const { timeZone } = await loadHouse(reader);
  const ingredients = withAll(await ingredientsOf(reader, run), await lotAllergens(reader, run.lotId));
  const range = (await jarsOf(reader, [run.lotId])).find(({ first, last }) => first <= serial && last >= serial);
  const { jars } = await heatOf(reader, run);
  const heated = isHeated(jars.find(({ first, last }) => first <= serial && last >= serial)?.heat);
  const salt = await contentsIn(reader, run.lotId);
  const packedOn = isoDay(run.packedAt, timeZone);
  const days = givenDays({ labelDays: design.untilDays, storage: run.storage, heated });
  const because = [
    heated
      ? '“Heat treated” stands there because its load met the process.'
      : '“Live” stands there because it was not heated to a process.',
    ...ingredients
      .filter(({ allergens }) => allergens.length > 0)
      .map(
        ({ name, allergens, carried }) =>
          `${allergens.join(', ')}: marked because ${name.toLowerCase()} ${carried ? 'carried it' : 'went in'}.`,
      ),
    ...(ingredients.length === 0 ? ['What went in is not known: it is from before these records.'] : []),
  ];
  return {
    because,
    facts: {
      name: run.name,
      ingredients,
      netGrams: range?.netGrams ?? 0,
      drainedGrams:
        salt.known && salt.vegetableGrams > 0 && range ? (range.netGrams * salt.vegetableGrams) / salt.grams : null,
      packedOn,
      until: days === null ? null : { kind: design.until, on: laterDay(packedOn, days) },
      storage: run.storage,
      heated,
      saltPer100: salt.known && salt.grams > 0 ? (salt.saltGrams / salt.grams) * 100 : null,
      code: jarCode(run.code, serial).text,
      producer: design.producer,
      text: design.text,
    },
  };
}

export interface LabelPart {
  readonly first: number;
  readonly last: number;
  readonly netGrams: number;
  readonly sizeMl: number;
  readonly heated: boolean;
}

/** A bottle whose seal failed went through the same heat as its like. */
const isHeated = (heat: JarHeat | undefined): boolean => heat === 'met' || heat === 'notTight';

/** Stretches of jars whose labels say the same: of one size, heated or live. */
export async function labelParts(reader: Reader, run: RunStanding): Promise<LabelPart[]> {
  const { jars } = await heatOf(reader, run);
  const found: LabelPart[] = [];
  for (const { netGrams, sizeMl, ...range } of await jarsOf(reader, [run.lotId]))
    for (const one of jars) {
      const [first, last] = [Math.max(range.first, one.first), Math.min(range.last, one.last)];
      if (first > last) continue;
      const heated = isHeated(one.heat);
      const before = found.at(-1);
      if (before && before.netGrams === netGrams && before.sizeMl === sizeMl && before.heated === heated)
        found[found.length - 1] = { ...before, last };
      else found.push({ first, last, netGrams, sizeMl, heated });
    }
  return found;
}

export const partWords = ({ netGrams, sizeMl, heated }: LabelPart): string =>
  `${formatGrams(netGrams)} in ${sizeMl} mL, ${heated ? 'heated' : 'not heated'}`;

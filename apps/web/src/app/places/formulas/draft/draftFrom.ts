import { BY_FRACTION, type ReadLine, type ReadRecipe, readStep, type ScaleBy } from '@clear-tally/core';
import type { FileFormula, FormulaReply } from '@clear-tally/contract';
import { type Draft, type DraftHeavy, emptyLine, emptyStep, newDraft, newKey, NOT_SAID } from './draft';

const plain = (value: number): string => String(Number(value.toPrecision(6)));
const perCent = (fraction: number | undefined): string => (fraction === undefined ? '' : plain(fraction * 100));

/** A line's amount in the words the editor reads again. */
export function amountWords(amount: number | null, scaleBy: ScaleBy): string {
  if (amount === null) return '';
  if (scaleBy === 'saltMass') return `${plain(amount * 100)} %`;
  return BY_FRACTION.has(scaleBy) ? `${plain(amount * 1000)} g per kg` : `${plain(amount)} g`;
}

type Named = Omit<FileFormula, 'produce' | 'lines' | 'saltMaterial'> & {
  readonly produce: readonly { readonly material: string; readonly share: number }[];
  readonly lines: readonly (Omit<FileFormula['lines'][number], 'material'> & { readonly material: string })[];
  readonly saltMaterial: string | null;
};

/** A formula of the book, opened for a new version or, with a number of its own, as a copy. */
export function draftFromFormula(formula: FormulaReply, copy?: { number: number }): Draft {
  const named: Named = {
    ...formula,
    produce: formula.produce.map(({ name, share }) => ({ material: name, share })),
    lines: formula.lines.map(({ name, ...line }) => ({ ...line, material: name })),
    saltMaterial: formula.saltName,
  };
  const draft = draftFromNamed(named, formula.number);
  return copy
    ? { ...draft, number: copy.number, name: `${formula.name}, copy` }
    : { ...draft, formulaId: formula.formulaId, base: formula.version };
}

/** A formula out of a file. */
export const draftFromFile = (formula: FileFormula, number: number): Draft =>
  draftFromNamed({ ...formula, saltMaterial: formula.saltMaterial ?? null }, number);

function draftFromNamed(formula: Named, number: number): Draft {
  const reference = formula.referenceGrams ?? 1000;
  const { heavy } = formula;
  return newDraft(number, {
    name: formula.name,
    style: formula.style,
    form: formula.form ?? 'wholeSmall',
    makes: formula.makes ?? '',
    produce: formula.produce.map((part) => ({
      key: newKey(),
      material: part.material,
      amount: `${plain(part.share * reference)} g`,
    })),
    saltBasis: formula.saltBasis,
    salt: formula.saltFraction === null ? '' : `${perCent(formula.saltFraction)} %`,
    saltMaterial: formula.saltMaterial ?? '',
    saltWritten: formula.saltWritten ?? '',
    water:
      formula.waterPerProduce === null
        ? ''
        : formula.waterPerProduce === 0
          ? '0'
          : `${plain(formula.waterPerProduce * 1000)} g per kg`,
    heavy: heavy
      ? ({
          minutes: plain(heavy.minutes),
          cut: heavy.cut,
          rinses: plain(heavy.rinses),
          litresPerKg: plain(heavy.litresPerKg),
          drain: perCent(heavy.drainYield),
          wanted: perCent(heavy.wanted),
        } satisfies DraftHeavy)
      : null,
    lines: formula.lines.map((line) => ({
      key: newKey(),
      material: line.material,
      amount: amountWords(line.amount, line.scaleBy),
      scaleBy: line.scaleBy,
      perMl: line.perMl ? plain(line.perMl) : '',
      exponent: line.exponent && line.exponent !== 1 ? plain(line.exponent) : '',
      least: line.least == null ? '' : amountWords(line.least, line.scaleBy),
      most: line.most == null ? '' : amountWords(line.most, line.scaleBy),
      pieceGrams: line.pieceGrams ?? null,
      variants: line.variants ?? null,
      note: line.note ?? '',
      written: line.written ?? '',
    })),
    variants: formula.variants ?? [],
    trim: perCent(formula.yields.trim),
    ferment: perCent(formula.yields.ferment),
    pack: perCent(formula.yields.pack),
    finish: perCent(formula.yields.finish),
    solids: perCent(formula.solidsFraction),
    jars: formula.jarSizes.map((jar) => ({
      sizeMl: plain(jar.sizeMl),
      fillGrams: plain(jar.fillGrams),
      perCase: jar.perCase ? plain(jar.perCase) : '',
      packagingCost: jar.packagingCost === undefined ? '' : plain(jar.packagingCost),
      price: jar.price === undefined ? '' : plain(jar.price),
    })),
    usualDays: String(formula.usualDays),
    coolest: formula.celsius ? plain(formula.celsius.least) : '',
    warmest: formula.celsius ? plain(formula.celsius.most) : '',
    note: formula.note ?? '',
    steps: (formula.steps ?? []).map((step) => ({
      ...emptyStep(step.words),
      minutes: step.minutes ? plain(step.minutes) : '',
      irreversible: step.irreversible ?? false,
      at: step.at ?? '',
    })),
    checks: formula.checks ?? [],
    done: formula.done ?? null,
    windows: formula.windows ?? [],
    equipment: (formula.equipment ?? []).map(({ words }) => words).join(', '),
    labourFixed: formula.labour ? plain(formula.labour.fixedMinutes) : '',
    labourPerKg: formula.labour ? plain(formula.labour.minutesPerKg) : '',
    rules: formula.rules ?? {},
  });
}

/** What the house knows, for a recipe that is taken in. */
export interface KnownHere {
  readonly isProduce: (name: string) => boolean;
  /** What the house calls brine that was kept; null: it keeps none yet. */
  readonly keptBrine?: string | null;
}

/**
 * A recipe with its own words: every line keeps what was written, what is not said stays open. What the house
 * knows as produce becomes the main produce; of several unknown ones none is guessed. Yields, days and solids that
 * nobody said are empty.
 */
export function draftFromRecipe(recipe: ReadRecipe, number: number, known: KnownHere): Draft {
  const salt = recipe.lines.find((line) => line.role === 'salt');
  const water = recipe.lines.find((line) => line.role === 'water');
  const of = (role: ReadLine['role']): readonly ReadLine[] => recipe.lines.filter((line) => line.role === role);
  const produce = recipe.lines.filter(
    (line) => line.role === 'produce' || (line.role === 'line' && known.isProduce(line.name)),
  );
  const second = recipe.lines.filter(
    (line) => (line.role === 'salt' || line.role === 'water') && line !== salt && line !== water,
  );
  const others = recipe.lines.filter(
    (line) => ['line', 'brine', 'starter'].includes(line.role) && !produce.includes(line),
  );
  const steps = [...recipe.steps, ...of('step').map(({ name }) => name)];
  const said = steps.map(readStep);
  const days = said.map((one) => one.days).find((one) => one !== null) ?? null;
  const warmth = said.map((one) => one.celsius).find((one) => one !== null && one.least < one.most) ?? null;
  const packaging = of('packaging').map(({ written }) => written);
  const wet = water !== undefined || salt?.basis === 'ofWater' || salt?.basis === 'ofSolution';
  return newDraft(number, {
    ...NOT_SAID,
    name: recipe.name.slice(0, 120),
    note: [recipe.note, packaging.length > 0 && `Packed in: ${packaging.join(', ')}.`]
      .filter(Boolean)
      .join(' ')
      .slice(0, 1000),
    marks: [
      ...recipe.marks,
      ...second.map(({ written }) => `“${written}” stands there too: it is taken as a line of its own.`),
      ...(days && days.from !== days.to
        ? [`It stands ${days.from} to ${days.to} days: say which of them is usual, and taste from the first on.`]
        : []),
    ],
    produce:
      produce.length > 0
        ? produce.map((line) => ({ key: newKey(), material: line.name, amount: line.amount ?? '' }))
        : [{ key: newKey(), material: '', amount: '' }],
    salt: salt?.amount ?? '',
    saltBasis: salt?.basis ?? null,
    saltMaterial: salt && salt.name.toLowerCase() !== 'salt' ? salt.name : '',
    saltWritten: [salt?.written, water?.written].filter(Boolean).join(', ').slice(0, 200),
    water: water?.amount ?? '',
    style: wet ? 'brinedWhole' : 'dryShred',
    ...(wet ? {} : { form: 'shred' as const }),
    usualDays: days && days.from === days.to ? String(days.from) : '',
    ...(days && days.from !== days.to ? { saidDays: `${days.from} to ${days.to}` } : {}),
    coolest: warmth ? plain(warmth.least) : '',
    warmest: warmth ? plain(warmth.most) : '',
    lines: [...others, ...second].map((line) => ({
      ...emptyLine(line.role === 'brine' ? (known.keptBrine ?? line.name) : line.name, line.amount ?? ''),
      written: line.written,
    })),
    steps: steps.map((words, index) => ({
      ...emptyStep(words.slice(0, 500)),
      minutes: said[index]!.minutes === null ? '' : plain(said[index]!.minutes!),
    })),
  });
}

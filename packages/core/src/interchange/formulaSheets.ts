import { type Beginning, BEGINNING_KEYS, BEGINNINGS } from '../formula/beginnings.js';
import type { SaltBasis } from '../salt/bases.js';
import { SALT_BASES } from '../salt/bases.js';
import { BASIS_WORDS } from '../scaling/working.js';
import { key, type SheetReading, type SheetRow } from './sheetReading.js';

/** A row a formula. Salt that is not known stays open; it is asked before the first batch. */
export const FORMULA_HEADS = [
  'Formula*',
  'Made as*',
  'Salt %',
  'Salt is',
  'Salt',
  'Water per kg of produce, g',
  'Trims to %*',
  'Ferments to %*',
  'Packs to %*',
  'Jar, mL*',
  'Filled into a jar, g*',
  'Days*',
  'First tasted on day',
] as const;

/** A row a line: produce by its share, anything else by one of the amounts. */
export const LINE_HEADS = [
  'Formula*',
  'Material*',
  'Share of produce %',
  'Per kg of produce, g',
  'Per kg of salt, g',
  'Per jar, g',
] as const;

export interface FormulaRow {
  readonly name: string;
  readonly made: Beginning;
  readonly saltFraction: number | null;
  readonly saltBasis: SaltBasis | null;
  /** The material, by its name. */
  readonly salt: string | null;
  /** Grams per gram; null: in brine, and nobody says how much. */
  readonly waterPerProduce: number | null;
  readonly yields: { readonly trim: number; readonly ferment: number; readonly pack: number };
  readonly jar: { readonly sizeMl: number; readonly fillGrams: number };
  readonly usualDays: number;
  readonly firstTaste: number;
  readonly produce: readonly { readonly material: string; readonly share: number }[];
  /** An amount nobody knows stays open. */
  readonly lines: readonly {
    readonly material: string;
    readonly scaleBy: 'mainMass' | 'saltMass' | 'jar';
    readonly amount: number | null;
  }[];
}

interface Line {
  readonly row: SheetRow;
  readonly material: string;
  /** Per cent of the produce; null: of the only one. */
  readonly share: number | null;
  readonly isProduce: boolean;
  readonly scaleBy: 'mainMass' | 'saltMass' | 'jar';
  readonly amount: number | null;
}

/** Shares in whole per cents may miss a hundred by their roundings. */
const ROUNDING = 0.5;

/** Per cent, or so many grams to the thousand, as a fraction without the dust of binary figures. */
const over = (figure: number, whole: number): number => Number((figure / whole).toPrecision(12));

const named = (all: readonly string[], said: string): string | undefined => all.find((one) => key(one) === key(said));

/**
 * Formulas with their lines. Nothing is invented: what is no row and no cell is a hole of the formula. What a house has
 * under that name already is left as it is, with its lines.
 */
export function readFormulas(
  reading: SheetReading,
  of: {
    readonly formulas: readonly SheetRow[];
    readonly lines: readonly SheetRow[];
    readonly known: readonly string[];
    /** Kinds of material by their names, of the house and of the workbook. */
    readonly kinds: Readonly<Record<string, string>>;
  },
): FormulaRow[] {
  const materials = Object.keys(of.kinds);
  const names = of.formulas.map((row) => reading.at(row, 'Formula')).filter((name) => name !== '');
  const lines = new Map<string, Line[]>();
  for (const row of of.lines) {
    const name = reading.words(row, 'Formula', 120);
    if (name === null) continue;
    if (named(of.known, name) !== undefined && named(names, name) === undefined) {
      reading.known += 1;
      continue;
    }
    if (named(names, name) === undefined) {
      reading.faultAt(row, 'Formula', `“${name}” stands on no row of the sheet Formulas.`);
      continue;
    }
    const line = readLine(reading, row, materials, of.kinds);
    if (line) lines.set(key(name), [...(lines.get(key(name)) ?? []), line]);
  }
  return of.formulas.flatMap((row) => {
    const name = reading.at(row, 'Formula');
    return readFormula(reading, row, {
      lines: lines.get(key(name)) ?? [],
      known: of.known,
      materials,
      kinds: of.kinds,
    });
  });
}

function readLine(
  reading: SheetReading,
  row: SheetRow,
  materials: readonly string[],
  kinds: Readonly<Record<string, string>>,
): Line | null {
  const said = reading.words(row, 'Material', 120);
  if (said === null) return null;
  const material = named(materials, said);
  if (material === undefined) {
    reading.faultAt(row, 'Material', `“${said}” is no material of this house, and none of the sheet Materials.`);
    return null;
  }
  const share = reading.number(row, 'Share of produce %', 0.1, 100, undefined);
  const amounts = [
    ['mainMass', reading.number(row, 'Per kg of produce, g', 0.001, 2000, undefined), 1000],
    ['saltMass', reading.number(row, 'Per kg of salt, g', 0.001, 20_000, undefined), 1000],
    ['jar', reading.number(row, 'Per jar, g', 0.001, 5000, undefined), 1],
  ] as const;
  if (share === null || amounts.some(([, amount]) => amount === null)) return null;
  const given = amounts.filter(([, amount]) => amount !== undefined);
  if (given.length + (share === undefined ? 0 : 1) > 1) {
    reading.faultAt(
      row,
      'Share of produce %',
      `${material} has more than one amount: one of the columns is filled in.`,
    );
    return null;
  }
  const isProduce = kinds[material] === 'produce' && given.length === 0;
  if (share !== undefined && kinds[material] !== 'produce') {
    reading.faultAt(row, 'Share of produce %', `${material} is no produce: it has an amount, not a share.`);
    return null;
  }
  const [scaleBy, amount, per] = given[0] ?? (['mainMass', undefined, 1000] as const);
  return { row, material, share: share ?? null, isProduce, scaleBy, amount: amount == null ? null : over(amount, per) };
}

function readFormula(
  reading: SheetReading,
  row: SheetRow,
  of: {
    readonly lines: readonly Line[];
    readonly known: readonly string[];
    readonly materials: readonly string[];
    readonly kinds: Readonly<Record<string, string>>;
  },
): FormulaRow[] {
  const name = reading.words(row, 'Formula', 120);
  const made = madeAs(reading, row);
  const salt = reading.number(row, 'Salt %', 0.1, 30, undefined);
  const basis = basisOf(reading, row);
  const saltName = saltOf(reading, row, of);
  const water = reading.number(row, 'Water per kg of produce, g', 0, 5000, undefined);
  const yields = (['Trims to %', 'Ferments to %', 'Packs to %'] as const).map((head) =>
    reading.number(row, head, 1, 100),
  );
  const sizeMl = reading.number(row, 'Jar, mL', 20, 20_000);
  const fillGrams = reading.number(row, 'Filled into a jar, g', 1, 25_000);
  const days = reading.number(row, 'Days', 1, 800);
  const taste = reading.number(row, 'First tasted on day', 0, 800, undefined);
  const [trim, ferment, pack] = yields;
  if (name === null || !reading.fresh(row, 'Formula', name, of.known)) return [];
  const produce = sharesOf(reading, row, name, of.lines);
  if (made === null || salt === null || basis === undefined || saltName === undefined || water === null) return [];
  if (trim == null || ferment == null || pack == null || sizeMl === null || fillGrams === null) return [];
  if (days === null || taste === null || produce === null) return [];
  return [
    {
      name,
      made,
      saltFraction: salt === undefined ? null : over(salt, 100),
      saltBasis: basis,
      salt: saltName,
      waterPerProduce: water === undefined ? (made === 'shred' ? 0 : null) : over(water, 1000),
      yields: { trim: over(trim, 100), ferment: over(ferment, 100), pack: over(pack, 100) },
      jar: { sizeMl: Math.round(sizeMl), fillGrams },
      usualDays: Math.round(days),
      firstTaste: Math.round(taste ?? BEGINNINGS[made].firstTaste),
      produce,
      lines: of.lines
        .filter(({ isProduce }) => !isProduce)
        .map(({ material, scaleBy, amount }) => ({ material, scaleBy, amount })),
    },
  ];
}

function madeAs(reading: SheetReading, row: SheetRow): Beginning | null {
  const words = BEGINNING_KEYS.map((one) => BEGINNINGS[one].words);
  const said = reading.oneOf(row, 'Made as', words);
  return said === null ? null : BEGINNING_KEYS[words.indexOf(said)]!;
}

/** Null where nobody says, undefined where it cannot be read. */
function basisOf(reading: SheetReading, row: SheetRow): SaltBasis | null | undefined {
  const said = reading.at(row, 'Salt is');
  if (said === '') return null;
  const found = SALT_BASES.find((one) => key(BASIS_WORDS[one]) === key(said) || key(one) === key(said));
  if (found === undefined)
    reading.faultAt(
      row,
      'Salt is',
      `“${said}” was given; accepted: ${SALT_BASES.map((one) => BASIS_WORDS[one]).join(', ')}.`,
    );
  return found;
}

function saltOf(
  reading: SheetReading,
  row: SheetRow,
  { materials, kinds }: { readonly materials: readonly string[]; readonly kinds: Readonly<Record<string, string>> },
): string | null | undefined {
  const said = reading.at(row, 'Salt');
  if (said === '') return null;
  const found = named(
    materials.filter((one) => kinds[one] === 'salt'),
    said,
  );
  if (found === undefined)
    reading.faultAt(row, 'Salt', `“${said}” is no salt of this house, and none of the sheet Materials.`);
  return found;
}

/** What it is made of, in shares that make a whole; null where they do not. */
function sharesOf(
  reading: SheetReading,
  row: SheetRow,
  name: string,
  lines: readonly Line[],
): { material: string; share: number }[] | null {
  const parts = lines.filter(({ isProduce }) => isProduce);
  if (parts.length === 0) {
    reading.faultAt(
      row,
      'Formula',
      `No row of the sheet Formula lines says of what ${name} is made: its produce, with its share.`,
    );
    return null;
  }
  if (parts.length === 1 && parts[0]!.share === null) return [{ material: parts[0]!.material, share: 1 }];
  const open = parts.find(({ share }) => share === null);
  if (open) {
    reading.faultAt(open.row, 'Share of produce %', `${open.material}: its share of the produce is missing.`);
    return null;
  }
  const sum = Math.round(parts.reduce((all, { share }) => all + share!, 0) * 10) / 10;
  if (Math.abs(sum - 100) > ROUNDING) {
    reading.faultAt(row, 'Formula', `The shares of ${name} make ${sum} %, not 100 %.`);
    return null;
  }
  return parts.map(({ material, share }) => ({ material, share: share! / sum }));
}

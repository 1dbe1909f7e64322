import { key, type SheetReading, type SheetRow } from './sheetReading.js';

/** What stands in a house before its book begins: live vessels, and jars on a shelf. */
export const STANDING_HEADS = [
  'What*',
  'Name*',
  'Vessel',
  'Stands in it, kg',
  'Jars',
  'Jar, mL',
  'Net of each, g',
  'Filled on',
] as const;

export type StandingRow =
  | {
      readonly what: 'vessel';
      readonly name: string;
      readonly tag: string;
      readonly grams: number;
      readonly filledOn: string | null;
    }
  | {
      readonly what: 'jars';
      readonly name: string;
      readonly count: number;
      readonly sizeMl: number;
      readonly netGrams: number;
      readonly filledOn: string | null;
    };

/** Lots from before the book. A vessel that holds something, and jars of a name and count that stand here, are known. */
export function readStanding(
  reading: SheetReading,
  rows: readonly SheetRow[],
  there: {
    readonly tags: readonly string[];
    readonly taken: readonly string[];
    readonly runs: readonly { readonly name: string; readonly jars: number }[];
  },
): StandingRow[] {
  return rows.flatMap((row): StandingRow[] => {
    const what = reading.oneOf(row, 'What', ['vessel', 'jars']);
    const name = reading.words(row, 'Name', 120);
    const filledOn = reading.day(row, 'Filled on');
    if (what === null || name === null || filledOn === undefined) return [];
    if (what === 'vessel') {
      const said = reading.at(row, 'Vessel');
      const tag = there.tags.find((one) => key(one) === key(said));
      if (tag === undefined)
        reading.faultAt(
          row,
          'Vessel',
          said === ''
            ? 'Which vessel is missing.'
            : `“${said}” is no vessel of this house, and none of the sheet Vessels.`,
        );
      const kilograms = reading.number(row, 'Stands in it, kg', 0.001, 2000);
      if (tag === undefined || kilograms === null) return [];
      return reading.fresh(row, 'Vessel', tag, there.taken)
        ? [{ what, name, tag, grams: Math.round(kilograms * 1e6) / 1e3, filledOn }]
        : [];
    }
    const count = reading.number(row, 'Jars', 1, 99_999);
    const sizeMl = reading.number(row, 'Jar, mL', 20, 20_000);
    const netGrams = reading.number(row, 'Net of each, g', 1, 25_000);
    if (count === null || sizeMl === null || netGrams === null) return [];
    if (!Number.isInteger(count)) {
      reading.faultAt(row, 'Jars', `“${count}” was given: jars are counted.`);
      return [];
    }
    if (there.runs.some((run) => key(run.name) === key(name) && run.jars === count)) {
      reading.known += 1;
      return [];
    }
    return [{ what, name, count, sizeMl: Math.round(sizeMl), netGrams, filledOn }];
  });
}

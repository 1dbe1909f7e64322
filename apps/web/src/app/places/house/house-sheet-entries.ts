import type { BodyOf, Entry, EntryKind } from '@clear-tally/contract';
import { BEGINNINGS, type FormulaRow, type HouseRead, type StandingRow, usualChecks } from '@clear-tally/core';

type MakeEntry = <K extends EntryKind>(kind: K, body: BodyOf<K>) => Entry;

/** Ids of what stands in the house, by the words a workbook names it with. */
export interface HouseIds {
  readonly rooms: ReadonlyMap<string, string>;
  readonly vessels: ReadonlyMap<string, string>;
  readonly materials: ReadonlyMap<string, string>;
  /** Numbers of formulas that are taken. */
  readonly numbers: readonly number[];
}

/** What a workbook brings, as entries in the order they need each other: rooms before vessels, materials before formulas. */
export function entriesOf(read: HouseRead, there: HouseIds, entry: MakeEntry, newId: () => string): Entry[] {
  const withNew = <R>(known: ReadonlyMap<string, string>, rows: readonly R[], name: (row: R) => string) =>
    new Map([...known, ...rows.map((row) => [name(row), newId()] as const)]);
  const rooms = withNew(there.rooms, read.rooms, ({ name }) => name);
  const vessels = withNew(there.vessels, read.vessels, ({ tag }) => tag);
  const materials = withNew(there.materials, read.materials, ({ name }) => name);
  const first = Math.max(0, ...there.numbers) + 1;
  return [
    ...read.rooms.map(({ name, usualCelsius }, index) =>
      entry('room.add', {
        roomId: rooms.get(name)!,
        name,
        usualCelsius,
        position: there.rooms.size + index + 1,
      }),
    ),
    ...read.vessels.map(({ room, details, ...vessel }) =>
      entry('vessel.add', {
        ...vessel,
        details: said(details),
        vesselId: vessels.get(vessel.tag)!,
        roomId: rooms.get(room)!,
        inUse: true,
      } as BodyOf<'vessel.add'>),
    ),
    ...read.suppliers.map((one) => entry('supplier.add', { ...one, supplierId: newId() })),
    ...read.materials.map(({ trimYield, gramsPer15Ml, purity, group, atDoor, allergens, ...one }) =>
      entry('material.add', {
        ...one,
        materialId: materials.get(one.name)!,
        allergens: [...allergens],
        caution: null,
        details: {
          trimYield,
          gramsPer15Ml,
          ...(purity === null ? {} : { purity }),
          ...(group ? { group } : {}),
          ...(atDoor.length > 0 ? { atDoor: [...atDoor] } : {}),
        },
      } as BodyOf<'material.add'>),
    ),
    ...read.people.map((one) =>
      entry('person.add', { ...one, personId: newId(), lastDay: null } as BodyOf<'person.add'>),
    ),
    ...read.equipment.map(({ room, ...one }) =>
      entry('equipment.add', {
        ...one,
        equipmentId: newId(),
        roomId: room === null ? null : rooms.get(room)!,
        inUse: true,
      }),
    ),
    ...read.formulas.map((row, index) =>
      entry('formula.save', { ...formulaOf(row, materials), formulaId: newId(), number: first + index, version: 1 }),
    ),
    ...read.standing.map((row) => entry('lot.open', openingOf(row, vessels, newId))),
  ];
}

/** Only what was said. */
const said = (details: HouseRead['vessels'][number]['details']): object =>
  Object.fromEntries(Object.entries(details).filter(([, value]) => value !== null));

function formulaOf(
  row: FormulaRow,
  materials: ReadonlyMap<string, string>,
): Omit<BodyOf<'formula.save'>, 'formulaId' | 'number' | 'version'> {
  const { style, form, solidsFraction } = BEGINNINGS[row.made];
  return {
    name: row.name,
    style,
    form,
    solidsFraction,
    saltBasis: row.saltBasis,
    saltFraction: row.saltFraction,
    ...(row.salt === null ? {} : { saltMaterialId: materials.get(row.salt)! }),
    waterPerProduce: row.waterPerProduce,
    produce: row.produce.map(({ material, share }) => ({ materialId: materials.get(material)!, share })),
    lines: row.lines.map(({ material, scaleBy, amount }) => ({
      materialId: materials.get(material)!,
      scaleBy,
      amount,
    })),
    yields: row.yields,
    jarSizes: [row.jar],
    usualDays: row.usualDays,
    checks: usualChecks(row.firstTaste),
    note:
      solidsFraction < 1
        ? `From a workbook. That ${Math.round(solidsFraction * 100)} % of a jar are solids is a usual value: weigh one of yours.`
        : 'From a workbook.',
  };
}

function openingOf(row: StandingRow, vessels: ReadonlyMap<string, string>, newId: () => string): BodyOf<'lot.open'> {
  const common = { batchId: newId(), name: row.name, filledOn: row.filledOn };
  return row.what === 'vessel'
    ? { what: 'vessel', ...common, fillLotId: newId(), vesselId: vessels.get(row.tag)!, grams: row.grams }
    : {
        what: 'jars',
        ...common,
        runLotId: newId(),
        jars: [{ sizeMl: row.sizeMl, netGrams: row.netGrams, count: row.count }],
      };
}

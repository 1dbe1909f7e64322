import { EQUIPMENT_KINDS, type EquipmentKind, isScaleSaid } from '../equipment/index.js';
import { ALLERGEN_KEYS, ALLERGENS } from '../rollup/allergens.js';
import { PRODUCE_GROUPS, type ProduceGroup } from '../formula/scope.js';
import { DOOR_ASK_WORDS, DOOR_ASKS, type DoorAsk } from '../stores/atDoor.js';
import { countsAs } from '../stores/countsAs.js';
import type { DecimalMark } from '../units/parseNumber.js';
import { VESSEL_MATERIALS, type VesselMaterial } from '../vessels/materials.js';
import { readTags } from '../vessels/tags.js';
import { FORMULA_HEADS, type FormulaRow, LINE_HEADS, readFormulas } from './formulaSheets.js';
import { type CellFault, key, SheetReading, type SheetRead, type SheetRow } from './sheetReading.js';
import { readStanding, STANDING_HEADS, type StandingRow } from './standingSheet.js';

/** What one workbook brings of a house, sheet by sheet, with the heads of its columns; starred ones must be there. */
export const HOUSE_SHEETS = {
  Rooms: ['Room*', 'Usual °C*'],
  Vessels: [
    'Tag*',
    'Shape*',
    'Litres to the brim*',
    'Filled from %',
    'Filled to %*',
    'Weight mL',
    'Closure*',
    'Room*',
    'Made of',
    'Mouth mm',
    'Empty, g',
    'Bought on',
  ],
  Suppliers: ['Supplier*', 'Head of codes*', 'Own plot'],
  Materials: [
    'Material*',
    'Kind*',
    'Water %*',
    'Salt %',
    'Trims to %',
    'Allergens',
    'Spoon of 15 mL, g',
    'Group',
    'Asked at the door',
  ],
  People: ['Name*', 'Initials*', 'Role*'],
  Equipment: ['Tag*', 'What*', 'Name*', 'Weighs up to, g', 'Smallest step, g', 'How many', 'In words', 'Room'],
  Formulas: FORMULA_HEADS,
  'Formula lines': LINE_HEADS,
  Standing: STANDING_HEADS,
} as const;
export type HouseSheet = keyof typeof HOUSE_SHEETS;

export interface RoomRow {
  readonly name: string;
  readonly usualCelsius: number;
}
export interface VesselRow {
  readonly tag: string;
  readonly shape: string;
  readonly brimMl: number;
  readonly minFill: number;
  readonly maxFill: number;
  readonly weightVolumeMl: number;
  readonly closure: string;
  readonly room: string;
  readonly details: {
    readonly material: VesselMaterial | null;
    readonly mouthMm: number | null;
    readonly tareGrams: number | null;
    readonly boughtOn: string | null;
  };
}
export interface SupplierRow {
  readonly name: string;
  readonly prefix: string;
  readonly ownPlot: boolean;
}
export interface MaterialRow {
  readonly name: string;
  readonly kind: string;
  readonly waterFraction: number;
  readonly saltFraction: number;
  /** Of a salt that is less than pure; it counts as it is weighed all the same. */
  readonly purity: number | null;
  readonly trimYield: number | null;
  readonly allergens: readonly string[];
  readonly gramsPer15Ml: number | null;
  readonly group: ProduceGroup | null;
  readonly atDoor: readonly DoorAsk[];
}
export interface PersonRow {
  readonly name: string;
  readonly initials: string;
  readonly role: string;
}

export interface EquipmentRow {
  readonly tag: string;
  readonly kind: EquipmentKind;
  readonly name: string;
  readonly capacityGrams: number | null;
  readonly stepGrams: number | null;
  readonly count: number | null;
  readonly words: string | null;
  readonly room: string | null;
}

export interface HouseRead {
  readonly rooms: readonly RoomRow[];
  readonly vessels: readonly VesselRow[];
  readonly suppliers: readonly SupplierRow[];
  readonly materials: readonly MaterialRow[];
  readonly people: readonly PersonRow[];
  readonly equipment: readonly EquipmentRow[];
  readonly formulas: readonly FormulaRow[];
  readonly standing: readonly StandingRow[];
  /** Rows that name what is in the house already: left as it is there. */
  readonly known: number;
  /** Nothing is taken in while there is one. */
  readonly faults: readonly CellFault[];
}

/** What stands in the house, by the words its rows are told apart with. */
export interface HouseKnown {
  readonly rooms: readonly string[];
  readonly tags: readonly string[];
  readonly suppliers: readonly string[];
  readonly prefixes: readonly string[];
  readonly materials: readonly string[];
  readonly people: readonly string[];
  readonly initials: readonly string[];
  /** Tags of scales, tools, parts and water sources. */
  readonly equipment: readonly string[];
  readonly formulas: readonly string[];
  /** What each material is, by its name. */
  readonly kinds: Readonly<Record<string, string>>;
  /** Tags of vessels that hold something. */
  readonly taken: readonly string[];
  /** Jars that stand in the house: name and count of each run. */
  readonly runs: readonly { readonly name: string; readonly jars: number }[];
}

/** The words of the house that a sheet, an entry and a field all choose from. */
export const VESSEL_SHAPES = ['crock', 'drum', 'glass', 'barrel', 'bag', 'pan'] as const;
export const CLOSURES = ['airlock', 'valve', 'loose', 'cloth', 'sealed', 'vacuum'] as const;
export const MATERIAL_KINDS = ['produce', 'salt', 'water', 'flavouring', 'starter', 'packaging'] as const;
export const ROLES = ['owner', 'maker', 'inspector'] as const;

/**
 * Reads a workbook of a house. Every fault names its cell; rows that are there already are counted and left out, so
 * that the same file taken in twice changes nothing. Sheets of other names are left alone.
 */
export function readHouseSheets(input: {
  sheets: readonly SheetRead[];
  known: HouseKnown;
  decimalMark?: DecimalMark;
}): HouseRead {
  const reading = new Reading(input.known, input.decimalMark);
  const of = (name: HouseSheet): SheetRow[] =>
    reading.rowsOf(
      name,
      HOUSE_SHEETS[name],
      input.sheets.find((one) => key(one.name) === key(name)),
    );
  const rooms = of('Rooms').flatMap((row) => reading.room(row));
  const vessels = of('Vessels').flatMap((row) => reading.vessels(row, rooms));
  const suppliers = of('Suppliers').flatMap((row) => reading.supplier(row));
  const materials = of('Materials').flatMap((row) => reading.material(row));
  const people = of('People').flatMap((row) => reading.person(row));
  const equipment = of('Equipment').flatMap((row) => reading.equipment(row, rooms));
  const formulas = readFormulas(reading, {
    formulas: of('Formulas'),
    lines: of('Formula lines'),
    known: input.known.formulas,
    kinds: { ...input.known.kinds, ...Object.fromEntries(materials.map(({ name, kind }) => [name, kind])) },
  });
  const standing = readStanding(reading, of('Standing'), {
    tags: [...input.known.tags, ...vessels.map(({ tag }) => tag)],
    taken: input.known.taken,
    runs: input.known.runs,
  });
  if (input.sheets.every(({ name }) => !Object.keys(HOUSE_SHEETS).some((one) => key(one) === key(name))))
    reading.fault(
      input.sheets[0]?.name ?? 'The workbook',
      null,
      `No sheet is called ${Object.keys(HOUSE_SHEETS).join(', ')}. Take the template, and fill it in.`,
    );
  const { known, faults } = reading;
  return { rooms, vessels, suppliers, materials, people, equipment, formulas, standing, known, faults };
}

class Reading extends SheetReading {
  constructor(
    private readonly there: HouseKnown,
    decimalMark: DecimalMark | undefined,
  ) {
    super(decimalMark);
  }

  room(row: SheetRow): RoomRow[] {
    const name = this.words(row, 'Room', 80);
    const usualCelsius = this.number(row, 'Usual °C', -5, 45);
    if (name === null || usualCelsius === null || !this.fresh(row, 'Room', name, this.there.rooms)) return [];
    return [{ name, usualCelsius }];
  }

  vessels(row: SheetRow, rooms: readonly RoomRow[]): VesselRow[] {
    const { tags, problem } = readTags(this.at(row, 'Tag'));
    if (problem !== null || tags.length === 0)
      this.fault(
        row.sheet,
        this.cell(row, 'Tag'),
        problem ?? 'A tag is missing, such as C1, or G1-G8 for a row of them.',
      );
    const shape = this.oneOf(row, 'Shape', VESSEL_SHAPES);
    const litres = this.number(row, 'Litres to the brim', 0.1, 2000);
    const [least, most] = [this.number(row, 'Filled from %', 0, 100, 0), this.number(row, 'Filled to %', 30, 100)];
    const weight = this.number(row, 'Weight mL', 0, 100_000, 0);
    const details = this.vesselDetails(row);
    const closure = this.oneOf(row, 'Closure', CLOSURES);
    const room = this.words(row, 'Room', 80) === null ? undefined : this.roomNamed(row, rooms);
    if (least !== null && most !== null && least > most)
      this.fault(
        row.sheet,
        this.cell(row, 'Filled from %'),
        `Filled from ${least} to ${most} %: the lower one comes first.`,
      );
    const fresh = tags.filter((tag) => this.fresh(row, 'Tag', tag, this.there.tags));
    if (shape === null || litres === null || least === null || most === null || weight === null) return [];
    if (closure === null || room == null || details === null || least > most) return [];
    return fresh.map((tag) => ({
      tag,
      shape,
      brimMl: Math.round(litres * 1000),
      minFill: least / 100,
      maxFill: most / 100,
      weightVolumeMl: weight,
      closure,
      room,
      details,
    }));
  }

  private vesselDetails(row: SheetRow): VesselRow['details'] | null {
    const material = this.at(row, 'Made of') === '' ? undefined : this.oneOf(row, 'Made of', VESSEL_MATERIALS);
    const mouth = this.number(row, 'Mouth mm', 10, 5000, undefined);
    const tare = this.number(row, 'Empty, g', 1, 1_000_000, undefined);
    const bought = this.day(row, 'Bought on');
    if (material === null || mouth === null || tare === null || bought === undefined) return null;
    return { material: material ?? null, mouthMm: mouth ?? null, tareGrams: tare ?? null, boughtOn: bought };
  }

  supplier(row: SheetRow): SupplierRow[] {
    const name = this.words(row, 'Supplier', 120);
    const prefix = this.at(row, 'Head of codes').toUpperCase();
    if (!/^[A-Z]{2,3}$/.test(prefix))
      this.fault(
        row.sheet,
        this.cell(row, 'Head of codes'),
        `“${prefix}”: two or three letters stand before the codes of this supplier’s lots.`,
      );
    const own = this.oneOf(row, 'Own plot', ['yes', 'no'], 'no');
    if (name === null || own === null || !/^[A-Z]{2,3}$/.test(prefix)) return [];
    if (!this.fresh(row, 'Supplier', name, this.there.suppliers)) return [];
    if (!this.free(row, 'Head of codes', prefix, this.there.prefixes)) return [];
    return [{ name, prefix, ownPlot: own === 'yes' }];
  }

  material(row: SheetRow): MaterialRow[] {
    const name = this.words(row, 'Material', 120);
    const kind = this.oneOf(row, 'Kind', MATERIAL_KINDS);
    const water = this.number(row, 'Water %', 0, 100);
    const salt = this.number(row, 'Salt %', 0, 100, kind === 'salt' ? 100 : 0);
    const trim = this.number(row, 'Trims to %', 1, 100, undefined);
    const spoon = this.number(row, 'Spoon of 15 mL, g', 2, 40, undefined);
    const allergens = this.allergens(row);
    const group = this.at(row, 'Group') === '' ? undefined : this.oneOf(row, 'Group', PRODUCE_GROUPS);
    const atDoor = this.doorAsks(row);
    if (water !== null && salt !== null && water + salt > 100)
      this.fault(
        row.sheet,
        this.cell(row, 'Salt %'),
        `${water} % water and ${salt} % salt are more than there is of it.`,
      );
    if (name === null || kind === null || water === null || salt === null || trim === null || spoon === null) return [];
    if (group === null || atDoor === null) return [];
    if (allergens === null || water + salt > 100 || !this.fresh(row, 'Material', name, this.there.materials)) return [];
    return [
      {
        name,
        kind,
        ...countsAs(kind, { waterFraction: water / 100, saltFraction: salt / 100 }),
        trimYield: trim === undefined ? null : trim / 100,
        allergens,
        gramsPer15Ml: spoon ?? null,
        group: group ?? null,
        atDoor,
      },
    ];
  }

  person(row: SheetRow): PersonRow[] {
    const name = this.words(row, 'Name', 80);
    const initials = this.words(row, 'Initials', 4);
    const role = this.oneOf(row, 'Role', ROLES);
    if (name === null || initials === null || role === null) return [];
    if (!this.fresh(row, 'Name', name, this.there.people)) return [];
    return this.free(row, 'Initials', initials, this.there.initials) ? [{ name, initials, role }] : [];
  }

  equipment(row: SheetRow, rooms: readonly RoomRow[]): EquipmentRow[] {
    const tag = this.at(row, 'Tag').toUpperCase();
    if (!/^[A-Z][A-Z0-9]{0,5}$/.test(tag))
      this.fault(row.sheet, this.cell(row, 'Tag'), `“${tag}”: a tag is a letter and up to five letters or figures.`);
    const kind = this.oneOf(row, 'What', EQUIPMENT_KINDS);
    const name = this.words(row, 'Name', 80);
    const capacity = this.number(row, 'Weighs up to, g', 1, 5_000_000, undefined);
    const step = this.number(row, 'Smallest step, g', 0.001, 5000, undefined);
    const count = this.number(row, 'How many', 0, 10_000, undefined);
    const words = this.at(row, 'In words').slice(0, 200) || null;
    const room = this.roomNamed(row, rooms);
    const lacks = (head: string, what: string): void => this.fault(row.sheet, this.cell(row, head), what);
    if (kind === null || name === null || capacity === null || step === null || count === null) return [];
    if (kind === 'scale' && !isScaleSaid(capacity, step)) {
      lacks('Weighs up to, g', 'A scale has what it weighs at most, and a step of at most a twentieth of that.');
      return [];
    }
    if (kind === 'parts' && (count === undefined || !Number.isInteger(count))) {
      lacks('How many', 'Loose parts are counted: how many there should be.');
      return [];
    }
    if (room === undefined || !/^[A-Z][A-Z0-9]{0,5}$/.test(tag)) return [];
    if (!this.fresh(row, 'Tag', tag, this.there.equipment)) return [];
    const isScale = kind === 'scale';
    return [
      {
        tag,
        kind,
        name,
        capacityGrams: isScale ? (capacity ?? null) : null,
        stepGrams: isScale ? (step ?? null) : null,
        count: kind === 'parts' ? (count ?? null) : null,
        words,
        room,
      },
    ];
  }

  /** A room of this house or of the sheet of rooms; null where none is named, undefined where there is none of that name. */
  private roomNamed(row: SheetRow, rooms: readonly RoomRow[]): string | null | undefined {
    const named = this.at(row, 'Room');
    if (named === '') return null;
    const found = [...this.there.rooms, ...rooms.map(({ name }) => name)].find((one) => key(one) === key(named));
    if (found === undefined)
      this.fault(
        row.sheet,
        this.cell(row, 'Room'),
        `“${named}” is no room of this house, and none of the sheet Rooms.`,
      );
    return found;
  }

  private doorAsks(row: SheetRow): DoorAsk[] | null {
    const said = this.listed(row, 'Asked at the door');
    const found = said.map((one) =>
      DOOR_ASKS.find((ask) => key(ask) === key(one) || key(DOOR_ASK_WORDS[ask]) === key(one)),
    );
    const unknown = said.find((_, index) => found[index] === undefined);
    if (unknown === undefined) return found.filter((one) => one !== undefined);
    this.faultAt(
      row,
      'Asked at the door',
      `“${unknown}” is none of: ${DOOR_ASKS.map((ask) => DOOR_ASK_WORDS[ask]).join('; ')}.`,
    );
    return null;
  }

  private listed = (row: SheetRow, head: string): string[] =>
    this.at(row, head)
      .split(/[,;]/)
      .map((one) => one.trim())
      .filter((one) => one !== '');

  private allergens(row: SheetRow): string[] | null {
    const said = this.listed(row, 'Allergens');
    const found = said.map((one) =>
      ALLERGEN_KEYS.find((of) => key(of) === key(one) || key(ALLERGENS[of].words) === key(one)),
    );
    const unknown = said.find((_, index) => found[index] === undefined);
    if (unknown === undefined) return found.filter((one) => one !== undefined);
    this.fault(
      row.sheet,
      this.cell(row, 'Allergens'),
      `“${unknown}” is none of: ${ALLERGEN_KEYS.map((of) => ALLERGENS[of].words).join(', ')}.`,
    );
    return null;
  }
}

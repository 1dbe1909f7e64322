import { EQUIPMENT_KINDS, type EquipmentKind, isScaleSaid } from '../equipment/index.js';
import { ALLERGEN_KEYS, ALLERGENS } from '../rollup/allergens.js';
import { textFault } from '../typing/index.js';
import { type DecimalMark, parseNumber } from '../units/parseNumber.js';
import { readTags } from '../vessels/tags.js';

/** What one workbook brings of a house, sheet by sheet, with the heads of its columns; starred ones must be there. */
export const HOUSE_SHEETS = {
  Rooms: ['Room*', 'Usual °C*'],
  Vessels: ['Tag*', 'Shape*', 'Litres to the brim*', 'Filled from %', 'Filled to %*', 'Weight mL', 'Closure*', 'Room*'],
  Suppliers: ['Supplier*', 'Head of codes*', 'Own plot'],
  Materials: ['Material*', 'Kind*', 'Water %*', 'Salt %', 'Trims to %', 'Allergens', 'Spoon of 15 mL, g'],
  People: ['Name*', 'Initials*', 'Role*'],
  Equipment: ['Tag*', 'What*', 'Name*', 'Weighs up to, g', 'Smallest step, g', 'How many', 'In words', 'Room'],
} as const;
export type HouseSheet = keyof typeof HOUSE_SHEETS;

/** A sheet as it was read: its rows with their numbers in the file, cells as words. */
export interface SheetRead {
  readonly name: string;
  readonly rows: readonly { readonly row: number; readonly cells: readonly string[] }[];
}

export interface CellFault {
  readonly sheet: string;
  /** "B4"; the sheet as a whole where none is named. */
  readonly cell: string | null;
  readonly words: string;
}

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
  readonly trimYield: number | null;
  readonly allergens: readonly string[];
  readonly gramsPer15Ml: number | null;
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
}

/** The words of the house that a sheet, an entry and a field all choose from. */
export const VESSEL_SHAPES = ['crock', 'drum', 'glass', 'barrel', 'bag', 'pan'] as const;
export const CLOSURES = ['airlock', 'valve', 'loose', 'cloth', 'sealed', 'vacuum'] as const;
export const MATERIAL_KINDS = ['produce', 'salt', 'water', 'flavouring', 'starter', 'packaging'] as const;
export const ROLES = ['owner', 'maker', 'inspector'] as const;
const MOST_ROWS = 5000;

const key = (words: string): string => words.trim().replace(/\s+/g, ' ').toLowerCase();
const bare = (head: string): string => key(head.replace(/\*/g, ''));

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
  const of = (name: HouseSheet): Row[] =>
    reading.rowsOf(
      name,
      input.sheets.find((one) => key(one.name) === key(name)),
    );
  const rooms = of('Rooms').flatMap((row) => reading.room(row));
  const vessels = of('Vessels').flatMap((row) => reading.vessels(row, rooms));
  const suppliers = of('Suppliers').flatMap((row) => reading.supplier(row));
  const materials = of('Materials').flatMap((row) => reading.material(row));
  const people = of('People').flatMap((row) => reading.person(row));
  const equipment = of('Equipment').flatMap((row) => reading.equipment(row, rooms));
  if (input.sheets.every(({ name }) => !Object.keys(HOUSE_SHEETS).some((one) => key(one) === key(name))))
    reading.fault(
      input.sheets[0]?.name ?? 'The workbook',
      null,
      `No sheet is called ${Object.keys(HOUSE_SHEETS).join(', ')}. Take the template, and fill it in.`,
    );
  const { known, faults } = reading;
  return { rooms, vessels, suppliers, materials, people, equipment, known, faults };
}

/** A row with its cells by head. */
interface Row {
  readonly sheet: HouseSheet;
  readonly row: number;
  readonly columns: ReadonlyMap<string, number>;
  readonly cells: readonly string[];
}

class Reading {
  readonly faults: CellFault[] = [];
  known = 0;
  private readonly seen = new Map<string, string>();

  constructor(
    private readonly there: HouseKnown,
    private readonly decimalMark: DecimalMark | undefined,
  ) {}

  fault(sheet: string, cell: string | null, words: string): void {
    this.faults.push({ sheet, cell, words });
  }

  rowsOf(sheet: HouseSheet, read: SheetRead | undefined): Row[] {
    const [head, ...rows] = read?.rows ?? [];
    if (!head) return [];
    const columns = new Map<string, number>();
    head.cells.forEach((words, at) => words.trim() !== '' && columns.set(bare(words), at));
    const missing = HOUSE_SHEETS[sheet].filter((one) => one.endsWith('*') && !columns.has(bare(one)));
    if (missing.length > 0) {
      this.fault(
        sheet,
        null,
        `The first row names no column ${missing.map((one) => `“${one.replace('*', '')}”`).join(', ')}. It reads: ${head.cells.filter(Boolean).join(', ').slice(0, 160) || 'nothing'}.`,
      );
      return [];
    }
    if (rows.length > MOST_ROWS) {
      this.fault(sheet, null, `${rows.length} rows stand here; ${MOST_ROWS} are read at most. Bring them in parts.`);
      return [];
    }
    return rows
      .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
      .map(({ row, cells }) => ({ sheet, row, columns, cells }));
  }

  room(row: Row): RoomRow[] {
    const name = this.words(row, 'Room', 80);
    const usualCelsius = this.number(row, 'Usual °C', -5, 45);
    if (name === null || usualCelsius === null || !this.fresh(row, 'Room', name, this.there.rooms)) return [];
    return [{ name, usualCelsius }];
  }

  vessels(row: Row, rooms: readonly RoomRow[]): VesselRow[] {
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
    if (closure === null || room == null || least > most) return [];
    return fresh.map((tag) => ({
      tag,
      shape,
      brimMl: Math.round(litres * 1000),
      minFill: least / 100,
      maxFill: most / 100,
      weightVolumeMl: weight,
      closure,
      room,
    }));
  }

  supplier(row: Row): SupplierRow[] {
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

  material(row: Row): MaterialRow[] {
    const name = this.words(row, 'Material', 120);
    const kind = this.oneOf(row, 'Kind', MATERIAL_KINDS);
    const water = this.number(row, 'Water %', 0, 100);
    const salt = this.number(row, 'Salt %', 0, 100, kind === 'salt' ? 100 : 0);
    const trim = this.number(row, 'Trims to %', 1, 100, undefined);
    const spoon = this.number(row, 'Spoon of 15 mL, g', 2, 40, undefined);
    const allergens = this.allergens(row);
    if (water !== null && salt !== null && water + salt > 100)
      this.fault(
        row.sheet,
        this.cell(row, 'Salt %'),
        `${water} % water and ${salt} % salt are more than there is of it.`,
      );
    if (name === null || kind === null || water === null || salt === null || trim === null || spoon === null) return [];
    if (allergens === null || water + salt > 100 || !this.fresh(row, 'Material', name, this.there.materials)) return [];
    return [
      {
        name,
        kind,
        waterFraction: water / 100,
        saltFraction: salt / 100,
        trimYield: trim === undefined ? null : trim / 100,
        allergens,
        gramsPer15Ml: spoon ?? null,
      },
    ];
  }

  person(row: Row): PersonRow[] {
    const name = this.words(row, 'Name', 80);
    const initials = this.words(row, 'Initials', 4);
    const role = this.oneOf(row, 'Role', ROLES);
    if (name === null || initials === null || role === null) return [];
    if (!this.fresh(row, 'Name', name, this.there.people)) return [];
    return this.free(row, 'Initials', initials, this.there.initials) ? [{ name, initials, role }] : [];
  }

  equipment(row: Row, rooms: readonly RoomRow[]): EquipmentRow[] {
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
  private roomNamed(row: Row, rooms: readonly RoomRow[]): string | null | undefined {
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

  private allergens(row: Row): string[] | null {
    const said = this.at(row, 'Allergens')
      .split(/[,;]/)
      .map((one) => one.trim())
      .filter((one) => one !== '');
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

  private at = ({ columns, cells }: Row, head: string): string => (cells[columns.get(bare(head)) ?? -1] ?? '').trim();

  private cell({ columns, row }: Row, head: string): string {
    return `${columnLetters(columns.get(bare(head)) ?? 0)}${row}`;
  }

  private words(row: Row, head: string, most: number): string | null {
    const words = this.at(row, head);
    const fault =
      words === ''
        ? `${head} is missing.`
        : words.length > most
          ? `${head}: ${most} letters at most.`
          : textFault(words);
    if (fault) this.fault(row.sheet, this.cell(row, head), fault);
    return fault ? null : words;
  }

  private number(row: Row, head: string, least: number, most: number): number | null;
  private number<O>(row: Row, head: string, least: number, most: number, or: O): number | O | null;
  private number(row: Row, head: string, least: number, most: number, ...or: unknown[]): unknown {
    const text = this.at(row, head).replace(/\s*(%|°C|L|mL|g)$/, '');
    if (text === '' && or.length > 0) return or[0];
    const read = parseNumber({ text, ...(this.decimalMark ? { decimalMark: this.decimalMark } : {}) });
    if (read.ok && read.value >= least && read.value <= most) return read.value;
    this.fault(
      row.sheet,
      this.cell(row, head),
      text === '' ? `${head} is missing.` : `${head}: “${text}” was given; ${least} to ${most} is accepted.`,
    );
    return null;
  }

  private oneOf<K extends string>(row: Row, head: string, all: readonly K[], or?: K): K | null {
    const said = this.at(row, head);
    const found = all.find((one) => key(one) === key(said)) ?? (said === '' ? or : undefined);
    if (found !== undefined) return found;
    this.fault(row.sheet, this.cell(row, head), `${head}: “${said}” was given; accepted: ${all.join(', ')}.`);
    return null;
  }

  /** Not in the house yet. Named twice in the sheet is a fault; there already is none. */
  private fresh(row: Row, head: string, words: string, there: readonly string[]): boolean {
    if (there.some((one) => key(one) === key(words))) {
      this.known += 1;
      return false;
    }
    return this.free(row, head, words, []);
  }

  private free(row: Row, head: string, words: string, there: readonly string[]): boolean {
    const before = this.seen.get(`${row.sheet} ${head} ${key(words)}`);
    const taken = there.some((one) => key(one) === key(words));
    if (before === undefined && !taken) {
      this.seen.set(`${row.sheet} ${head} ${key(words)}`, this.cell(row, head));
      return true;
    }
    this.fault(
      row.sheet,
      this.cell(row, head),
      before === undefined ? `${head} ${words} is somebody else’s here.` : `${words} stands in ${before} already.`,
    );
    return false;
  }
}

/** `columnLetters(0) //=> 'A'`, `columnLetters(26) //=> 'AA'` */
function columnLetters(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : columnLetters(Math.floor(at / 26) - 1) + columnLetters(at % 26);
}

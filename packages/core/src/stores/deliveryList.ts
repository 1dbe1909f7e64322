import { dayProblem } from '../calendar/index.js';
import { textFault } from '../typing/index.js';
import { parseMass } from '../units/parseMass.js';
import { type AtDoor, DOOR_ASK_WORDS, DOOR_STATES, type DoorAsk, doorMissing } from './atDoor.js';
import { parseNumber, type DecimalMark } from '../units/parseNumber.js';

/** Columns of a delivery list, by the names suppliers give them. */
export const DELIVERY_COLUMNS = {
  material: ['material', 'product', 'item', 'article', 'name'],
  supplier: ['supplier', 'from', 'grower', 'vendor'],
  lot: ['lot', 'supplier lot', 'lot code', 'batch', 'charge'],
  quantity: ['quantity', 'amount', 'weight', 'mass', 'qty', 'kg'],
  unit: ['unit', 'units', 'uom'],
  cost: ['cost', 'price', 'total', 'line total'],
  useBy: ['use by', 'use-by', 'best before', 'bbd', 'expiry', 'expires'],
  condition: ['condition', 'note', 'notes', 'remark'],
  variety: ['variety', 'cultivar', 'sort'],
  state: ['state', 'fresh or frozen'],
  celsius: ['temperature', 'temp', 'celsius', '°c', 'temperature, °c'],
} as const;
export type DeliveryColumn = keyof typeof DELIVERY_COLUMNS;

export interface DeliveryRow {
  /** Number of the row in the file, the head being 1. */
  readonly row: number;
  readonly material: string;
  readonly supplier: string;
  readonly lot: string;
  readonly grams: number | null;
  readonly cost: number | null;
  readonly useBy: string | null;
  readonly condition: string | null;
  readonly door: AtDoor;
  readonly errors: readonly string[];
}

/** Which column of a file holds what; a name not known is left out. */
export function deliveryColumns(head: readonly string[]): Partial<Record<DeliveryColumn, number>> {
  const clean = head.map((name) => name.trim().toLowerCase().replace(/[_.]+/g, ' ').replace(/\s+/g, ' '));
  const found: Partial<Record<DeliveryColumn, number>> = {};
  for (const [column, names] of Object.entries(DELIVERY_COLUMNS) as [DeliveryColumn, readonly string[]][]) {
    const at = clean.findIndex((name) => names.includes(name));
    if (at >= 0) found[column] = at;
  }
  return found;
}

/**
 * Rows of a delivery list, each read on its own: a row at fault says why and does not take the others with it.
 * `head` is the first row; a column headed "kg" needs no unit.
 */
export function readDeliveryRows(input: {
  head: readonly string[];
  rows: readonly (readonly string[])[];
  isMaterial: (name: string) => boolean;
  isPackaging?: (name: string) => boolean;
  isSupplier: (name: string) => boolean;
  /** What a material asks for when it comes in. */
  asksOf?: (material: string) => readonly DoorAsk[];
  /** What was said at the door of all rows of a material that do not say it themselves. */
  doorOf?: (material: string) => AtDoor | undefined;
  decimalMark?: DecimalMark;
}): DeliveryRow[] {
  const columns = deliveryColumns(input.head);
  const headedKg = columns.quantity !== undefined && input.head[columns.quantity]!.trim().toLowerCase() === 'kg';
  const seen = new Map<string, number>();
  return input.rows.map((cells, index): DeliveryRow => {
    const at = (column: DeliveryColumn): string =>
      columns[column] === undefined ? '' : (cells[columns[column]] ?? '').trim();
    const row = index + 2;
    const errors: string[] = [];
    const [material, supplier, lot] = [at('material'), at('supplier'), at('lot')];
    if (material === '') errors.push('No material is named.');
    else if (!input.isMaterial(material))
      errors.push(`“${material}” is not known here. Add it under Materials first, or mend the name.`);
    if (supplier === '') errors.push('No supplier is named.');
    else if (!input.isSupplier(supplier)) errors.push(`The supplier “${supplier}” is not known here.`);
    if (lot === '') errors.push('No lot code of the supplier is given.');
    const unit = at('unit') || (headedKg ? 'kg' : '');
    const quantity = at('quantity');
    // Jars and lids are counted: "480", "480 pcs".
    const pieces = material !== '' && (input.isPackaging?.(material) ?? false);
    const counted = /^(\d{1,7})\s*(pcs|pieces|piece|pc|st)?$/i.exec(`${quantity} ${at('unit')}`.trim());
    const mass = pieces
      ? {
          ok: counted !== null,
          value: Number(counted?.[1] ?? 0),
          refusal: { message: `“${quantity} ${unit}” is no count. ${material} comes in whole pieces.` },
        }
      : parseMass({
          text: /[a-z]/i.test(quantity) ? quantity : `${quantity} ${unit}`.trim(),
          defaultUnit: 'kg',
          decimalMark: input.decimalMark,
          what: material || 'this row',
        });
    if (quantity === '') errors.push('No quantity is given.');
    else if (!pieces && !/[a-z]/i.test(quantity) && unit === '')
      errors.push(`“${quantity}” has no unit. Give a column “unit”, or head the column “kg”.`);
    else if (!mass.ok) errors.push(mass.refusal.message);
    const cost =
      at('cost') === ''
        ? null
        : parseNumber({ text: at('cost').replace(/^[^\d-]+|[^\d]+$/g, ''), decimalMark: input.decimalMark });
    if (cost && (!cost.ok || cost.value < 0)) errors.push(`“${at('cost')}” is not a price.`);
    const useBy = at('useBy') === '' ? null : calendarDate(at('useBy'));
    if (at('useBy') !== '' && useBy === null)
      errors.push(`“${at('useBy')}” is not a date read here. Write 2026-11-30.`);
    const day = dayProblem(useBy ?? '');
    if (day) errors.push(day);
    const door = { ...input.doorOf?.(material), ...readDoor({ at, decimalMark: input.decimalMark, errors }) };
    for (const ask of doorMissing(input.asksOf?.(material) ?? [], door))
      errors.push(
        `${material} is taken in with ${DOOR_ASK_WORDS[ask]}: say it above, or give a column “${DELIVERY_COLUMNS[ask][0]}”.`,
      );
    const fault = cells.map(textFault).find((why) => why !== null);
    if (fault) errors.push(`A cell holds ${fault}. Type it again.`);
    if (mass.ok && quantity !== '' && mass.value < 0.001)
      errors.push('Less than a milligram came, by this row. Look at the unit.');
    const key = [material, supplier, lot, quantity].join('\u0000').toLowerCase();
    if (seen.has(key)) errors.push(`The same as row ${seen.get(key)}.`);
    else seen.set(key, row);
    return {
      row,
      material,
      supplier,
      lot,
      grams: mass.ok && quantity !== '' ? mass.value : null,
      cost: cost?.ok ? cost.value : null,
      useBy,
      condition: at('condition') || null,
      door,
      errors,
    };
  });
}

/** What was seen at the door, where the list has it. */
function readDoor({
  at,
  decimalMark,
  errors,
}: {
  at: (column: DeliveryColumn) => string;
  decimalMark: DecimalMark | undefined;
  errors: string[];
}): AtDoor {
  const said = at('state').toLowerCase();
  const state = DOOR_STATES.find((one) => one === said);
  if (said !== '' && state === undefined) errors.push(`“${at('state')}” is not ${DOOR_STATES.join(', ')}.`);
  const typed = at('celsius')
    .replace(/\s*°?\s*c$/i, '')
    .replace('−', '-');
  const celsius = typed === '' ? null : parseNumber({ text: typed, decimalMark });
  if (celsius && (!celsius.ok || celsius.value < -40 || celsius.value > 60))
    errors.push(`“${at('celsius')}” is no temperature from −40 to 60 °C.`);
  return {
    ...(at('variety') === '' ? {} : { variety: at('variety') }),
    ...(state === undefined ? {} : { state }),
    ...(celsius?.ok ? { celsius: celsius.value } : {}),
  };
}

/** Only dates that mean one day: 2026-11-30, or 30.11.2026. 03/04/2026 could be two days and is not read. */
function calendarDate(text: string): string | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  const dotted = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(text);
  const [year, month, day] = iso
    ? [iso[1]!, iso[2]!, iso[3]!]
    : dotted
      ? [dotted[3]!, dotted[2]!.padStart(2, '0'), dotted[1]!.padStart(2, '0')]
      : [];
  if (!year) return null;
  const date = `${year}-${month}-${day}`;
  const read = new Date(`${date}T00:00:00Z`);
  return Number.isFinite(read.getTime()) && read.toISOString().startsWith(date) ? date : null;
}

import type { z } from 'zod';
import { entrySchema, type EntryChoices, type EntryReply, fieldWords, readOut } from '@clear-tally/contract';
import { optionWords } from './field-words';

export type Path = readonly (string | number)[];

/** One field of an entry, as its form shows it. */
export interface Field {
  readonly path: Path;
  readonly label: string;
  readonly type:
    | 'mass'
    | 'number'
    | 'celsius'
    | 'percent'
    | 'text'
    | 'day'
    | 'moment'
    | 'choice'
    | 'ticks'
    | 'yes'
    | 'lot'
    | 'listed'
    | 'group'
    | 'more';
  /** Nothing is an answer, too. */
  readonly mayBeNothing: boolean;
  /** How nothing is written: left out, or said to be none. */
  readonly nothing: null | undefined;
  readonly options?: readonly { readonly id: string; readonly label: string }[];
  /** Of a group of fields that may be said or not: what stands where it is not said. Of a list: what one more begins as. */
  readonly blank?: unknown;
  /** Of what a listed id is one. */
  readonly of?: EntryReply['names'][string]['of'];
  /** Of a figure, where its label does not say it. */
  readonly unit?: string;
  /** Of a choice: what is kept is a number. */
  readonly counted?: true;
  /** Of the equipment only scales. */
  readonly scale?: boolean;
}

type Schema = z.core.$ZodType & { readonly def: z.core.$ZodTypeDef & Record<string, unknown> };

const of = (schema: unknown): Schema => schema as Schema;

interface Bare {
  readonly schema: Schema;
  readonly mayBeNothing: boolean;
  /** What is written where nothing is said. */
  readonly nothing: null | undefined;
}

/** The schema itself, out of what says that it may be left out. */
function bare(schema: Schema): Bare {
  const { type } = schema.def;
  if (type === 'optional' || type === 'nullable' || type === 'default') {
    const inner = bare(of(schema.def['innerType']));
    return { ...inner, mayBeNothing: true, nothing: type === 'nullable' ? null : inner.nothing };
  }
  if (type === 'pipe') return bare(of(schema.def['in']));
  if (type === 'readonly') return bare(of(schema.def['innerType']));
  return { schema, mayBeNothing: false, nothing: undefined };
}

/** The schema of a kind's body: the same that the server asks. */
export function bodySchema(kind: string): Schema | null {
  const option = entrySchema.options.find((one) => one.shape.kind.value === kind);
  return option ? of(option.shape.body) : null;
}

type Of = EntryReply['names'][string]['of'];

const LISTED: ReadonlySet<Of> = new Set([
  'vessel',
  'room',
  'material',
  'supplier',
  'meter',
  'equipment',
  'customer',
  'person',
  'formula',
]);
const ID = /Id$|^of$|^lotIds$|^customerIds$|^also$|^hold$/;
const LOT = /LotId$|^lotIds?$|^of$/;

/** What an id is one of where nothing is said yet, or where another was chosen than the one recorded. */
const LISTED_IN: Readonly<Record<string, Of>> = {
  vesselId: 'vessel',
  roomId: 'room',
  materialId: 'material',
  saltMaterialId: 'material',
  supplierId: 'supplier',
  meterId: 'meter',
  equipmentId: 'equipment',
  scaleId: 'equipment',
  customerId: 'customer',
  customerIds: 'customer',
  personId: 'person',
  formulaId: 'formula',
};

/**
 * The fields of an entry of a kind, in the order of its schema, with what is said in them. What the entry itself made is
 * no field: a lot keeps its id.
 */
export function fieldsOf(
  kind: string,
  body: Record<string, unknown>,
  names: EntryReply['names'],
  choices: EntryChoices = {},
): Field[] {
  const schema = bodySchema(kind);
  return schema ? walk(schema, body, { names, choices, beside: body }, [], '') : [];
}

/** What is known beside a value: what ids are called, what may be chosen, what the other fields of its form say. */
interface Known {
  readonly names: EntryReply['names'];
  readonly choices: EntryChoices;
  readonly beside: Readonly<Record<string, unknown>>;
}

/** What may be chosen in a field of that name, by what stands in the fields beside it; null: it is typed. */
function chosenFrom(name: string, { choices, beside }: Known): Field['options'] | null {
  const fits = (choices[name] ?? []).filter(({ where }) => !where || beside[where.field] === where.is);
  return fits.length > 0 ? fits.map(({ id, label }) => ({ id, label })) : null;
}

/** In the middle of a line; pH stays pH. */
const lower = (words: string): string =>
  words.startsWith('pH') ? words : words.charAt(0).toLowerCase() + words.slice(1);

function walk(given: Schema, value: unknown, known: Known, path: Path, before: string, outside?: Bare): Field[] {
  const inner = bare(given);
  const { schema } = inner;
  const { mayBeNothing, nothing } = outside?.mayBeNothing ? outside : inner;
  const name = String(path.findLast((part) => typeof part === 'string') ?? '');
  const label = before ? `${before}, ${lower(fieldWords(name))}` : fieldWords(name);
  const field = (type: Field['type'], more: Partial<Field> = {}): Field[] => [
    { path, label, type, mayBeNothing, nothing, ...more },
  ];
  switch (schema.def.type) {
    case 'object': {
      const group = mayBeNothing && path.length > 0 ? field('group', { blank: nothing }) : [];
      if (value === null || value === undefined) return group;
      const shape = schema.def['shape'] as Record<string, Schema>;
      const inside = path.length === 0 || typeof path.at(-1) === 'number' ? before : label;
      return [
        ...group,
        ...Object.entries(shape).flatMap(([key, one]) =>
          walk(
            one,
            (value as Record<string, unknown>)[key],
            { ...known, beside: value as Record<string, unknown> },
            [...path, key],
            inside,
          ),
        ),
      ];
    }
    case 'union': {
      const options = schema.def['options'] as Schema[];
      const fits =
        options.find(
          (one) => bare(one).schema.def.type !== 'object' || (of(one) as unknown as z.ZodType).safeParse(value).success,
        ) ?? options[0]!;
      return walk(fits, value, known, path, before, { schema, mayBeNothing, nothing });
    }
    case 'array':
    case 'tuple': {
      const ticked = schema.def.type === 'array' ? chosenFrom(name, known) : null;
      if (ticked) return field('ticks', { options: ticked });
      const more = schema.def.type === 'array' ? oneMore(of(schema.def['element']), field) : [];
      if (!Array.isArray(value)) return more;
      const element = (index: number): Schema =>
        schema.def.type === 'tuple' ? (schema.def['items'] as Schema[])[index]! : of(schema.def['element']);
      return [
        ...value.flatMap((one, index) =>
          walk(element(index), one, known, [...path, index], value.length > 1 ? `${label} ${index + 1}` : label),
        ),
        ...more,
      ];
    }
    case 'record':
      return Object.entries((value ?? {}) as Record<string, unknown>).flatMap(([key, one]) =>
        walk(of(schema.def['valueType']), one, known, [...path, key], label).map((row) => ({
          ...row,
          label: `${label}, ${readOut(key).toLowerCase()}`,
        })),
      );
    case 'number': {
      const counts = chosenFrom(name, known);
      if (counts) return field('choice', { options: counts, counted: true });
      return field(numberType(name), { unit: UNITS.find(([of]) => of.test(name))?.[1] ?? '' });
    }
    case 'boolean':
      return field('yes');
    case 'enum':
      return field('choice', {
        options: Object.values(schema.def['entries'] as Record<string, string>).map((id) => ({
          id,
          label: optionWords(name, id),
        })),
      });
    case 'string':
      if (schema.def['format'] === 'date') return field('day');
      if (schema.def['format'] === 'datetime') return field('moment');
      return textField(name, value, known, field);
    default:
      return [];
  }
}

/** A list of things with fields of their own takes one more, and can lose its last. */
function oneMore(element: Schema, field: (type: Field['type'], more?: Partial<Field>) => Field[]): Field[] {
  return bare(element).schema.def.type === 'object' ? field('more', { blank: {} }) : [];
}

/** Beside the figure, where its label does not say it. */
const UNITS: readonly (readonly [RegExp, string])[] = [
  [/Ml$/, 'mL'],
  [/Mm$/, 'mm'],
  [/^offsetMillivolts$/, 'mV'],
  [/^slopePercent$/, '%'],
];

const numberType = (name: string): Field['type'] =>
  /grams$/i.test(name) && name !== 'scaleStepGrams'
    ? 'mass'
    : /celsius$/i.test(name)
      ? 'celsius'
      : /Fraction$|^(maxFill|minFill|share|purity)$/.test(name)
        ? 'percent'
        : 'number';

function textField(
  name: string,
  value: unknown,
  known: Known,
  field: (type: Field['type'], more?: Partial<Field>) => Field[],
): Field[] {
  const options = chosenFrom(name, known);
  if (options) return field('choice', { options });
  const named = typeof value === 'string' ? known.names[value] : undefined;
  if (named?.made) return [];
  const what = named?.of ?? LISTED_IN[name];
  if (what === 'lot') return field('lot');
  if (what) return LISTED.has(what) ? field('listed', { of: what, scale: name === 'scaleId' }) : [];
  if (ID.test(name)) return LOT.test(name) ? field('lot') : [];
  return /^(photo|deliveryId)$/.test(name) ? [] : field('text');
}

export function valueAt(body: unknown, path: Path): unknown {
  return path.reduce<unknown>((value, part) => (value as Record<string | number, unknown> | undefined)?.[part], body);
}

/** The body with one value in it changed; nothing given leaves the field out where it was left out. */
export function withValue<T>(body: T, path: Path, value: unknown): T {
  const [head, ...rest] = path;
  if (head === undefined) return value as T;
  const copy = (Array.isArray(body) ? [...(body as unknown[])] : { ...(body as object) }) as Record<
    string | number,
    unknown
  >;
  const next = withValue(copy[head], rest, value);
  if (next === undefined) delete copy[head];
  else copy[head] = next;
  return copy as T;
}

/**
 * The body without what is offered no more beside what was just chosen: ticks of another step, a version that another
 * formula has. Of a formula chosen now its newest version stands.
 */
export function withOffered<T>(body: T, fields: readonly Field[]): T {
  let fitting = body;
  for (const { path, type, options = [], counted } of fields) {
    const value = valueAt(fitting, path);
    const isOffered = (one: unknown): boolean => options.some(({ id }) => id === String(one));
    if (type === 'ticks' && Array.isArray(value)) {
      const offered = value.filter(isOffered);
      if (offered.length < value.length) fitting = withValue(fitting, path, offered);
    } else if (counted && value !== undefined && !isOffered(value))
      fitting = withValue(fitting, path, Number(options.at(-1)!.id));
  }
  return fitting;
}

import { z } from 'zod';
import { entrySchema } from '@clear-tally/contract';

/** A row of numbers that is the same for the same seed. */
export function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

interface Shape {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  format?: string;
  pattern?: string;
  properties?: Record<string, Shape>;
  required?: string[];
  items?: Shape;
  prefixItems?: Shape[];
  anyOf?: Shape[];
  oneOf?: Shape[];
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minLength?: number;
  maxLength?: number;
  minItems?: number;
  additionalProperties?: Shape | boolean;
  propertyNames?: Shape;
}

/** The shape of every entry kind's body, by the contract itself. */
export const BODIES: ReadonlyMap<string, Shape> = new Map(
  entrySchema.options.map((option) => [
    option.shape.kind.value,
    z.toJSONSchema(option.shape.body, { unrepresentable: 'any', io: 'input' }) as Shape,
  ]),
);

/** A value that fits a shape; ids are taken from those there are, so that it goes deep before it is refused. */
export function fitting(shape: Shape, next: () => number, ids: readonly string[], path = ''): unknown {
  const one = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  if ('const' in shape) return shape.const;
  if (shape.enum) return one(shape.enum);
  const among = shape.anyOf ?? shape.oneOf;
  if (among) return fitting(one(among), next, ids, path);
  if (shape.prefixItems) return shape.prefixItems.map((item) => fitting(item, next, ids, path));
  switch (shape.type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(shape.properties ?? {})
          .filter(([key]) => (shape.required ?? []).includes(key) || next() < 0.3)
          .map(([key, item]) => [key, fitting(item, next, ids, key)]),
      );
    case 'array':
      return Array.from({ length: Math.max(shape.minItems ?? 0, next() < 0.5 ? 1 : 0) }, () =>
        fitting(shape.items ?? {}, next, ids, path),
      );
    case 'boolean':
      return next() < 0.5;
    case 'integer':
    case 'number': {
      const least = shape.minimum ?? (shape.exclusiveMinimum ?? 0) + 0.5;
      const figure = least + next() * (Math.min(shape.maximum ?? least + 2000, least + 2000) - least);
      return shape.type === 'integer' ? Math.round(figure) : Math.round(figure * 100) / 100;
    }
    case 'null':
      return null;
    case 'string':
      break;
    default:
      return next() < 0.5 ? one(ids) : 1;
  }
  if (shape.format === 'uuid') return one(ids);
  if (shape.format === 'date') return '2027-02-11';
  if (shape.pattern?.includes('A-Z')) return one(['ZX', 'QW', 'A1']);
  if (shape.pattern) return 'a'.repeat(64);
  return one(['Kohlrabi', 'as seen', 'weigh', 'salt', '1']).slice(0, shape.maxLength ?? 40);
}

/** What nobody types, and somebody sends. */
export const HOSTILE: readonly unknown[] = [
  1e-9,
  9.3e15,
  2_147_483_648,
  99_999.99999,
  -1,
  0,
  -0,
  1e308,
  5e-324,
  4_294_967_296,
  1.7976931348623157e308,
  'NaN',
  '1e5',
  '٣',
  '½',
  '0026-11-25',
  '1582-10-15',
  '1900-01-01',
  '0001-01-01',
  '9999-12-31',
  '2026-02-30',
  '0026-11-25T08:00:00Z',
  '1582-10-15T00:00:00+00:00',
  '+275760-09-13T00:00:00Z',
  'infinity',
  'now',
  'a\u0000b',
  '\u0000',
  'carrot \ud83e',
  '\udd55',
  '\u0007bell',
  '\u202esafe',
  'a\u0085b',
  '﷽'.repeat(400),
  'x'.repeat(100_000),
  '🥕'.repeat(500),
  '',
  ' ',
  '\n',
  "'; drop table journal; --",
  '${7*7}',
  '{{7*7}}',
  '<script>alert(1)</script>',
  '../../../etc/passwd',
  '%00',
  '\\u0000',
  null,
  true,
  false,
  [],
  {},
  [[[[]]]],
  { $gt: 0 },
  { __proto__: null, constructor: 1 },
  [null],
  ['a', 1, null],
  '00000000-0000-0000-0000-000000000000',
  'FFFFFFFF-FFFF-FFFF-FFFF-FFFFFFFFFFFF',
  '018F6B1E-0000-7000-8000-00000000ABCD',
];

type Container = Record<string, unknown> | unknown[];

/** The same value with one or two places of it spoilt. */
export function spoilt(value: unknown, next: () => number): unknown {
  // A copy each time: a value put into itself would be a circle.
  const hostile = (): unknown => structuredClone(HOSTILE[Math.floor(next() * HOSTILE.length)]);
  const copy = structuredClone(value);
  const times = next() < 0.8 ? 1 : 2;
  for (let time = 0; time < times; time += 1) {
    const places: [Container, string | number][] = [];
    const walk = (at: unknown): void => {
      if (typeof at !== 'object' || at === null) return;
      for (const key of Array.isArray(at) ? at.keys() : Object.keys(at)) {
        places.push([at as Container, key]);
        walk((at as Record<string | number, unknown>)[key]);
      }
    };
    walk(copy);
    if (places.length === 0) return hostile();
    const [at, key] = places[Math.floor(next() * places.length)]!;
    if (next() < 0.08) (at as Record<string, unknown>)['surplus'] = hostile();
    else (at as Record<string | number, unknown>)[key] = hostile();
  }
  return copy;
}

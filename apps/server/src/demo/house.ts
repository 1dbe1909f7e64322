import type { BodyOf } from '@clear-tally/contract';
import { decideFill, type VesselMaterial } from '@clear-tally/core';
import type { Actor } from '../journal/record.js';
import type { Diary } from './diary.js';
import { type DemoFormula, demoFormulas } from './formulas.js';
import { DEMO_MATERIALS } from './materials.js';
import { DEMO_PEOPLE } from './people.js';

export interface Founded {
  readonly people: Record<(typeof DEMO_PEOPLE)[number]['key'], Actor>;
  readonly rooms: ReadonlyMap<string, string>;
  readonly vessels: Map<string, string>;
  readonly suppliers: Record<string, string>;
  readonly materials: Record<string, string>;
  readonly formulas: Record<DemoFormula, BodyOf<'formula.save'>>;
  /** The bench meter, calibrated every morning. */
  readonly meter: string;
}

type Shape = BodyOf<'vessel.add'>['shape'];

const ROOMS: readonly (readonly [string, string, number, NonNullable<BodyOf<'room.add'>['details']>])[] = [
  ['loft', 'Net loft', 20, { leastCelsius: 12, mostCelsius: 26, light: 'sun', logger: 'beam over the bench' }],
  [
    'cellar',
    'Stone cellar',
    14,
    { leastCelsius: 10, mostCelsius: 18, light: 'dark', logger: 'left of the stairs, 1.5 m' },
  ],
  ['cold', 'Cold store', 3, { leastCelsius: 0, mostCelsius: 6, light: 'dark', logger: 'top shelf' }],
];

const MADE_OF: Readonly<Partial<Record<Shape, VesselMaterial>>> = {
  crock: 'stoneware',
  drum: 'plastic',
  glass: 'glass',
  barrel: 'wood',
  bag: 'film',
};

const VESSELS: [
  tags: string[],
  shape: Shape,
  brimLitres: number,
  room: string,
  closure: BodyOf<'vessel.add'>['closure'],
  maxFill: number,
][] = [
  [['C1', 'C2', 'C3'], 'crock', 50, 'cellar', 'loose', 0.85],
  [['C4', 'C5', 'C6'], 'crock', 30, 'cellar', 'loose', 0.85],
  [['D1', 'D2', 'D3', 'D4'], 'drum', 15, 'loft', 'airlock', 0.9],
  [['D5', 'D6', 'D7', 'D8'], 'drum', 30, 'cellar', 'airlock', 0.85],
  [['G1', 'G2', 'G3', 'G4'], 'glass', 5, 'loft', 'airlock', 0.9],
  [['G5', 'G6', 'G7', 'G8'], 'glass', 10, 'loft', 'airlock', 0.9],
  [['W1'], 'barrel', 60, 'cellar', 'loose', 0.85],
  [['K1', 'K2'], 'crock', 30, 'cold', 'loose', 0.85],
  [['V1', 'V2', 'V3'], 'bag', 4, 'loft', 'vacuum', 0.75],
];

const UNDER_REPAIR = new Set(['C6']);

const weightMl = (litres: number): number => (litres >= 15 ? 350 : 120);

/** Why a vessel was filled past its window, where it was. */
export function filledOver(tag: string, grams: number): { overReason?: string } {
  const [, , litres, , , maxFill] = VESSELS.find(([tags]) => tags.includes(tag))!;
  const vessel = { tag, brimMl: litres * 1000, maxFill, minFill: 0.7, inUse: true, takenBy: null };
  const fits = decideFill({ vessel: { ...vessel, weightVolumeMl: weightMl(litres) }, grams });
  return fits.ok ? {} : { overReason: 'Heaped: it settles by the morning, a tray stands under it' };
}

const SUPPLIERS = [
  ['causeway', 'Causeway Growers', 'CG'],
  ['stillwater', 'Stillwater Salt Pans', 'SP'],
  ['lowmill', 'Low Mill Spices', 'LM'],
  ['ellery', 'Port Ellery water', 'PW'],
  ['harbour', 'Harbour Glass', 'HG'],
  ['plot', 'The yard behind the loft', 'YD'],
] as const;

/** Founds Ninefold Yard: people, rooms, vessels, suppliers, materials, house rules and the eight formulas. */
export async function foundHouse(diary: Diary, at: Date): Promise<Founded> {
  const people = Object.fromEntries(
    DEMO_PEOPLE.map((person) => [person.key, { id: diary.id(at), role: person.role }]),
  ) as Founded['people'];
  diary.signAs(people.odile);
  await diary.record(
    'house.found',
    {
      name: 'Ninefold Yard Ferments',
      site: 'NY',
      timeZone: 'Europe/Dublin',
      decimalMark: 'point',
      acidLimit: 4.2,
      saltTolerance: 0.03,
    },
    at,
  );
  for (const { key, name, initials, role } of DEMO_PEOPLE)
    await diary.record('person.add', { personId: people[key].id, name, initials, role }, at);
  const rooms = new Map<string, string>();
  for (const [position, [key, name, usualCelsius, details]] of ROOMS.entries()) {
    rooms.set(key, diary.id(at));
    await diary.record('room.add', { roomId: rooms.get(key)!, name, usualCelsius, position, details }, at);
  }
  const vessels = new Map<string, string>();
  for (const [tags, shape, litres, room, closure, maxFill] of VESSELS) {
    for (const tag of tags) {
      vessels.set(tag, diary.id(at));
      await diary.record(
        'vessel.add',
        {
          vesselId: vessels.get(tag)!,
          tag,
          shape,
          brimMl: litres * 1000,
          maxFill,
          minFill: 0.7,
          weightVolumeMl: weightMl(litres),
          closure,
          roomId: rooms.get(room)!,
          inUse: !UNDER_REPAIR.has(tag),
          details: {
            material: MADE_OF[shape] ?? null,
            ...(UNDER_REPAIR.has(tag) ? { condition: 'crack at the rim', out: 'repair' as const } : {}),
          },
        },
        at,
      );
    }
  }
  const suppliers: Record<string, string> = {};
  for (const [key, name, prefix] of SUPPLIERS) {
    suppliers[key] = diary.id(at);
    await diary.record(
      'supplier.add',
      { supplierId: suppliers[key]!, name, prefix, ...(key === 'plot' ? { ownPlot: true } : {}) },
      at,
    );
  }
  const materials: Record<string, string> = {};
  for (const { key, name, kind, water, salt = 0, allergens = [], caution = null, details } of DEMO_MATERIALS) {
    materials[key] = diary.id(at);
    await diary.record(
      'material.add',
      {
        materialId: materials[key]!,
        name,
        kind,
        waterFraction: water,
        saltFraction: salt,
        allergens,
        caution,
        ...(details ? { details } : {}),
      },
      at,
    );
  }
  const formulas = demoFormulas(diary, materials, at);
  // The turnips were saltier once, and had no mustard: the book keeps that version.
  const { saltFraction: _, ...turnips } = formulas.turnips;
  await diary.record(
    'formula.save',
    { ...turnips, version: 1, saltFraction: 0.028, lines: turnips.lines.slice(0, 2), usualDays: 18 },
    at,
  );
  for (const formula of Object.values(formulas)) await diary.record('formula.save', formula, at);
  await diary.record('house.set', { currency: 'EUR', labourPerHour: 18, scaleStepGrams: 1, massUnit: 'g' }, at);
  await diary.record(
    'house.rule',
    { rule: 'film', option: 'skim', reason: 'Odile decides each time, with two pH readings two days apart.' },
    at,
  );
  await diary.record(
    'house.rule',
    {
      rule: 'sanitise',
      option: 'soap',
      reason: 'Smooth stoneware and glass only, dried upside down, looked over before each fill.',
    },
    at,
  );
  await diary.record(
    'house.rule',
    {
      rule: 'secondPerson',
      option: 'no',
      reason: 'Two are seldom in the loft at once; the beam shows the target before the salt goes in.',
    },
    at,
  );
  const meter = diary.id(at);
  await diary.record('meter.add', { meterId: meter, tag: 'M2', name: 'Bench meter', kind: 'meter' }, at);
  await diary.record('meter.add', { meterId: diary.id(at), tag: 'M1', name: 'Old pocket meter', kind: 'meter' }, at);
  await diary.record('meter.add', { meterId: diary.id(at), tag: 'S1', name: 'Strips 2.8 to 4.6', kind: 'strips' }, at);
  await diary.record(
    'house.set',
    {
      contacts: [
        { what: 'Food authority', who: 'Port Ellery district, food office, ask for the officer on call' },
        { what: 'Process authority', who: 'written down when one is found' },
        { what: 'Recall', who: 'Odile Marr, any hour' },
      ],
    },
    at,
  );
  return { meter, people, rooms, vessels, suppliers, materials, formulas };
}

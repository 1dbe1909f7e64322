import type { BodyOf } from '@clear-tally/contract';
import type { Actor } from '../record/record.js';
import type { Diary } from './diary.js';
import { DEMO_PEOPLE } from './people.js';

export interface Founded {
  readonly people: Record<(typeof DEMO_PEOPLE)[number]['key'], Actor>;
  readonly vessels: Map<string, string>;
  readonly suppliers: Record<string, string>;
  readonly materials: Record<string, string>;
  readonly formulas: { readonly shred: BodyOf<'formula.save'>; readonly turnips: BodyOf<'formula.save'>; readonly mash: BodyOf<'formula.save'> };
}

const ROOMS = [['loft', 'Net loft', 20], ['cellar', 'Stone cellar', 14], ['cold', 'Cold store', 3]] as const;

type Shape = BodyOf<'vessel.add'>['shape'];
const VESSELS: [tags: string[], shape: Shape, brimLitres: number, room: string, closure: BodyOf<'vessel.add'>['closure'], maxFill: number][] = [
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

const SUPPLIERS = [['causeway', 'Causeway Growers', 'CG'], ['stillwater', 'Stillwater Salt Pans', 'SP'], ['lowmill', 'Low Mill Spices', 'LM'], ['ellery', 'Port Ellery water', 'PW']] as const;

const MATERIALS: [key: string, name: string, kind: BodyOf<'material.add'>['kind'], water: number, salt: number, allergens: string[], caution: string | null][] = [
  ['kohlrabi', 'Kohlrabi', 'produce', 0.91, 0, [], null],
  ['celeriac', 'Celeriac', 'produce', 0.88, 0, ['celery'], null],
  ['turnip', 'Baby turnips', 'produce', 0.92, 0, [], null],
  ['physalis', 'Physalis', 'produce', 0.86, 0, [], null],
  ['chilli', 'Green chilli', 'produce', 0.88, 0, [], 'Gloves and goggles; ventilate.'],
  ['coarse', 'Coarse pan salt', 'salt', 0, 1, [], null],
  ['fine', 'Fine table salt, anti-caking', 'salt', 0, 1, [], 'Carries an anti-caking agent: the brine may cloud or darken.'],
  ['water', 'Mains water, carbon filtered', 'water', 1, 0, [], null],
  ['juniper', 'Juniper berries', 'flavouring', 0.1, 0, [], null],
  ['thyme', 'Lemon thyme', 'flavouring', 0.7, 0, [], null],
  ['pepper', 'Black pepper', 'flavouring', 0.1, 0, [], null],
  ['mustard', 'Mustard seed', 'flavouring', 0.06, 0, ['mustard'], null],
  ['lovage', 'Lovage leaf', 'flavouring', 0.8, 0, [], null],
];

/** Founds Ninefold Yard: people, rooms, vessels, suppliers, materials and three formulas. */
export async function foundHouse(diary: Diary, at: Date): Promise<Founded> {
  const people = Object.fromEntries(DEMO_PEOPLE.map((person) => [person.key, { id: diary.id(at), role: person.role }])) as Founded['people'];
  diary.signAs(people.odile);
  await diary.record('house.found', { name: 'Ninefold Yard Ferments', site: 'NY', timeZone: 'Europe/Dublin', decimalMark: 'point', acidLimit: 4.2, saltTolerance: 0.03 }, at);
  for (const { key, name, initials, role } of DEMO_PEOPLE) await diary.record('person.add', { personId: people[key].id, name, initials, role }, at);
  const rooms = new Map<string, string>();
  for (const [position, [key, name, usualCelsius]] of ROOMS.entries()) {
    rooms.set(key, diary.id(at));
    await diary.record('room.add', { roomId: rooms.get(key)!, name, usualCelsius, position }, at);
  }
  const vessels = new Map<string, string>();
  for (const [tags, shape, litres, room, closure, maxFill] of VESSELS) {
    for (const tag of tags) {
      vessels.set(tag, diary.id(at));
      await diary.record('vessel.add', {
        vesselId: vessels.get(tag)!, tag, shape, brimMl: litres * 1000, maxFill, minFill: 0.7, weightVolumeMl: litres >= 15 ? 350 : 120, closure, roomId: rooms.get(room)!, inUse: !UNDER_REPAIR.has(tag),
      }, at);
    }
  }
  const suppliers: Record<string, string> = {};
  for (const [key, name, prefix] of SUPPLIERS) {
    suppliers[key] = diary.id(at);
    await diary.record('supplier.add', { supplierId: suppliers[key]!, name, prefix }, at);
  }
  const materials: Record<string, string> = {};
  for (const [key, name, kind, waterFraction, saltFraction, allergens, caution] of MATERIALS) {
    materials[key] = diary.id(at);
    await diary.record('material.add', { materialId: materials[key]!, name, kind, waterFraction, saltFraction, allergens, caution }, at);
  }
  const formulas = formulasOf(diary, materials, at);
  for (const formula of Object.values(formulas)) await diary.record('formula.save', formula, at);
  return { people, vessels, suppliers, materials, formulas };
}

function formulasOf(diary: Diary, m: Record<string, string>, at: Date): Founded['formulas'] {
  const line = (material: string, scaleBy: 'mainMass' | 'saltMass', amount: number) => ({ materialId: m[material]!, scaleBy, amount });
  return {
    shred: {
      formulaId: diary.id(at), number: 1, version: 1, name: 'Kohlrabi and celeriac shred with juniper', style: 'dryShred',
      produce: [{ materialId: m['kohlrabi']!, share: 0.7 }, { materialId: m['celeriac']!, share: 0.3 }],
      saltBasis: 'ofVegetable', saltFraction: 0.022, waterPerProduce: 0, lines: [line('juniper', 'saltMass', 0.3)],
      solidsFraction: 1, yields: { trim: 0.78, ferment: 0.97, pack: 0.97 }, jarSizes: [{ sizeMl: 330, fillGrams: 320 }, { sizeMl: 720, fillGrams: 690 }], usualDays: 28,
      note: 'Cool school: 11 to 17 °C. Rub, rest ten minutes, press until its own juice covers it.',
    },
    turnips: {
      formulaId: diary.id(at), number: 2, version: 1, name: 'Baby turnips with lemon thyme', style: 'brinedWhole',
      produce: [{ materialId: m['turnip']!, share: 1 }],
      saltBasis: 'ofEverything', saltFraction: 0.026, waterPerProduce: 0.7, lines: [line('thyme', 'mainMass', 0.004), line('pepper', 'mainMass', 0.003), line('mustard', 'mainMass', 0.005)],
      solidsFraction: 0.58, yields: { trim: 0.81, ferment: 0.93, pack: 0.97 }, jarSizes: [{ sizeMl: 330, fillGrams: 320 }, { sizeMl: 720, fillGrams: 690 }], usualDays: 21,
      note: 'Prick each turnip to its middle. The brine is cool before it is poured.',
    },
    mash: {
      formulaId: diary.id(at), number: 4, version: 1, name: 'Physalis and lovage mash', style: 'brinedMash',
      produce: [{ materialId: m['physalis']!, share: 0.8 }, { materialId: m['chilli']!, share: 0.2 }],
      saltBasis: 'ofEverything', saltFraction: 0.032, waterPerProduce: 0.12, lines: [line('lovage', 'mainMass', 0.012)],
      solidsFraction: 1, yields: { trim: 0.86, ferment: 0.96, pack: 0.95 }, jarSizes: [{ sizeMl: 150, fillGrams: 150 }, { sizeMl: 330, fillGrams: 330 }], usualDays: 30,
      note: 'Starts slowly: about 2 % kept brine of the last mash. Gloves and goggles for the chilli.',
    },
  };
}

import type { BodyOf, Entry, EntryKind } from '@clear-tally/contract';
import type { TrainedTask } from '@clear-tally/core';
import { type Actor, recordEntries } from '../journal/record.js';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';
import { Seeded } from './seeded.js';

/** Ids of its own: what is added here changes nothing that is told elsewhere. */
const SEED = 40_417;

type Piece = Omit<BodyOf<'equipment.add'>, 'equipmentId' | 'roomId' | 'inUse'> & { readonly room: string };
const nothing = { capacityGrams: null, stepGrams: null, count: null, words: null };

const PIECES: readonly Piece[] = [
  { ...nothing, kind: 'scale', tag: 'SC1', name: 'Bench scale', capacityGrams: 6000, stepGrams: 1, room: 'loft' },
  { ...nothing, kind: 'scale', tag: 'SC2', name: 'Floor scale', capacityGrams: 150_000, stepGrams: 50, room: 'cellar' },
  { ...nothing, kind: 'scale', tag: 'SC3', name: 'Spice scale', capacityGrams: 500, stepGrams: 0.1, room: 'loft' },
  { ...nothing, kind: 'tool', tag: 'T1', name: 'Shredder', words: 'stainless, blade 3 mm', room: 'loft' },
  { ...nothing, kind: 'tool', tag: 'T2', name: 'Paddle and tamper', words: 'beech', room: 'cellar' },
  { ...nothing, kind: 'parts', tag: 'GW', name: 'Glass weights', count: 24, words: '70 and 90 mm', room: 'loft' },
  { ...nothing, kind: 'parts', tag: 'AL', name: 'Airlocks with gasket', count: 14, room: 'loft' },
  {
    ...nothing,
    kind: 'water',
    tag: 'TAP1',
    name: 'Tap 1',
    words: 'carbon filter 7, then stood over night',
    room: 'loft',
  },
];

/** The scales by tag, known before they are added: what is weighed names them. */
export const SCALE_IDS = {
  SC1: '01990000-0000-7000-8000-0000000000c1',
  SC2: '01990000-0000-7000-8000-0000000000c2',
  SC3: '01990000-0000-7000-8000-0000000000c3',
} as const;

/** Days ago, in which, by whom, until in so many days. */
const TRAININGS: readonly (readonly [who: 'tomasz' | 'ines' | 'odile', TrainedTask, number, number | null])[] = [
  ['odile', 'heating', 410, null],
  ['tomasz', 'salting', 400, null],
  ['tomasz', 'reading', 396, null],
  ['tomasz', 'cleaning', 380, -15],
  ['ines', 'packing', 300, null],
  ['ines', 'cleaning', 120, 245],
  ['ines', 'salting', 90, null],
];

/** Scales held against a weight, parts counted, water tested, sanitiser mixed, and what people were taught. */
export function planEquipment(diary: Diary, house: Founded, since: number): void {
  const random = new Seeded(SEED);
  const { odile, tomasz, ines } = house.people;
  const plan = <K extends EntryKind>(daysAgo: number, hour: number, actor: Actor, kind: K, body: BodyOf<K>): void => {
    if (daysAgo > since) return;
    const at = diary.moment(daysAgo, hour);
    const entry = {
      id: random.uuid(at),
      kind,
      happenedAt: at.toISOString(),
      by: actor.id,
      device: 'demo',
      body,
    } as unknown as Entry;
    diary.plan(at, async () => void (await recordEntries(diary.db, { entries: [entry], actor, now: at })));
  };
  const began = since - 1;
  const ids = new Map<string, string>();
  for (const { room, ...piece } of PIECES) {
    const drawn = random.uuid(diary.moment(began, 10));
    const equipmentId = Object.entries(SCALE_IDS).find(([tag]) => tag === piece.tag)?.[1] ?? drawn;
    ids.set(piece.tag, equipmentId);
    plan(began, 10, odile, 'equipment.add', { ...piece, equipmentId, roomId: house.rooms.get(room)!, inUse: true });
  }
  const look = (daysAgo: number, hour: number, actor: Actor, tag: string, by: BodyOf<'equipment.check'>['by']): void =>
    plan(daysAgo, hour, actor, 'equipment.check', { equipmentId: ids.get(tag)!, by });
  const weight = (weightGrams: number, shownGrams: number) => ({ how: 'weight' as const, weightGrams, shownGrams });
  for (let week = 0; week < 9; week += 1)
    look(week * 7 + 2, 8, tomasz, 'SC1', weight(2000, week === 4 ? 2003 : 2000 + (week % 2)));
  // Put right the same morning.
  look(30, 9, odile, 'SC1', weight(2000, 2000));
  for (const days of [9, 23, 44]) look(days, 8, ines, 'SC2', weight(20_000, days === 23 ? 20_000 : 20_050));
  look(5, 8, ines, 'SC3', weight(100, 100.1));
  look(3, 16, ines, 'GW', { how: 'count', counted: 24, missing: null });
  look(3, 16, ines, 'AL', { how: 'count', counted: 13, missing: 'One in D5, its gasket is being replaced' });
  look(Math.min(150, began), 11, odile, 'TAP1', {
    how: 'test',
    words: 'Nothing grown, chlorine 0.1 mg/L, report PE-2214',
    passed: true,
  });
  const clean = (daysAgo: number, hour: number, what: BodyOf<'equipment.clean'>['what'], mixId: string | null): void =>
    plan(daysAgo, hour, ines, 'equipment.clean', {
      what,
      agent: mixId ? 'peracetic acid' : 'hot soapy water',
      dilution: mixId ? '20 mL to 10 L' : null,
      contactMinutes: mixId ? 10 : null,
      rinsed: !mixId,
      noRinse: mixId !== null,
      ...(mixId ? { mixId } : {}),
    });
  for (const daysAgo of [22, 15, 8, 1]) {
    const mixId = random.uuid(diary.moment(daysAgo, 7));
    plan(daysAgo, 7, ines, 'sanitiser.mix', {
      mixId,
      agent: 'peracetic acid',
      dilution: '20 mL to 10 L',
      litres: 10,
      strength: { how: 'test strip', shown: '200 ppm', passed: true },
      goodUntil: new Date(diary.moment(daysAgo, 7).getTime() + 36 * 3_600_000).toISOString(),
    });
    clean(daysAgo, 8, { what: 'equipment', equipmentId: ids.get('T1')! }, mixId);
    clean(daysAgo, 17, { what: 'room', roomId: house.rooms.get('loft')! }, null);
  }
  clean(8, 16, { what: 'room', roomId: house.rooms.get('cellar')! }, null);
  for (const [who, task, daysAgo, endsIn] of TRAININGS)
    plan(Math.min(daysAgo, began), 9, odile, 'person.train', {
      trainingId: random.uuid(diary.moment(daysAgo, 9)),
      personId: house.people[who].id,
      task,
      words: null,
      taughtBy: who === 'odile' ? 'Port Ellery college, evening course' : 'Odile Marr',
      on: diary.day(-daysAgo),
      until: endsIn === null ? null : diary.day(endsIn),
    });
}

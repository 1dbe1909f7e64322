import type { Diary } from './diary.js';
import type { Founded } from './house.js';

const BARREL_GRAMS = 44_000;

/** A barrel and a shelf of jars that stood there before the ledger began. */
export function planOpenings(diary: Diary, house: Founded): { fillLotId: string; grams: number } {
  const at = diary.moment(83, 12);
  const day = (daysAgo: number) => diary.moment(daysAgo, 12).toISOString().slice(0, 10);
  const barrel = diary.id(at);
  diary.plan(
    at,
    async () =>
      void (await diary.record(
        'lot.open',
        {
          what: 'vessel',
          batchId: diary.id(at),
          fillLotId: barrel,
          name: 'Winter roots, old recipe',
          vesselId: house.vessels.get('W1')!,
          grams: BARREL_GRAMS,
          filledOn: day(101),
        },
        at,
        house.people.odile,
      )),
  );
  diary.plan(
    at,
    async () =>
      void (await diary.record(
        'lot.open',
        {
          what: 'jars',
          batchId: diary.id(at),
          runLotId: diary.id(at),
          name: 'Swede and parsnip shred',
          jars: [{ sizeMl: 330, netGrams: 320, count: 64 }],
          filledOn: day(110),
        },
        at,
        house.people.odile,
      )),
  );
  // Old and quiet: looked at twice a week, read once.
  const every = (what: 'ph' | 'temperature' | 'look', hours: number) => ({
    what,
    words: null,
    rule: { kind: 'every' as const, hours, forDays: null },
    condition: 'always' as const,
  });
  diary.plan(
    at,
    async () =>
      void (await diary.record(
        'plan.change',
        {
          lotId: barrel,
          checks: [every('ph', 24 * 14), every('temperature', 24), every('look', 84)],
          reason: 'an old barrel, as it was watched before',
        },
        at,
        house.people.odile,
      )),
  );
  const read = diary.moment(12, 8, 20);
  diary.plan(
    read,
    async () =>
      void (await diary.record('ph.read', { lotId: barrel, ph: 3.61, sample: 'brine' }, read, house.people.ines)),
  );
  return { fillLotId: barrel, grams: BARREL_GRAMS };
}

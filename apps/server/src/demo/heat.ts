import type { BodyOf } from '@clear-tally/contract';
import type { HeatPoint } from '@clear-tally/core';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/** The kettle: up to 85 °C in five minutes, held, and down again; a point a minute, `from` the clock of the first. */
const course = (hold: number, dipsAt?: number): HeatPoint[] =>
  Array.from({ length: 9 + hold }, (_, minute) => ({
    minute,
    celsius:
      minute < 5
        ? 60 + minute * 5
        : minute > 5 + hold
          ? 85 - 10 * (minute - 5 - hold)
          : minute === dipsAt
            ? 83.6
            : 85 + ((minute * 7) % 4) / 10,
  }));

/** A process on file, and a sauce hot-filled to it in two loads: one that dipped, and holds exactly its own bottles. */
export function planHeat(
  diary: Diary,
  house: Founded,
  run: { readonly runLotId: string; readonly jars: number; readonly daysAgo: number },
): void {
  const filed = diary.moment(80, 16);
  const processId = diary.id(filed);
  diary.plan(
    filed,
    async () =>
      void (await diary.record(
        'heat.process',
        {
          processId,
          name: 'Sauces in bottles, hot fill',
          formulaId: house.formulas.mash.formulaId,
          limits: {
            method: 'hotFill',
            maxPh: 4,
            sizeMl: 500,
            processC: 85,
            minutes: 12,
            fillC: 82,
            initialC: null,
            headspaceMm: 6,
            turnedSeconds: 120,
            coverMm: null,
            restMinutes: null,
            cooledC: 40,
            lethality: { refC: 93.33, z: 8.89, minutes: 1.2, countsComeUp: true },
            altitudeM: 60,
          },
          critical: 'Sieved, no piece above 2 mm',
          issuer: 'Process authority of Ellery Shire (made up)',
          issuedOn: '2026-03-02',
          validUntil: '2029-03-01',
          document: null,
        },
        filed,
        house.people.odile,
      )),
  );
  const packed = diary.moment(run.daysAgo, 13);
  const load = (first: number, last: number, at: Date, more: Partial<BodyOf<'heat.load'>>): string => {
    const loadId = diary.id(at);
    diary.plan(
      at,
      async () =>
        void (await diary.record(
          'heat.load',
          {
            loadId,
            runLotId: run.runLotId,
            first,
            last,
            processId,
            startedAt: new Date(at.getTime() - 25 * 60_000).toISOString(),
            points: course(12),
            fills: [
              { serial: first, celsius: 84.5 },
              { serial: last, celsius: 82.4 },
            ],
            initialC: null,
            headspaceMm: 6,
            turnedSeconds: 140,
            coverMm: null,
            restMinutes: null,
            cooledC: 36,
            criticalKept: true,
            note: null,
            ...more,
          },
          at,
          house.people.tomasz,
        )),
    );
    return loadId;
  };
  const good = load(1, run.jars - 36, packed, {});
  const dipped = load(run.jars - 35, run.jars, new Date(packed.getTime() + 50 * 60_000), {
    points: course(12, 11),
    note: 'the gas bottle ran empty, changed at once',
  });
  const seals = (loadId: string, failed: number[], at: Date): void =>
    diary.plan(
      at,
      async () =>
        void (await diary.record(
          'heat.seals',
          { loadId, failed, then: failed.length > 0 ? 'chilled' : null, note: null },
          at,
          house.people.ines,
        )),
    );
  const nextDay = diary.moment(run.daysAgo - 1, 14);
  seals(good, [17], nextDay);
  seals(dipped, [], new Date(nextDay.getTime() + 10 * 60_000));
}

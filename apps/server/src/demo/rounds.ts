import type { EntryKind } from '@clear-tally/contract';
import { QUIET_KINDS } from '@clear-tally/core';
import { loadWatched } from '../lots/watched.js';
import { applyRules } from '../subjects/holds/applyRules.js';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

const DAYS = 83;
/** Every so many vessels one was passed by today. */
const LEFT_TODAY = 7;

/** The rounds of eleven weeks, walked by the plan itself; in the morning, today's is still to be walked. */
export function planRounds(diary: Diary, house: Founded, stories: { film: string; pinkTop: string }): void {
  for (let daysAgo = DAYS; daysAgo >= 0; daysAgo -= 1) {
    calibrate(diary, house, daysAgo);
    if (daysAgo > 0 || diary.roundWalked) planRound(diary, house, daysAgo);
  }
  planStories(diary, house, stories);
}

/** The bench meter against its buffers, before anything is read with it. */
export function calibrate(diary: Diary, house: Founded, daysAgo: number): void {
  const calibrated = diary.moment(daysAgo, 6, 12);
  diary.plan(
    calibrated,
    async () =>
      void (await diary.record(
        'meter.calibrate',
        {
          meterId: house.meter,
          celsius: 19,
          by: {
            how: 'buffers',
            buffers: [
              { ph: 7, millivolts: 3 + diary.random.around(2) },
              { ph: 4.01, millivolts: 173 + diary.random.around(2) },
            ],
          },
          check: { buffer: 4.01, read: Math.round((4.01 + diary.random.around(0.02)) * 100) / 100 },
        },
        calibrated,
        daysAgo % 2 ? house.people.ines : house.people.tomasz,
      )),
  );
}

function planRound(diary: Diary, house: Founded, daysAgo: number): void {
  const at = diary.moment(daysAgo, 9, 5);
  // Now and then nobody gets round to it: what was due then stays missed.
  if (daysAgo % 9 === 4) return;
  const actor = daysAgo % 3 === 0 ? house.people.tomasz : house.people.ines;
  diary.plan(at, async () => {
    const watched = await loadWatched(diary.db, at);
    const open = watched
      .map((vessel) => ({ vessel, checks: vessel.due.filter(({ state }) => state === 'due' || state === 'late') }))
      .filter(({ checks }, index) => checks.length > 0 && (daysAgo > 0 || index % LEFT_TODAY !== LEFT_TODAY - 1));
    // What is held is looked at by its own line.
    for (const { vessel, checks } of open.filter((one) => one.vessel.holds.length > 0)) {
      for (const { what, words } of checks.filter((one) => QUIET_KINDS.includes(one.what)))
        await diary.record('check.make', { lotId: vessel.lotId, what, words, quiet: true }, at, actor);
    }
    const quiet = open
      .filter(({ vessel }) => vessel.holds.length === 0)
      .map(({ vessel, checks }) => ({
        lotId: vessel.lotId,
        checks: checks.filter(({ what }) => QUIET_KINDS.includes(what)).map(({ what, words }) => ({ what, words })),
      }))
      .filter(({ checks }) => checks.length > 0);
    if (quiet.length > 0) await diary.record('round.quiet', { lots: quiet }, at, actor);
    const entries = open.flatMap(({ vessel, checks }) =>
      checks.flatMap(({ what }): { kind: EntryKind; body: object }[] => {
        const { lotId } = vessel;
        if (what === 'temperature')
          return [
            {
              kind: 'temperature.read',
              body: {
                lotId,
                celsius:
                  Math.round(
                    ((vessel.celsius.at(-1)?.celsius ?? vessel.roomCelsius) * 0.5 +
                      vessel.roomCelsius * 0.5 +
                      diary.random.around(0.6)) *
                      10,
                  ) / 10,
              },
            },
          ];
        if (what === 'swelling')
          return [
            {
              kind: 'check.make',
              body: { lotId, what, words: null, quiet: true, figure: Math.min(3, Math.floor(vessel.day / 2)) },
            },
          ];
        if (what === 'taste')
          return [
            {
              kind: 'taste.record',
              body: {
                lotId,
                marks: { salt: 2, sour: vessel.day > 15 ? 3 : 1, fizz: 1, crunch: 3, heat: null },
                offNotes: null,
                colourThrough: vessel.day > 15,
                says: vessel.day > 20 ? 'signedOff' : 'wait',
                grams: 15,
                note: null,
              },
            },
          ];
        return [];
      }),
    );
    await diary.recordAll(entries, new Date(at.getTime() + 20 * 60_000), actor);
    await applyRules(diary.db, new Date(at.getTime() + 21 * 60_000));
  });
}

/** A film that was skimmed and came no further, a pink top that is held, an old meter that failed its buffer. */
function planStories(diary: Diary, house: Founded, { film, pinkTop }: { film: string; pinkTop: string }): void {
  const seen = diary.moment(4, 9, 40);
  diary.plan(seen, async () => {
    await diary.record(
      'find.record',
      {
        lotId: film,
        finding: 'film',
        place: 'surface',
        verdict: 'act',
        reason: null,
        note: 'a third of the surface, skimmed, wall wiped, all under the brine again',
        photo: null,
      },
      seen,
      house.people.tomasz,
    );
    await diary.record(
      'loss.record',
      { lotId: film, sink: 'spoiled', grams: 38, note: 'film skimmed' },
      seen,
      house.people.tomasz,
    );
  });
  const pink = diary.moment(1, 10, 15);
  diary.plan(
    pink,
    async () =>
      void (await diary.record(
        'find.record',
        {
          lotId: pinkTop,
          finding: 'pinkTop',
          place: 'piece',
          verdict: 'hold',
          reason: null,
          note: 'three pink pieces under the weight',
          photo: null,
        },
        pink,
        house.people.ines,
      )),
  );
}

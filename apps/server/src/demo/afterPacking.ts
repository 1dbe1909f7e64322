import type { BodyOf } from '@clear-tally/contract';
import { Refused } from '../journal/refused.js';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/** A run of the demo house after it was packed. */
export interface PackedRun {
  readonly runLotId: string;
  readonly daysAgo: number;
  /** `sold`: released and out; `gushed`: released, and one hissed later; `waits`: nothing signed yet. */
  readonly story: 'sold' | 'gushed' | 'waits';
  /** Its jar was opened and was quiet, so many days after packing. */
  readonly gasAfter?: number;
}

const CUSTOMERS = [
  ['ladle', 'The Copper Ladle', 'kitchen', '3 Quay Street, Port Ellery'],
  ['bridges', 'Three Bridges Grocer', 'shop', 'Three Bridges'],
  ['fenend', 'Fen End Box Scheme', 'box', 'Fen End Farm, by the mill'],
  ['market', 'Ellery Saturday Market', 'market', null],
] as const;

/** Customers, looks at what was packed, releases, deliveries, and a jar that hissed; the ids of the customers. */
export function planAfterPacking(
  diary: Diary,
  house: Founded,
  runs: readonly PackedRun[],
  since: number,
): Record<string, string> {
  const founded = diary.moment(since, 10);
  const ids = Object.fromEntries(CUSTOMERS.map(([key]) => [key, diary.id(founded)]));
  diary.plan(founded, async () => {
    for (const [key, name, customerKind, address] of CUSTOMERS)
      await diary.record(
        'customer.add',
        { customerId: ids[key]!, name, customerKind, address, contact: 'number on the wall by the telephone' },
        founded,
        house.people.odile,
      );
  });
  for (const [index, run] of runs.entries()) {
    planLooks(diary, house, run);
    if (run.story === 'waits') continue;
    const signed = diary.moment(run.daysAgo - 10, 17, 10 + index);
    diary.plan(signed, async () =>
      orNot(
        diary.record(
          'run.release',
          {
            runLotId: run.runLotId,
            excuses: { checks: 'Looked at on every round; what is missing was not written down in the first weeks.' },
          },
          signed,
          house.people.odile,
        ),
      ),
    );
    planDeliveries(diary, house, { run, ids, index });
  }
  const gushed = runs.find(({ story }) => story === 'gushed');
  if (gushed) planGush(diary, house, gushed);
  return ids;
}

function planLooks(diary: Diary, house: Founded, run: PackedRun): void {
  const look = (days: number, body: Pick<BodyOf<'run.check'>, 'what' | 'says' | 'opened' | 'note'>): void => {
    if (days >= run.daysAgo) return;
    const at = diary.moment(run.daysAgo - days, 15, 40);
    diary.plan(at, async () =>
      orNot(diary.record('run.check', { runLotId: run.runLotId, ...body, photo: null }, at, house.people.tomasz)),
    );
  };
  look(1, { what: 'level', says: 'fine', opened: null, note: null });
  if (run.gasAfter !== undefined)
    look(run.gasAfter, { what: 'gas', says: 'quiet', opened: 1, note: 'one jar, three days at 20 °C' });
}

function planDeliveries(
  diary: Diary,
  house: Founded,
  { run, ids, index }: { run: PackedRun; ids: Record<string, string>; index: number },
): void {
  const to = ['ladle', 'bridges', 'fenend'] as const;
  const sends: [customer: string, first: number, last: number, daysAgo: number][] = [
    [ids[to[index % 3]!]!, 2, 13, run.daysAgo - 12],
    [ids[to[(index + 1) % 3]!]!, 14, 25, run.daysAgo - 15],
  ];
  for (const [customerId, first, last, daysAgo] of sends) {
    if (daysAgo < 1) continue;
    const at = diary.moment(daysAgo, 7, 30 + index);
    const dispatchId = diary.id(at);
    diary.plan(at, async () =>
      orNot(
        diary.record(
          'jars.dispatch',
          { dispatchId, customerId, jars: [{ runLotId: run.runLotId, first, last }], note: null },
          at,
          house.people.tomasz,
        ),
      ),
    );
  }
  // Two came back from a kitchen with dented lids; a stall sold some on a Saturday.
  if (index === 0) {
    const back = diary.moment(run.daysAgo - 20, 11);
    diary.plan(back, async () =>
      orNot(
        diary.record(
          'jars.back',
          {
            jars: [{ runLotId: run.runLotId, first: 12, last: 13 }],
            roomId: house.rooms.get('cellar') ?? [...house.rooms.values()][0]!,
            reason: 'lids dented on the way',
          },
          back,
          house.people.ines,
        ),
      ),
    );
    const stall = diary.moment(run.daysAgo - 18, 14);
    diary.plan(stall, async () =>
      orNot(
        diary.record(
          'jars.out',
          { jars: [{ runLotId: run.runLotId, first: 26, last: 34 }], how: 'market', note: 'Ellery Saturday Market' },
          stall,
          house.people.ines,
        ),
      ),
    );
  }
}

/** One that hissed when it was opened: held, with its siblings. */
function planGush(diary: Diary, house: Founded, run: PackedRun): void {
  const at = diary.moment(4, 15, 5);
  diary.plan(at, async () =>
    orNot(
      diary.record(
        'run.check',
        {
          runLotId: run.runLotId,
          what: 'gas',
          says: 'gushes',
          opened: 30,
          note: 'stood by the oven in the shop kitchen',
          photo: null,
        },
        at,
        house.people.ines,
      ),
    ),
  );
}

/** What the house's own rules refuse on that day is left out of the story; anything else is a fault. */
async function orNot(recording: Promise<unknown>): Promise<void> {
  try {
    await recording;
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
  }
}

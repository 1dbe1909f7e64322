import type { BodyOf } from '@clear-tally/contract';
import { formatGrams } from '@clear-tally/core';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

/**
 * The trace desk: a drill three weeks ago, complaints of two runs of one batch, one of a dented lid,
 * and a barrel that was weighed and does not close by 640 g.
 */
export function planDesk(
  diary: Diary,
  house: Founded,
  of: { pepperLotId: string; turnipRuns: readonly string[]; sauceRun: string; barrel: string; barrelGrams: number },
): void {
  const record = <K extends Parameters<Diary['record']>[0]>(
    kind: K,
    body: BodyOf<K>,
    at: Date,
    by: 'odile' | 'tomasz' | 'ines',
  ) => diary.plan(at, async () => void (await diary.record(kind, body, at, house.people[by])));

  const drill = diary.moment(20, 10, 4);
  const recallId = diary.id(drill);
  record(
    'recall.open',
    {
      recallId,
      lotId: of.pepperLotId,
      scope: 'descendants',
      carryOver: false,
      drill: true,
      reason: 'A drill: pepper called back by its supplier.',
      source: 'a slip of paper out of the hat',
      heardAt: diary.moment(20, 9, 58).toISOString(),
    },
    drill,
    'tomasz',
  );
  record(
    'recall.close',
    {
      recallId,
      outcome: 'List complete in six minutes. Two customers were called and answered within the hour.',
      restReason: 'a drill: what others had was not asked for',
    },
    diary.moment(20, 11, 30),
    'odile',
  );

  const complain = (
    daysAgo: number,
    runLotId: string,
    serial: number,
    more: Pick<BodyOf<'complaint.take'>, 'what' | 'words'>,
  ): string => {
    const at = diary.moment(daysAgo, 11, 20);
    const complaintId = diary.id(at);
    record(
      'complaint.take',
      { complaintId, runLotId, serial, photo: null, hold: false, noHoldReason: null, ...more },
      at,
      'ines',
    );
    return complaintId;
  };
  const dented = complain(9, of.sauceRun, 3, { what: 'damaged', words: 'The lid was dented when the box was opened.' });
  record(
    'complaint.close',
    { complaintId: dented, outcome: 'notOurs', words: 'Dented on its way; a new bottle was sent.' },
    diary.moment(8, 9, 30),
    'ines',
  );
  const [one, other] = of.turnipRuns;
  complain(6, one!, 16, { what: 'smellTaste', words: 'Bitter, like old mustard; otherwise as always.' });
  complain(4, other!, 5, { what: 'smellTaste', words: 'Bitter at the end. They had the other box last week too.' });

  // At most one hundredth of a fill may be gas; what is missing beyond that nobody has written down.
  const missing = 640;
  const counted = of.barrelGrams - Math.round(of.barrelGrams * 0.01) - missing;
  diary.plan(diary.moment(2, 16, 10), async () => {
    if (counted <= 0) throw new Error(`a barrel of ${formatGrams(of.barrelGrams)} is too small for this story`);
    await diary.record(
      'lot.count',
      { lotId: of.barrel, grams: counted, byDifference: 'gas' },
      diary.moment(2, 16, 10),
      house.people.tomasz,
    );
  });
}

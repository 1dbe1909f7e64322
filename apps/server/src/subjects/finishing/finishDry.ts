import { checkMass, formatGrams } from '@clear-tally/core';
import { drying } from '../../db/schema/finishing.js';
import { toMilligrams } from '../../db/schema/columns.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { addMovements, balance } from '../../lots/lots.js';
import { inHand } from './finishInHand.js';

export const finishDried = kind('finish.dry', {
  who: 'maker',
  words: 'Dried',
  does: 'dried: temperature, hours, what it weighs now; without a water activity it stays cold',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at, seq, entry } = recording;
    const { of, finishing } = await inHand(tx, body.finishLotId);
    if (finishing.what !== 'drying')
      throw refused('finish.not', `${of.code} is not taken in hand to be dried.`, { field: 'finishLotId' });
    must(checkMass({ grams: body.leftGrams, what: 'what is dried', field: 'leftGrams' }));
    const { atGrams } = await balance(tx, of, at);
    if (body.leftGrams > atGrams)
      throw refused(
        'lot.overdrawn',
        `${formatGrams(body.leftGrams)} was given, and ${formatGrams(atGrams)} went in: drying adds nothing. Weigh it again.`,
        { field: 'leftGrams', facts: { onHandGrams: atGrams } },
      );
    if (atGrams - body.leftGrams >= 0.001)
      await addMovements(recording, [
        { from: { lot: of }, to: { sink: 'evaporation' }, grams: atGrams - body.leftGrams, field: 'leftGrams' },
      ]);
    await tx.insert(drying).values({
      entryId: entry.id,
      lotId: of.id,
      celsius: body.celsius,
      hours: body.hours,
      leftMilligrams: toMilligrams(body.leftGrams),
      waterActivity: body.waterActivity,
      at,
      seq,
    });
    return { facts: { driedOff: atGrams - body.leftGrams }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: `Dried at ${entry.body.celsius} °C, ${entry.body.hours} h`,
    words: [
      `${formatGrams(Number(facts['driedOff'] ?? 0))} of water gone`,
      entry.body.waterActivity === null
        ? 'water activity not measured: it stays cold'
        : `water activity ${entry.body.waterActivity}`,
    ].join(' · '),
    figure: formatGrams(entry.body.leftGrams),
  }),
});

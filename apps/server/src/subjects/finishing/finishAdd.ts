import { checkMass, FEEDING, feeds, FINISH_PART_WORDS, preparationFeeds, formatWeighed } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { material } from '../../db/schema/stores.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { saltOf } from '../../lots/contents.js';
import { takenFrom } from '../../lots/finishes.js';
import { addMovements, closeEmptied, loadLot, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { inHand, packableAll } from './finishInHand.js';

export const finishAdded = kind('finish.add', {
  who: 'maker',
  words: 'Into a finish',
  does: 'something goes into a finish: brine back, vinegar, thickener, spice; sugar or fruit starts it again',
  correct: 'ledger',
  heeds: true,
  judged: true,
  rulesBefore: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const { of } = await inHand(tx, body.finishLotId);
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['supply', 'preparation', 'fill']);
    if (from.id === of.id)
      throw refused('lot.wrongKind', `${of.code} cannot be poured into itself.`, { field: 'fromLotId' });
    refuseClosed(from, 'fromLotId');
    await refuseHeld(tx, from, 'fromLotId');
    await refusePast(tx, from, at, body.pastReason);
    must(checkMass({ grams: body.grams, what: from.name, field: 'grams' }));
    // Its own vessels were packable when it was begun; drained since, they are no product, and their brine goes back.
    const own = (await takenFrom(tx, [of.id])).some(({ lotId }) => lotId === from.id);
    if (from.kind === 'fill' && !own) await packableAll(recording, [from]);
    const before = await saltOf(tx, of.id);
    const [what] = from.materialId ? await tx.select().from(material).where(eq(material.id, from.materialId)) : [];
    const restarts = what
      ? feeds({ ...what.details, name: what.name, kind: what.kind }, body.as)
      : preparationFeeds(from.form, body.as);
    const of_ = restarts ? FEEDING : from.kind === 'fill' ? 'finish.brineBack' : 'finish.add';
    await addMovements(recording, [{ from: { lot: from }, to: { lotId: of.id }, grams: body.grams, field: 'grams' }], {
      entryId: recording.entry.id,
      kind: of_,
      at,
    });
    const emptied = await closeEmptied(recording, from);
    const scale = await weighOn(recording, { ...body, lotId: of.id });
    const after = await saltOf(tx, of.id);
    return {
      facts: {
        ...scale,
        before: before.waterPhase,
        after: after.waterPhase,
        ...(restarts ? { restarts: from.name } : {}),
        ...(emptied ? { emptied: from.code } : {}),
      },
      lots: [of.id, from.id],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${FINISH_PART_WORDS[entry.body.as]}: ${code(entry.body.fromLotId)}`,
    words:
      [
        entry.body.strengthPercent && `${entry.body.strengthPercent} % acetic acid`,
        facts['restarts'] && `${String(facts['restarts'])} starts it again: cold, or heated to a process`,
        entry.body.pastReason,
        onScale(facts),
      ]
        .filter(Boolean)
        .join(' · ') || null,
    figure: formatWeighed(entry.body.grams),
  }),
});

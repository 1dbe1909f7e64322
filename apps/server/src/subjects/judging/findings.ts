import { decideVerdict, findingOf, holds, judge, PLACES, type Verdict, VERDICT_WORDS } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { rows } from '../../db/database.js';
import { finding } from '../../db/schema/watching.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { reachWords } from '../../lots/lineWords.js';
import { loadLot, type LotRow } from '../../lots/lots.js';
import { refuseUnknownPhoto } from '../../lots/photos.js';
import { holdReach } from '../../lots/reach.js';
import { openHolds } from '../../lots/openHolds.js';
import { placeHold } from '../holds/index.js';
import { factsOf } from './factsOf.js';

/**
 * Something seen, with its verdict from the finding and the facts of its lot. On a vessel that is packed already
 * it goes to the runs it was packed into. "Hold" and "Throw out" hold at once.
 */
export const findingRecorded = kind('find.record', {
  who: 'maker',
  task: 'judging',
  whoWords: 'maker; milder than the guide: owner with a reason',
  words: 'Seen',
  does: 'something seen, with the guide\'s verdict and the person\'s; "Hold" and "Throw out" hold at once, with what was taken from the vessel since it was last in order (`reach` names what is held and why the rest is left out)',
  correct: 'book',
  places: true,
  judged: true,
  weighty: true,
  reachesLater: true,
  record: async (recording) => {
    const { tx, entry, body, seq, at, isOwner } = recording;
    const named = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run']);
    await refuseUnknownPhoto(tx, body.photo, 'photo');
    const lots: LotRow[] = [];
    if (named.kind === 'fill' && named.closedAt) {
      const runs = await rows<{ id: string }>(
        tx,
        sql`select distinct l.id, l.seq from live_movement m join lot l on l.id = m.to_lot where m.from_lot = ${named.id} and l.kind = 'run' order by l.seq`,
      );
      for (const { id } of runs) lots.push(await loadLot(tx, id, 'lotId'));
      if (lots.length === 0)
        throw refused('lot.closed', `${named.code} is emptied, and no jars were packed from it.`, { field: 'lotId' });
    } else lots.push(named);
    if (at < lots[0]!.at)
      throw refused('lot.notYet', `${lots[0]!.code} began after the time given. Look at the time.`, {
        field: 'happenedAt',
      });
    const of = findingOf(body.finding)!;
    const said = [];
    let reach: Awaited<ReturnType<typeof holdReach>> = { facts: {}, lots: [] };
    for (const lot of lots) {
      const judgement = judge({ finding: body.finding, place: body.place, facts: await factsOf(tx, lot, at) });
      const { verdict, changed } = judged(tx, {
        guide: judgement.verdict,
        said: body.verdict,
        isReviewer: isOwner,
        reason: body.reason,
      });
      await tx.insert(finding).values({
        entryId: entry.id,
        lotId: lot.id,
        finding: of.key,
        place: body.place,
        guide: judgement.verdict,
        verdict,
        reasons: [...judgement.reasons],
        note: body.note,
        photo: body.photo,
        by: entry.by,
        at,
        seq,
      });
      if (holds(verdict)) {
        const open = (await openHolds(tx, [lot.id])).get(lot.id) ?? [];
        const rule = verdict === 'throwOut' ? ('throwOut' as const) : ('finding' as const);
        const reason = `${of.name}, ${PLACES[body.place]}`;
        reach = await holdReach(recording, lot, {
          reason,
          chosen: body.reach?.hold ?? null,
          leftOutReason: body.reach?.leftOutReason ?? null,
        });
        if (!open.some((one) => one.rule === rule))
          await placeHold(recording, {
            lotId: lot.id,
            rule,
            reason: `${of.name}, ${PLACES[body.place]}${verdict === 'throwOut' ? ': throw out' : ''}`,
          });
      }
      said.push({
        code: lot.code,
        guide: judgement.verdict,
        verdict,
        changed,
        reasons: judgement.reasons,
        todo: judgement.todo,
      });
    }
    return {
      facts: {
        name: of.name,
        place: PLACES[body.place],
        verdict: said[0]!.verdict,
        verdictWords: VERDICT_WORDS[said[0]!.verdict],
        guide: said[0]!.guide,
        reasons: said[0]!.reasons,
        changed: said[0]!.changed,
        todo: said[0]!.todo,
        ...reach.facts,
        on: said.map(({ code }) => code),
        ...(lots[0]!.id === named.id ? {} : { movedTo: said.map(({ code }) => code) }),
      },
      lots: [...new Set([named.id, ...lots.map(({ id }) => id), ...reach.lots])],
    };
  },
  line: ({ entry, facts }) => ({
    what: `Seen: ${String(facts['name'] ?? '')}`,
    words: [
      `${String(facts['place'] ?? '')} · ${String(facts['verdictWords'] ?? '')}`,
      facts['changed'] ? `${String(facts['changed'])} than the guide: ${entry.body.reason ?? 'to be careful'}` : null,
      ...reachWords(facts),
      entry.body.note,
    ]
      .filter(Boolean)
      .join(' · '),
  }),
});

/** What a person said stands; where the guide is graver by what is known now, and nobody gave a reason, the guide's stands. */
function judged(tx: object, said: Parameters<typeof decideVerdict>[0]): { verdict: Verdict; changed: string | null } {
  const outcome = decideVerdict(said);
  return outcome.ok || !happened(tx) ? must(outcome) : { verdict: said.guide, changed: null };
}

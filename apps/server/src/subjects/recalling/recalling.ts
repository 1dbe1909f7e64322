import { ANSWER_WORDS, decideAnswer, decideRecallClose } from '@clear-tally/core';
import { and, eq, isNull } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { hold } from '../../db/schema/ledger.js';
import { recall, recallLot, recallNote } from '../../db/schema/recall.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { loadLot } from '../../lots/lots.js';
import { nextOfYear } from '../../lots/nextOfYear.js';
import { crateNow } from '../../lots/recallCrate.js';
import { recallReach } from '../../lots/recallReach.js';

async function openRecall(tx: Transaction, recallId: string): Promise<typeof recall.$inferSelect> {
  const [of] = await tx.select().from(recall).where(eq(recall.id, recallId));
  if (!of) throw refused('recall.unknown', 'This recall is not known in this house.', { field: 'recallId' });
  if (of.closedAt && !happened(tx))
    throw refused('recall.closed', `${of.code} is closed: ${of.outcome ?? ''}`, { field: 'recallId' });
  return of;
}

export const recallOpened = kind('recall.open', {
  who: 'maker',
  words: 'Recall opened',
  does: 'a recall or a drill: the suspect, how far it reaches, every lot of it held at once (a drill holds nothing)',
  correct: 'book',
  places: true,
  weighty: true,
  reachesLater: true,
  record: async ({ tx, body, entry, at, seq, anew }) => {
    const of = await loadLot(tx, body.lotId, 'lotId');
    const [already] = await tx
      .select({ code: recall.code })
      .from(recall)
      .where(and(eq(recall.lotId, of.id), eq(recall.drill, body.drill), isNull(recall.closedAt)));
    if (already && !happened(tx))
      throw refused(
        'recall.open',
        `${already.code} is open for ${of.code} already. Go on there; two lists of one recall would not agree.`,
        { field: 'lotId', facts: { recall: already.code } },
      );
    if (Date.parse(body.heardAt) > at.getTime() + 60_000)
      throw refused('recall.heardLater', 'Word of it cannot have come after it was opened. Look at its time again.', {
        field: 'heardAt',
      });
    const reach = await recallReach(tx, of, body);
    const known = anew?.facts['code'];
    const code = typeof known === 'string' ? known : await nextOfYear(tx, recall, body.drill ? 'DR' : 'R', at, 2);
    const { recallId, heardAt, ...more } = body;
    await tx.insert(recall).values({ id: recallId, code, ...more, heardAt: new Date(heardAt), by: entry.by, at, seq });
    await tx.insert(recallLot).values([...reach].map(([lotId, carryOver]) => ({ recallId, lotId, carryOver, seq })));
    if (!body.drill)
      await tx.insert(hold).values(
        [...reach.keys()].map((lotId) => ({
          entryId: entry.id,
          lotId,
          reason: `Recall ${code}: ${body.reason}`.slice(0, 500),
          rule: lotId === of.id ? ('person' as const) : ('upstream' as const),
          causeLot: lotId === of.id ? null : of.id,
          placedAt: at,
        })),
      );
    return { facts: { code, suspect: of.code, lots: reach.size }, lots: [...reach.keys()] };
  },
  line: ({ entry, facts }) => ({
    what: `${entry.body.drill ? 'Recall drill' : 'Recall'} ${String(facts['code'] ?? '')}`,
    words: [`${String(facts['suspect'] ?? '')}, ${String(facts['lots'] ?? '')} lots`, entry.body.reason].join(' · '),
  }),
});

export const recallNoticed = kind('recall.notice', {
  who: 'maker',
  words: 'Recall: word sent',
  does: 'notices of a recall, to whom and how they went, with their words',
  correct: 'book',
  record: async ({ tx, body, entry, at, seq }) => {
    const of = await openRecall(tx, body.recallId);
    await tx.insert(recallNote).values(
      body.customerIds.map((place, number) => ({
        entryId: entry.id,
        number,
        recallId: of.id,
        what: 'notice' as const,
        place,
        how: body.how,
        words: body.words,
        by: entry.by,
        at,
        seq,
      })),
    );
    return { facts: { code: of.code, many: body.customerIds.length } };
  },
  line: ({ entry, facts }) => ({
    what: `Recall ${String(facts['code'] ?? '')}: word sent`,
    words: `to ${entry.body.customerIds.length} by ${entry.body.how}`,
  }),
});

export const recallAnswered = kind('recall.answer', {
  who: 'maker',
  words: 'Recall: answered',
  does: 'what became of jars of a recall that are outside: so many of a place, and how',
  correct: 'book',
  record: async ({ tx, body, entry, at, seq }) => {
    const of = await openRecall(tx, body.recallId);
    const { counted } = await crateNow(tx, of.id);
    if (!happened(tx))
      must(
        decideAnswer(
          counted.rows.find(({ key }) => key === body.place),
          body.count,
        ),
      );
    await tx.insert(recallNote).values({
      entryId: entry.id,
      number: 0,
      recallId: of.id,
      what: 'answer',
      place: body.place,
      words: body.note,
      answer: body.answer,
      count: body.count,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { code: of.code } };
  },
  line: ({ entry, facts }) => ({
    what: `Recall ${String(facts['code'] ?? '')}: answered`,
    words: [ANSWER_WORDS[entry.body.answer], entry.body.note].filter(Boolean).join(' · '),
    figure: `${entry.body.count} jars`,
  }),
});

export const recallClosed = kind('recall.close', {
  who: 'owner',
  words: 'Recall closed',
  does: 'the end of a recall: every jar accounted for, or the rest named; its holds stay until a reviewer ends them',
  correct: 'book',
  record: async ({ tx, body, entry, at }) => {
    const of = await openRecall(tx, body.recallId);
    const { counted } = await crateNow(tx, of.id);
    if (!happened(tx)) must(decideRecallClose(counted.open, body.restReason));
    await tx
      .update(recall)
      .set({ closedAt: at, closedBy: entry.by, outcome: body.outcome, restReason: body.restReason })
      .where(eq(recall.id, of.id));
    return { facts: { code: of.code, open: counted.open } };
  },
  line: ({ entry, facts }) => ({
    what: `Recall ${String(facts['code'] ?? '')} closed`,
    words: [entry.body.outcome, entry.body.restReason].filter(Boolean).join(' · '),
  }),
});

import { decideLift } from '@clear-tally/core';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { hold } from '../../db/schema/ledger.js';
import { isReplay, placeOf } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { RULES_PERSON } from '../../journal/rulesPerson.js';
import { acidLimitsOf } from '../../lots/acidLimits.js';
import { reachWords } from '../../lots/lineWords.js';
import { loadLot } from '../../lots/lots.js';
import { holdReach } from '../../lots/reach.js';
import { phPoints } from '../../lots/readings.js';
import { walkForward } from '../../lots/walk.js';
import { loadWatched } from '../../lots/watched.js';
import { openHolds } from '../../lots/openHolds.js';

export const holdPlace = kind('hold.place', {
  who: 'maker',
  whoWords: 'maker; owner lifts',
  words: 'Put on hold',
  does: 'a hold with its reason, also on everything made of it, or on what is chosen of that (`also`); lifted under the rules of its kind',
  correct: 'book',
  places: true,
  weighty: true,
  reachesLater: true,
  record: async ({ tx, entry, body, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId');
    const already = (await openHolds(tx, [of.id])).get(of.id) ?? [];
    const same = already.some(({ rule, reason }) => rule === 'person' && reason === body.reason);
    if (same && !body.also?.length)
      throw refused('lot.onHold', `${of.code} is on hold for this reason already: ${body.reason}.`, { field: 'lotId' });
    const made = body.downstream || body.also?.length ? await madeOf(tx, of.id) : [];
    const strange = (body.also ?? []).filter((lotId) => !made.includes(lotId));
    if (strange.length > 0)
      throw refused(
        'hold.notTaken',
        `Nothing of ${of.code} ever went into something that was named. Look at the list again.`,
        { field: 'also' },
      );
    const below = body.downstream ? made : (body.also ?? []);
    await tx.insert(hold).values([
      ...(same
        ? []
        : [
            {
              entryId: entry.id,
              lotId: of.id,
              reason: body.reason,
              rule: 'person' as const,
              causeLot: null,
              placedAt: at,
            },
          ]),
      ...below.map((lotId) => ({
        entryId: entry.id,
        lotId,
        reason: `${of.code}: ${body.reason}`,
        rule: 'upstream' as const,
        causeLot: of.id,
        placedAt: at,
      })),
    ]);
    return { facts: { held: (same ? 0 : 1) + below.length }, lots: [of.id, ...below] };
  },
  line: ({ entry }) => ({ what: 'Put on hold', words: entry.body.reason }),
});

/** Everything made of a lot, in time: preparations, vessels, runs. */
async function madeOf(tx: Reader, lotId: string): Promise<string[]> {
  const steps = await rows<{ to: string | null }>(tx, walkForward(lotId, { before: placeOf(tx) }));
  return [...new Set(steps.flatMap(({ to }) => (to && to !== lotId ? [to] : [])))];
}

/** Opened by a rule of the house: the reason says which. */
export const holdRuled = kind('hold.byRule', {
  who: 'rules',
  words: 'Hold by rule',
  does: "a hold the house's rules place: acid too late, pH rising, above the limit at twice the deadline",
  correct: { never: 'The house’s rules wrote it. Put the reading right that it rests on: they decide anew.' },
  places: true,
  reachesLater: true,
  record: async (recording) => {
    const { tx, entry, body, at } = recording;
    if (entry.by !== RULES_PERSON.personId)
      throw refused('who.notAllowed', 'Only the house’s rules write this. Place a hold with its reason instead.');
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run']);
    // Two looks at once see the same: one hold is enough.
    const open = (await openHolds(tx, [of.id])).get(of.id) ?? [];
    if (open.some(({ rule }) => rule === body.rule))
      throw refused('lot.onHold', `${of.code} is held by this rule already.`, { field: 'lotId' });
    await placeHold({ tx, entry, at }, { lotId: of.id, rule: body.rule, reason: body.reason });
    // A fault is older than the look that finds it: what was taken since the last reading in order is held with it.
    const reach = await holdReach(recording, of, { reason: body.reason, chosen: null, leftOutReason: null });
    return { facts: reach.facts, lots: [of.id, ...reach.lots] };
  },
  line: ({ entry, facts }) => ({ what: 'Hold, by rule', words: [entry.body.reason, ...reachWords(facts)].join(' · ') }),
});

/** Ended by the rules themselves: a reading it rested on was corrected, and it would not have been placed. */
export const holdAnew = kind('hold.anew', {
  who: 'rules',
  words: 'Hold decided anew',
  does: "a rule's hold ended by the rules, because a reading it rests on was corrected and it would not have been placed",
  correct: { never: 'The house’s rules wrote it. Put the reading right that it rests on: they decide anew.' },
  falls: true,
  reachesLater: true,
  record: async ({ tx, entry, body, at }) => {
    if (entry.by !== RULES_PERSON.personId)
      throw refused('who.notAllowed', 'Only the house’s rules write this. A reviewer ends a hold with a reason.');
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run']);
    const ended = await tx
      .update(hold)
      .set({ liftedAt: at, liftReason: body.reason, anew: true })
      .where(
        and(
          isNull(hold.liftedAt),
          eq(hold.entryId, body.holdId),
          sql`((${hold.lotId} = ${of.id} and ${hold.rule} = ${body.rule}) or ${hold.causeLot} = ${of.id})`,
        ),
      )
      .returning({ lotId: hold.lotId });
    if (ended.length === 0)
      throw refused('lot.notOnHold', `This hold on ${of.code} has ended already.`, { field: 'holdId' });
    return { lots: [...new Set([of.id, ...ended.map(({ lotId }) => lotId)])] };
  },
  line: ({ entry }) => ({ what: 'Hold decided anew: it does not stand', words: entry.body.reason }),
});

export async function placeHold(
  { tx, entry, at }: Pick<InHand, 'tx' | 'entry' | 'at'>,
  row: { lotId: string; rule: 'late' | 'rising' | 'throwOut' | 'finding'; reason: string },
): Promise<void> {
  await tx.insert(hold).values({ entryId: entry.id, ...row, causeLot: null, placedAt: at });
}

/** Ends a hold, and what it held further down. A rule says on what readings. */
export const holdLift = kind('hold.lift', {
  who: 'owner',
  task: 'releasing',
  whoWords: 'maker; owner lifts',
  words: 'Hold lifted',
  does: 'a hold with its reason, also on everything made of it, or on what is chosen of that (`also`); lifted under the rules of its kind',
  correct: 'book',
  falls: true,
  heeds: true,
  rulesBehind: true,
  reachesLater: true,
  record: async ({ tx, body, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId');
    const open = (await openHolds(tx, [of.id])).get(of.id) ?? [];
    if (open.length === 0) throw refused('lot.notOnHold', `${of.code} is not on hold.`, { field: 'lotId' });
    const lifting = body.holdId ? open.filter(({ entryId }) => entryId === body.holdId) : open;
    if (lifting.length === 0)
      throw refused('lot.notOnHold', `This hold on ${of.code} is lifted already.`, { field: 'holdId' });
    const [watched] = of.kind === 'fill' ? await loadWatched(tx, at, [of.id]) : [];
    const points = watched?.phs ?? (await phPoints(tx, [of.id])).get(of.id)!;
    const acidLimit = watched?.acidLimit ?? (await acidLimitsOf(tx, [of.id])).get(of.id)!;
    for (const one of isReplay(tx) ? [] : lifting)
      must(
        decideLift({
          code: of.code,
          rule: one.rule,
          placedAt: one.placedAt,
          points,
          acidLimit,
          throwOut: watched?.lateness.state === 'throwOut' || open.some(({ rule }) => rule === 'throwOut'),
        }),
      );
    const ended = await tx
      .update(hold)
      .set({ liftedAt: at, liftReason: body.reason })
      .where(
        and(
          isNull(hold.liftedAt),
          inArray(
            hold.entryId,
            lifting.map(({ entryId }) => entryId),
          ),
          lifting.some(({ causeLot }) => causeLot === null)
            ? sql`(${hold.lotId} = ${of.id} or ${hold.causeLot} = ${of.id})`
            : eq(hold.lotId, of.id),
        ),
      )
      .returning({ lotId: hold.lotId });
    return {
      facts: { lifted: ended.length, reasons: lifting.map(({ reason }) => reason) },
      lots: [...new Set([of.id, ...ended.map(({ lotId }) => lotId)])],
    };
  },
  line: ({ entry }) => ({ what: 'Hold lifted', words: entry.body.reason }),
});

import { SAMPLE_WORDS, reachWords } from '../lineWords.js';
import { kind } from '../kind.js';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { v5 } from 'uuid';
import { checkCelsius, checkMass, checkPh, decideLift, fitsBetter, jumps, formatGrams } from '@clear-tally/core';
import { hold, house, lotCount, reading, toMilligrams } from '../../db/schema/index.js';
import { rows, type Reader } from '../../db/database.js';
import { walkForward } from '../../db/walk.js';
import { happened, placeOf } from '../asItHappened.js';
import { addMovements, loadLot, refuseClosed, type LotRow } from '../lots.js';
import { RULES_PERSON } from '../rulesPerson.js';
import { must, refused } from '../refused.js';
import { holdReach } from '../reach.js';
import { phPoints } from '../readings.js';
import { loadWatched, openHolds } from '../watched.js';
import { fitnessOf } from './rounds.js';
import type { InHand } from '../handler.js';

export const phRead = kind('ph.read', {
  who: 'maker',
  words: 'pH',
  does: 'readings; a pH with its meter, sample and sample temperature; one off the trend is asked about, and kept when it stays so',
  correct: 'reading',
  rulesBehind: true,
  record: async ({ tx, entry, body, seq, at, anew }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run', 'preparation']);
    const ph = must(checkPh({ ph: body.ph, confirmedUnusual: body.confirmedUnusual }));
    if (at < of.at)
      throw refused('lot.notYet', `${of.code} was filled after the time given for this reading. Look at the time.`, {
        field: 'happenedAt',
      });
    const { forRelease, unfit, tag } = await fitnessOf(tx, body.meterId, at, ph);
    const off =
      of.kind === 'fill'
        ? await offTheTrend(tx, of, { ph, at: at.getTime(), sample: body.sample, anew: anew !== undefined })
        : null;
    if (off?.jump && !body.confirmedJump && !happened(tx)) {
      throw refused(
        'ph.jump',
        `pH ${ph.toFixed(2)} was given; after ${off.last.toFixed(2)}, ${off.least.toFixed(2)} to ${off.most.toFixed(2)} was expected of ${of.code}. Read again at once${off.fits.length > 0 ? `; or was the probe in ${off.fits.join(' or ')}?` : '.'} If it stays so, record it: both readings are kept.`,
        {
          field: 'ph',
          facts: { last: off.last, least: off.least, most: off.most, fits: off.fits },
        },
      );
    }
    await tx.insert(reading).values({
      ...rowOf({ entry, seq, anew }),
      lotId: of.id,
      kind: 'ph',
      value: ph,
      sample: body.sample,
      at,
      meterId: body.meterId ?? null,
      sampleCelsius: body.sampleCelsius ?? null,
      forRelease,
      unfit,
      jumped: off?.jump ?? false,
    });
    return {
      facts: {
        forRelease,
        ...(unfit && body.meterId ? { unfit } : {}),
        ...(tag ? { meter: tag } : {}),
        ...(off?.jump ? { jumped: true } : {}),
      },
      lots: [of.id],
    };
  },
  line: ({ entry, facts }) => ({
    what: 'pH',
    words: [
      SAMPLE_WORDS[entry.body.sample],
      facts['meter'] && `${String(facts['meter'])}${facts['forRelease'] ? '' : ', not for release'}`,
      entry.body.sampleCelsius != null && `${entry.body.sampleCelsius.toFixed(1)} °C`,
      facts['jumped'] && 'off the trend',
    ]
      .filter(Boolean)
      .join(' · '),
    figure: entry.body.ph.toFixed(2),
    value: entry.body.ph,
    sample: entry.body.sample,
  }),
});

/** A reading put right stands beside the wrong one, under the same root: the newest counts. */
function rowOf({ entry, seq, anew }: Pick<InHand, 'entry' | 'seq' | 'anew'>): {
  entryId: string;
  rootEntryId: string;
  seq: number;
} {
  return anew
    ? { entryId: v5(entry.id, anew.entryId), rootEntryId: entry.id, seq: anew.seq }
    : { entryId: entry.id, rootEntryId: entry.id, seq };
}

/** Whether a reading is off the trend of its vessel, and which sisters of its batch it fits better. */
async function offTheTrend(
  tx: Reader,
  of: LotRow,
  input: { ph: number; at: number; sample: 'blended' | 'brine'; anew: boolean },
): Promise<(NonNullable<ReturnType<typeof jumps>> & { fits: string[] }) | null> {
  // The trend is told by its last readings.
  const read = (await phPoints(tx, [of.id], input.anew ? { last: 12, until: new Date(input.at) } : { last: 12 })).get(
    of.id,
  )!;
  // One that is written anew is told by what was read before it, as it was then.
  const place = placeOf(tx) ?? Infinity;
  const points = read.filter(({ rootSeq }) => rootSeq < place);
  const found = jumps({ points, ...input, filledAt: of.at.getTime() });
  if (!found?.jump) return found ? { ...found, fits: [] } : null;
  const sisters = await rows<{ code: string; ph: string }>(
    tx,
    sql`
    select v.tag as code, p.value as ph from lot l join vessel v on v.id = l.vessel_id
    join lateral (select value from live_reading r where r.lot_id = l.id and r.kind = 'ph' order by r.at desc, r.seq desc limit 1) p on true
    where l.batch_id = ${of.batchId} and l.kind = 'fill' and l.closed_at is null and l.id <> ${of.id}`,
  );
  return {
    ...found,
    fits: fitsBetter({
      ph: input.ph,
      own: found.last,
      sisters: sisters.map(({ code, ph }) => ({ code, ph: Number(ph) })),
    }),
  };
}

export const temperatureRead = kind('temperature.read', {
  who: 'maker',
  words: 'Temperature',
  does: 'readings; a pH with its meter, sample and sample temperature; one off the trend is asked about, and kept when it stays so',
  correct: 'reading',
  rulesBehind: true,
  record: async ({ tx, entry, body, seq, at, anew }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run', 'preparation']);
    const celsius = must(checkCelsius(body.celsius));
    if (at < of.at)
      throw refused('lot.notYet', `${of.code} was filled after the time given for this reading. Look at the time.`, {
        field: 'happenedAt',
      });
    await tx
      .insert(reading)
      .values({ ...rowOf({ entry, seq, anew }), lotId: of.id, kind: 'temperature', value: celsius, sample: null, at });
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: 'Temperature',
    words: null,
    figure: `${entry.body.celsius.toFixed(1)} °C`,
    value: entry.body.celsius,
  }),
});

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
    const [settings] = await tx.select({ acidLimit: house.acidLimit }).from(house);
    const [watched] = of.kind === 'fill' ? await loadWatched(tx, at, [of.id]) : [];
    const points = watched?.phs ?? (await phPoints(tx, [of.id])).get(of.id)!;
    for (const one of lifting)
      must(
        decideLift({
          code: of.code,
          rule: one.rule,
          placedAt: one.placedAt,
          points,
          acidLimit: settings!.acidLimit,
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

export const lossRecord = kind('loss.record', {
  who: 'maker',
  words: 'Loss',
  does: 'a weighed loss; what stands there by weighing',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const of = await loadLot(tx, body.lotId, 'lotId');
    refuseClosed(of, 'lotId');
    must(checkMass({ grams: body.grams, what: 'what is gone', field: 'grams' }));
    await addMovements(recording, [{ from: { lot: of }, to: { sink: body.sink }, grams: body.grams, field: 'grams' }]);
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: `Loss: ${entry.body.sink}`,
    words: entry.body.note,
    figure: formatGrams(entry.body.grams),
  }),
});

export const lotCounted = kind('lot.count', {
  who: 'maker',
  words: 'Counted',
  does: 'a weighed loss; what stands there by weighing',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId');
    refuseClosed(of, 'lotId');
    if (body.grams > 0) must(checkMass({ grams: body.grams, what: 'what stands there', field: 'grams' }));
    await tx.insert(lotCount).values({
      entryId: entry.id,
      lotId: of.id,
      milligrams: toMilligrams(body.grams),
      byDifference: body.byDifference,
      at,
      seq,
    });
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: 'Counted',
    words: entry.body.byDifference ? `difference taken as ${entry.body.byDifference}` : null,
    figure: formatGrams(entry.body.grams),
  }),
});

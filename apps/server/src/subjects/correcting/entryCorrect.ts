import type { BodyOf, EntryKind } from '@clear-tally/contract';
import { checkCelsius, checkMass, checkPh, formatGrams, jumps, tallyTolerance } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { rows, type Transaction } from '../../db/database.js';
import { toGrams, toMilligrams } from '../../db/schema/columns.js';
import { journal } from '../../db/schema/journal.js';
import { liveMovement, liveReading, movement, reading } from '../../db/schema/ledger.js';
import { neverCorrected } from '../../journal/correctable.js';
import type { Recording } from '../../journal/handler.js';
import { kind as describe } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { balance, loadLot } from '../../lots/lots.js';
import { phPoints } from '../../lots/readings.js';
import { fitnessOf } from '../watching/index.js';
import { changesBetween, figuresOf } from './figures.js';
import { putRight } from './putRight.js';
import { loadWritten } from '../../lots/written.js';

/**
 * Puts a figure right: the wrong row stays and is cancelled by the right one. A second correction goes to
 * the same original line, so that the book shows every figure in one place.
 */
export const entryCorrect = describe('entry.correct', {
  who: 'maker',
  whoWords: 'who may record the entry',
  words: 'Correction',
  does: 'puts an entry right: what it should have said, when it really was, or that it never happened; both stay',
  correct: {
    never: 'It is a correction itself. Correct the line it belongs to: all its figures stay beside each other.',
  },
  rulesBehind: true,
  record: async (recording) => {
    const { tx, body } = recording;
    const [original] = await tx.select().from(journal).where(eq(journal.entryId, body.corrects));
    if (!original)
      throw refused('lot.unknown', 'The entry to be corrected is not in the journal. Choose the line in the book.', {
        field: 'corrects',
      });
    if (original.kind === 'entry.correct') {
      throw refused(
        'correction.ofCorrection',
        'This line is a correction itself. Correct the original line instead: all its figures stay visible beside each other.',
        { field: 'corrects' },
      );
    }
    const kind = original.kind as EntryKind;
    const of = kindOf(kind);
    const never = neverCorrected(kind);
    if (never)
      throw refused('correction.notThisKind', `“${of.words}” is not corrected. ${never}`, { field: 'corrects' });
    if (of.who === 'owner' && !recording.isOwner)
      throw refused('who.notAllowed', 'Only an owner records this, and puts it right.');
    if (body.instead !== undefined) return wholeEntry(recording, original.seq, body.instead);
    const right = body.right!;
    if (kind !== right.kind) {
      throw refused(
        'correction.notThisKind',
        `This line is “${of.words}”, and what was given is “${kindOf(right.kind).words}”. Give a figure of the same kind.`,
        { field: 'right' },
      );
    }
    return right.kind === 'salt.weigh'
      ? correctSalt(recording, right.grams, original)
      : correctReading(recording, right, original.seq);
  },
  line: () => ({ what: 'Correction', words: null }),
});

/** The whole entry as it should have been, or that it never happened: whatever rests on it is decided anew. */
async function wholeEntry(
  recording: Recording<'entry.correct'>,
  of: number,
  instead: NonNullable<BodyOf<'entry.correct'>['instead']> | null,
) {
  const { tx, at } = recording;
  const [written] = await loadWritten(tx, [of]);
  if (instead && instead.kind !== written!.entry.kind) {
    throw refused(
      'correction.notThisKind',
      `This line is “${kindOf(written!.entry.kind).words}”, and what was given is “${kindOf(instead.kind as EntryKind).words}”. The same kind is accepted, or that it never happened.`,
      { field: 'instead' },
    );
  }
  if (instead === null && written!.never)
    throw refused('correction.nothingChanged', 'The line says already that it never happened. Nothing was changed.', {
      field: 'instead',
    });
  const before = await booksOf(tx, of);
  const was = await figuresOf(tx, before, at);
  const { facts, lots, fell, undone, anew } = await putRight(recording, written!, instead);
  const all = [...new Set([...before, ...lots])];
  const changes = changesBetween(was, await figuresOf(tx, all, at));
  return {
    facts: {
      of: written!.entry.kind,
      never: instead === null,
      right: facts,
      rightLots: lots,
      fell,
      undone,
      anew,
      changes,
    },
    lots: all,
  };
}

/** Every lot whose book an entry stands in, and what was made of those since: there its correction is seen. */
async function booksOf(tx: Transaction, seq: number): Promise<string[]> {
  const found = await rows<{ id: string }>(
    tx,
    sql`
    with own as (select lot_id as id from entry_lot where seq = ${seq})
    select id from own union
    select f.id from own join lot b on b.id = own.id and b.kind in ('batch', 'fill', 'preparation') join live_movement m on m.from_lot = b.id join lot f on f.id = m.to_lot
    union select c.lot_id from correction k join entry_lot c on c.seq = k.seq join journal j on j.entry_id = k.root_entry_id where j.seq = ${seq}`,
  );
  return found.map(({ id }) => id);
}

type Right = NonNullable<BodyOf<'entry.correct'>['right']>;

async function correctReading(
  { tx, entry, body, seq }: Recording<'entry.correct'>,
  right: Exclude<Right, { kind: 'salt.weigh' }>,
  original: number,
) {
  const [latest] = await tx.select().from(liveReading).where(eq(liveReading.rootEntryId, body.corrects));
  if (!latest) throw refused('lot.unknown', 'The reading is not in the book.', { field: 'corrects' });
  const value =
    right.kind === 'ph.read'
      ? must(checkPh({ ph: right.ph, confirmedUnusual: right.confirmedUnusual }))
      : must(checkCelsius(right.celsius));
  const sample = right.kind === 'ph.read' ? right.sample : null;
  const at = new Date(latest.at);
  if (latest.value === value && latest.sample === sample)
    throw refused('correction.nothingChanged', `The line says ${value} already. Nothing was changed.`, {
      field: 'right',
    });
  await tx.insert(reading).values({
    entryId: entry.id,
    rootEntryId: body.corrects,
    seq,
    lotId: latest.lotId,
    kind: right.kind === 'ph.read' ? 'ph' : 'temperature',
    value,
    sample,
    at,
    // The meter stays the meter; whether it vouches for the right figure, and whether that is off the trend, is asked anew.
    meterId: latest.meterId,
    sampleCelsius: latest.sampleCelsius,
    ...(await asRead(tx, { ...latest, at, value, sample, corrects: body.corrects, seq: original })),
  });
  return { facts: { was: latest.value }, lots: [latest.lotId] };
}

async function asRead(
  tx: Transaction,
  of: {
    lotId: string;
    meterId: string | null;
    at: Date;
    value: number;
    sample: 'blended' | 'brine' | null;
    corrects: string;
    /** Where the original stands in the journal. */
    seq: number;
  },
): Promise<{ forRelease: boolean; unfit: string | null; jumped: boolean }> {
  if (of.sample === null) return { forRelease: false, unfit: null, jumped: false };
  const { forRelease, unfit } = await fitnessOf(tx, of.meterId, { at: of.at, ph: of.value, seq: of.seq });
  const lot = await loadLot(tx, of.lotId, 'corrects');
  const others = (await phPoints(tx, [lot.id], { until: of.at }))
    .get(lot.id)!
    .filter(({ rootEntryId }) => rootEntryId !== of.corrects);
  const off = jumps({
    points: others,
    ph: of.value,
    at: of.at.getTime(),
    filledAt: lot.at.getTime(),
    sample: of.sample,
  });
  return { forRelease, unfit, jumped: off?.jump ?? false };
}

async function correctSalt(
  recording: Recording<'entry.correct'>,
  grams: number,
  original: typeof journal.$inferSelect,
) {
  const { tx, body, seq } = recording;
  must(checkMass({ grams, what: 'salt', field: 'right' }));
  const [live] = await tx.select().from(liveMovement).where(eq(liveMovement.rootEntryId, body.corrects));
  if (!live?.fromLot || !live.toLot)
    throw refused('lot.unknown', 'The salt weight is not in the book.', { field: 'corrects' });
  const was = toGrams(live.milligrams);
  if (was === grams)
    throw refused('correction.nothingChanged', `The line says ${formatGrams(grams)} already. Nothing was changed.`, {
      field: 'right',
    });
  const salt = await loadLot(tx, live.fromLot, 'corrects');
  const into = await loadLot(tx, live.toLot, 'corrects');
  const there = await balance(tx, into, original.happenedAt);
  const least = Math.min(there.atGrams, there.leastLaterGrams) + grams - was;
  if (least < -Math.max(there.toleranceGrams, tallyTolerance({ stage: 'upToFilling', inGrams: 0 }))) {
    throw refused(
      'correction.standsInTheWay',
      `With ${formatGrams(grams)} instead of ${formatGrams(was)}, more would have left ${into.code} than ever was in it: ${formatGrams(-least)} too much was filled from it. Look at the masses filled first.`,
      {
        field: 'right',
        facts: { lot: into.code, shortGrams: -least },
      },
    );
  }
  const from = await balance(tx, salt, original.happenedAt);
  const left = Math.min(from.atGrams, from.leastLaterGrams) + was - grams;
  if (left < -from.toleranceGrams) {
    throw refused(
      'correction.standsInTheWay',
      `${salt.code} never held ${formatGrams(grams)} for this batch: ${formatGrams(-left)} is short. Look at the salt lot first.`,
      { field: 'right', facts: { lot: salt.code } },
    );
  }
  await tx.insert(movement).values({
    id: seq * 1000,
    seq,
    rootEntryId: body.corrects,
    kind: 'salt.weigh',
    at: original.happenedAt,
    fromLot: salt.id,
    toLot: into.id,
    milligrams: toMilligrams(grams),
    cancels: live.id,
  });
  const batch = into.batchId && into.batchId !== into.id ? [into.batchId] : [];
  return { facts: { was }, lots: [salt.id, into.id, ...batch] };
}

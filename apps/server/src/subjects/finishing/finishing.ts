import {
  checkMass,
  decideFill,
  DRAINED,
  FEEDING,
  feeds,
  FINISH_PART_WORDS,
  FINISH_WORDS,
  preparationFeeds,
  formatGrams,
  formatWeighed,
  type Outcome,
} from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { drying, finish } from '../../db/schema/finishing.js';
import { hold } from '../../db/schema/ledger.js';
import { material } from '../../db/schema/stores.js';
import { toMilligrams } from '../../db/schema/columns.js';
import { ask, happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { saltOf } from '../../lots/contents.js';
import { finishOf, type FinishOf, takenFrom } from '../../lots/finishes.js';
import {
  addLot,
  addMovements,
  balance,
  closeEmptied,
  codeFor,
  loadLot,
  type LotRow,
  refuseClosed,
  refuseHeld,
} from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { loadWatched } from '../../lots/watched.js';
import { nextPreparationCode } from '../preparations/index.js';
import { freeFillCode, loadVessel } from '../vessels/index.js';

const DOES =
  'what is done with a ferment before it is packed: drained and repacked, blended, opened, dried, infused; a lot of its own';

/** The lot of a finish that is in hand. */
async function inHand(tx: Transaction, id: string): Promise<{ of: LotRow; finishing: FinishOf }> {
  const of = await loadLot(tx, id, 'finishLotId', ['fill']);
  const finishing = await finishOf(tx, of.id);
  if (!finishing)
    throw refused('finish.not', `${of.code} is a vessel that ferments. Take it in hand on the page “Finish” first.`, {
      field: 'finishLotId',
    });
  refuseClosed(of, 'finishLotId');
  return { of, finishing };
}

export const finishBegun = kind('finish.begin', {
  who: 'maker',
  words: 'Taken in hand',
  does: DOES,
  correct: 'ledger',
  judged: true,
  rulesBefore: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body, at, seq } = recording;
    const fills: LotRow[] = [];
    for (const part of body.from) {
      const fill = await loadLot(tx, part.fillLotId, 'from', ['fill']);
      refuseClosed(fill, 'from');
      fills.push(fill);
      must(checkMass({ grams: part.grams, what: 'what is taken from a vessel', field: 'from' }));
    }
    if (new Set(fills.map(({ id }) => id)).size < fills.length)
      throw refused('pack.nothing', 'One vessel is named twice. Name each vessel once, with all that is taken of it.', {
        field: 'from',
      });
    refuseMixed(tx, fills, body.merge);
    const unfit = await packableAll(recording, fills);
    const into = await loadVessel(tx, body.vesselId);
    const grams = body.from.reduce((sum, part) => sum + part.grams, 0);
    const fit = must(decideFill({ vessel: into, grams, overReason: happened(tx) ? 'as it was filled' : undefined }));
    const [first] = fills;
    const batch = await loadLot(tx, first!.batchId!, 'from');
    const code = codeFor(recording, body.finishLotId, await freeFillCode(tx, batch.code, into.tag), into.id);
    await addLot(recording, {
      id: body.finishLotId,
      code,
      kind: 'fill',
      name: first!.name,
      origin: first!.origin,
      at,
      batchId: first!.batchId,
      formulaId: first!.formulaId,
      formulaVersion: first!.formulaVersion,
      vesselId: into.id,
    });
    await tx.insert(finish).values({ lotId: body.finishLotId, what: body.what, at, seq });
    for (const [index, part] of body.from.entries())
      await addMovements(
        recording,
        [{ from: { lot: fills[index]! }, to: { lotId: body.finishLotId }, grams: part.grams, field: 'from' }],
        { entryId: recording.entry.id, kind: part.of === 'solids' ? DRAINED : 'finish.begin', at },
      );
    await holdUnfit(recording, body.finishLotId, unfit);
    const emptied: string[] = [];
    for (const fill of fills) if (await closeEmptied(recording, fill)) emptied.push(fill.code);
    return {
      facts: { code, fillFraction: fit.fillFraction, ...(emptied.length > 0 ? { emptied } : {}) },
      lots: [body.finishLotId, ...fills.map(({ id }) => id)],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${FINISH_WORDS[entry.body.what]}: ${String(facts['code'] ?? '')}`,
    words: [
      ...entry.body.from.map(
        (part) => `${code(part.fillLotId)} ${formatGrams(part.grams)}${part.of === 'solids' ? ', drained' : ''}`,
      ),
      ...(entry.body.merge ? ['of several batches, and meant'] : []),
    ].join(' · '),
    figure: formatGrams(entry.body.from.reduce((sum, part) => sum + part.grams, 0)),
  }),
});

/** Several batches become one thing only when somebody says so; of two formulas never: nobody could name it. */
function refuseMixed(tx: Transaction, fills: readonly LotRow[], merge: true | undefined): void {
  if (happened(tx)) return;
  const names = fills.map(({ code }) => code).join(' and ');
  if (new Set(fills.map(({ formulaId, formulaVersion }) => `${formulaId} ${formulaVersion}`)).size > 1)
    throw refused(
      'pack.differentBatches',
      `${names} are of different formulas, or of two versions of one. One finish is of one formula version: make two of it.`,
      { field: 'from' },
    );
  if (new Set(fills.map(({ batchId }) => batchId)).size > 1 && !merge)
    throw refused(
      'pack.differentBatches',
      `${names} are of different batches. Together they are one thing, and every jar of it comes from all of them. Is that meant?`,
      { field: 'from', facts: { asks: 'merge' } },
    );
}

/** What may not be packed may not be finished either; what was, before it was known, is held. */
async function packableAll({ tx, at }: InHand, fills: readonly LotRow[]): Promise<Outcome<void>[]> {
  const watched = await loadWatched(
    tx,
    at,
    fills.map(({ id }) => id),
  );
  const all = watched.map(({ packable }) => packable);
  for (const one of all) ask(tx, one);
  return all;
}

async function holdUnfit({ tx, entry, at }: InHand, lotId: string, unfit: readonly Outcome<void>[]): Promise<void> {
  const why = unfit.flatMap((outcome) => (outcome.ok ? [] : [outcome.refusal.message]));
  if (why.length === 0) return;
  await tx.insert(hold).values({
    entryId: entry.id,
    lotId,
    rule: 'person',
    causeLot: null,
    placedAt: at,
    reason: `Taken in hand before it was known: ${why.join(' ')}`.slice(0, 300),
  });
}

export const finishBrined = kind('finish.brine', {
  who: 'maker',
  task: 'salting',
  words: 'Brine for a repack',
  does: 'brine made ready for a repack: its own, strained, boiled and cooled, with what boiled away; or fresh, of water and salt',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const { of } = await inHand(tx, body.finishLotId);
    const batch = await loadLot(tx, of.batchId!, 'finishLotId');
    const code = codeFor(recording, body.brineLotId, await nextPreparationCode(tx, batch));
    const brine = {
      id: body.brineLotId,
      code,
      kind: 'preparation' as const,
      origin: 'made' as const,
      at,
      batchId: batch.id,
    };
    if (body.how === 'boiled') {
      const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill']);
      await refuseHeld(tx, from, 'fromLotId');
      must(checkMass({ grams: body.grams, what: 'brine', field: 'grams' }));
      must(checkMass({ grams: body.leftGrams, what: 'what is left', field: 'leftGrams' }));
      const boiledOff = body.grams - body.leftGrams;
      if (boiledOff < -0.001)
        throw refused(
          'lot.overdrawn',
          `${formatGrams(body.leftGrams)} is left of ${formatGrams(body.grams)}: boiling adds nothing. Weigh it again, and take the pot off.`,
          { field: 'leftGrams' },
        );
      await addLot(recording, { ...brine, form: 'boiledBrine', name: `Boiled brine of ${from.code}` });
      await addMovements(recording, [
        { from: { lot: from }, to: { lotId: body.brineLotId }, grams: body.grams, field: 'grams' },
      ]);
      if (boiledOff >= 0.001)
        await addMovements(recording, [
          {
            from: { lot: await loadLot(tx, body.brineLotId, 'brineLotId') },
            to: { sink: 'evaporation' },
            grams: boiledOff,
            field: 'leftGrams',
          },
        ]);
      await closeEmptied(recording, from);
      const { waterPhase } = await saltOf(tx, body.brineLotId);
      return { facts: { code, boiledOff, waterPhase }, lots: [of.id, body.brineLotId, from.id] };
    }
    const water = await loadLot(tx, body.waterLotId, 'waterLotId', ['supply']);
    await refuseHeld(tx, water, 'waterLotId');
    must(checkMass({ grams: body.waterGrams, what: 'water', field: 'waterGrams' }));
    await addLot(recording, { ...brine, form: 'repackBrine', name: 'Fresh brine to repack in' });
    await addMovements(recording, [
      { from: { lot: water }, to: { lotId: body.brineLotId }, grams: body.waterGrams, field: 'waterGrams' },
    ]);
    if (body.saltGrams > 0) {
      if (!body.saltLotId) throw refused('lot.unknown', 'Choose the lot the salt is from.', { field: 'saltLotId' });
      const salt = await loadLot(tx, body.saltLotId, 'saltLotId', ['supply']);
      await refuseHeld(tx, salt, 'saltLotId');
      await addMovements(recording, [
        { from: { lot: salt }, to: { lotId: body.brineLotId }, grams: body.saltGrams, field: 'saltGrams' },
      ]);
    }
    const { waterPhase } = await saltOf(tx, body.brineLotId);
    return {
      facts: { code, waterPhase },
      lots: [of.id, body.brineLotId, water.id, ...(body.saltLotId ? [body.saltLotId] : [])],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${entry.body.how === 'boiled' ? `Brine of ${code(entry.body.fromLotId)}, boiled` : 'Fresh brine'}: ${String(facts['code'] ?? '')}`,
    words: [
      entry.body.how === 'boiled'
        ? `${formatGrams(entry.body.grams - entry.body.leftGrams)} boiled away; nothing in it is alive`
        : `${formatGrams(entry.body.saltGrams)} salt in ${formatGrams(entry.body.waterGrams)} water`,
      typeof facts['waterPhase'] === 'number' && `${(facts['waterPhase'] * 100).toFixed(2)} % salt`,
    ]
      .filter(Boolean)
      .join(' · '),
    figure: formatGrams(
      entry.body.how === 'boiled' ? entry.body.leftGrams : entry.body.waterGrams + entry.body.saltGrams,
    ),
  }),
});

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

export const byProductTaken = kind('finish.byProduct', {
  who: 'maker',
  words: 'By-product',
  does: 'juice, brine for the kitchen, pieces: what comes off beside the product, as a lot of its own',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const from = await loadLot(tx, body.fromLotId, 'fromLotId', ['fill']);
    refuseClosed(from, 'fromLotId');
    await refuseHeld(tx, from, 'fromLotId');
    must(checkMass({ grams: body.grams, what: body.name, field: 'grams' }));
    const batch = await loadLot(tx, from.batchId!, 'fromLotId');
    const code = codeFor(recording, body.lotId, await nextPreparationCode(tx, batch));
    await addLot(recording, {
      id: body.lotId,
      code,
      kind: 'preparation',
      form: 'byProduct',
      name: body.name,
      origin: 'made',
      at,
      batchId: batch.id,
    });
    await addMovements(
      recording,
      [{ from: { lot: from }, to: { lotId: body.lotId }, grams: body.grams, field: 'grams' }],
      { entryId: recording.entry.id, kind: body.as === 'juice' ? 'finish.juice' : 'finish.byProduct', at },
    );
    const emptied = await closeEmptied(recording, from);
    return { facts: { code, ...(emptied ? { emptied: from.code } : {}) }, lots: [from.id, body.lotId] };
  },
  line: ({ entry, facts, code }) => ({
    what: `${entry.body.name}: ${String(facts['code'] ?? '')}`,
    words: `off ${code(entry.body.fromLotId)}`,
    figure: formatGrams(entry.body.grams),
  }),
});

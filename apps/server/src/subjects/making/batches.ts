import {
  batchCode,
  brineCode,
  checkMass,
  decideFrozen,
  decideSaltWeigh,
  decideScope,
  decideStart,
  decideWeakStart,
  formatGrams,
  formatWeighed,
  formulaHoles,
  localDate,
  piecesWords,
  rulesInForce,
  scaleFormula,
} from '@clear-tally/core';
import { and, eq, sql } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { house, houseRule } from '../../db/schema/house.js';
import { lot, saltAcceptance } from '../../db/schema/ledger.js';
import { formula, formulaState, material } from '../../db/schema/stores.js';
import { ask, Falls, happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { hasStarter, wasFrozen } from '../../lots/frozen.js';
import { batchState } from '../../lots/batchSalt.js';
import { addLot, addMovements, codeFor, firstFree, loadLot, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { scalable } from '../../lots/scalable.js';

/** The next free batch code of the day it happened. */
export async function nextBatchCode(tx: Transaction, at: Date): Promise<string> {
  const [of] = await tx.select({ site: house.site, timeZone: house.timeZone }).from(house);
  if (!of) throw refused('formula.hole', 'The house has no name and site letters yet. Found the house first.');
  const { year, dayOfYear } = localDate(at.getTime(), of.timeZone);
  const head = batchCode({ site: of.site, year, dayOfYear, run: 0 }).slice(0, -1);
  const taken = await tx
    .select({ code: lot.code })
    .from(lot)
    .where(and(eq(lot.kind, 'batch'), sql`starts_with(${lot.code}, ${head})`));
  if (taken.length >= 26)
    throw refused(
      'code.exhausted',
      'A day has 26 batches at most, A to Z. Start this one tomorrow, or join it with another.',
    );
  return batchCode({ site: of.site, year, dayOfYear, run: taken.length });
}

export const batchStart = kind('batch.start', {
  who: 'maker',
  whoWords: 'maker; weak salt: owner with a reason',
  words: 'Batch started',
  does: 'a batch of a formula version and variant, planned from jars or a trimmed mass; its code is issued, the house rules in force are kept with it',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const [of] = await tx
      .select()
      .from(formula)
      .where(and(eq(formula.formulaId, body.formulaId), eq(formula.version, body.version)));
    if (!of)
      throw refused(
        'formula.unknown',
        `Version ${body.version} of this formula is not known. Choose a formula from the book.`,
        { field: 'formulaId' },
      );
    const [state] = await tx.select().from(formulaState).where(eq(formulaState.formulaId, of.formulaId));
    const ready = await scalable(tx, of.data);
    ask(tx, decideScope({ makes: of.data.makes, groups: ready.produce.map((part) => part.group) }));
    ask(tx, decideStart({ name: of.name, retired: state?.retired ?? false, holes: formulaHoles(ready) }));
    if (body.variant !== undefined && !of.data.variants?.includes(body.variant))
      throw refused(
        'formula.unknown',
        `“${body.variant}” is no variant of ${of.name}. Accepted: ${of.data.variants?.join(', ') || 'none, it has no variants'}.`,
        { field: 'variant' },
      );
    if (body.variant === undefined && (of.data.variants?.length ?? 0) > 0)
      throw refused('formula.hole', `${of.name} is made in variants: ${of.data.variants!.join(', ')}. Choose one.`, {
        field: 'variant',
      });
    if (body.plan.from === 'trimmed')
      must(checkMass({ grams: body.plan.trimmedGrams, what: 'the trimmed produce', field: 'plan' }));
    const scaled = scaleFormula({
      formula: ready,
      target: body.plan,
      variant: body.variant,
      measuredLeafSalt: body.measuredLeafSalt,
    });
    must(checkMass({ grams: scaled.produceGrams, what: 'the trimmed produce of these jars', field: 'plan' }));
    ask(
      tx,
      decideWeakStart({
        waterPhaseSalt: scaled.waterPhaseSalt,
        isReviewer: recording.isOwner,
        reason: body.weakSaltReason,
      }),
    );
    const code = codeFor(recording, body.batchId, await nextBatchCode(tx, at));
    const chosen = Object.fromEntries((await tx.select().from(houseRule)).map((row) => [row.rule, row.option]));
    const rules = rulesInForce(chosen, of.data.rules);
    await addLot(recording, {
      id: body.batchId,
      code,
      kind: 'batch',
      name: of.name,
      origin: 'made',
      at,
      batchId: body.batchId,
      formulaId: of.formulaId,
      formulaVersion: of.version,
      plan: body.plan,
      variant: body.variant,
      measuredLeafSalt: body.measuredLeafSalt,
      rules,
    });
    return { facts: { code, waterPhaseSalt: scaled.waterPhaseSalt }, lots: [body.batchId] };
  },
  line: ({ entry }) => ({
    what: 'Batch started',
    words:
      [entry.body.variant, entry.body.weakSaltReason && `weak salt accepted: ${entry.body.weakSaltReason}`]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

export const produceWeigh = kind('produce.weigh', {
  who: 'maker',
  words: 'Produce weighed',
  does: 'trimmed produce into the batch, trimmings to trim',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const supply = await loadLot(tx, body.supplyLotId, 'supplyLotId', ['supply']);
    await refuseHeld(tx, supply, 'supplyLotId');
    await refusePast(tx, supply, recording.at, body.pastReason);
    refuseClosed(batch, 'batchId');
    const [what] = await tx.select().from(material).where(eq(material.id, supply.materialId!));
    if (what?.kind !== 'produce')
      throw refused(
        'lot.wrongKind',
        `${supply.code} is ${supply.name}, not produce. Choose a lot of the formula’s produce.`,
        { field: 'supplyLotId' },
      );
    if (await wasFrozen(tx, supply.id, recording.at))
      ask(
        tx,
        decideFrozen({
          code: supply.code,
          name: supply.name,
          hasStarter: await hasStarter(tx, batch.id),
          reason: body.frozenReason,
        }),
      );
    must(checkMass({ grams: body.trimmedGrams, what: 'the trimmed produce', field: 'trimmedGrams' }));
    if (body.mixedGrams !== undefined && body.mixedGrams < body.trimmedGrams)
      throw refused(
        'figure.unfit',
        `${formatGrams(body.trimmedGrams)} of ${supply.name} were given as its share of ${formatGrams(body.mixedGrams)}: a share is no more than the whole.`,
        { field: 'trimmedGrams' },
      );
    await addMovements(recording, [
      { from: { lot: supply }, to: { lotId: batch.id }, grams: body.trimmedGrams, field: 'trimmedGrams' },
      ...(body.trimWasteGrams > 0
        ? [
            {
              from: { lot: supply },
              to: { sink: 'trim' as const },
              grams: body.trimWasteGrams,
              field: 'trimWasteGrams',
            },
          ]
        : []),
    ]);
    const scale = await weighOn(recording, {
      ...body,
      grams: body.mixedGrams ?? body.trimmedGrams,
      lotId: batch.id,
    });
    const state = await batchState(tx, batch);
    return { facts: { saltTargetGrams: state.targetGrams, ...scale }, lots: [batch.id, supply.id] };
  },
  line: ({ entry, facts, code }) => ({
    what: `Trimmed produce, ${code(entry.body.supplyLotId)}`,
    words:
      [
        entry.body.pieces && piecesWords({ grams: entry.body.trimmedGrams, pieces: entry.body.pieces }),
        entry.body.mixedGrams && `its share of ${formatWeighed(entry.body.mixedGrams)} weighed together`,
        entry.body.trimWasteGrams > 0 && `${formatGrams(entry.body.trimWasteGrams)} trimmed off`,
        entry.body.frozenReason && `frozen, without a starter: ${entry.body.frozenReason}`,
        onScale(facts),
      ]
        .filter(Boolean)
        .join(' · ') || null,
    figure: formatWeighed(entry.body.trimmedGrams),
  }),
});

/** Water for the brine. The first one makes the lot; more water goes into the same. */
export const brineMake = kind('brine.make', {
  who: 'maker',
  task: 'salting',
  words: 'Water for the brine',
  does: 'water for the brine, a lot of its own',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const tap = await loadLot(tx, body.waterLotId, 'waterLotId', ['supply']);
    refuseClosed(batch, 'batchId');
    const [what] = await tx.select().from(material).where(eq(material.id, tap.materialId!));
    if (what?.kind !== 'water')
      throw refused('lot.wrongKind', `${tap.code} is ${tap.name}, not water. Choose a water source.`, {
        field: 'waterLotId',
      });
    must(checkMass({ grams: body.waterGrams, what: 'water', field: 'waterGrams' }));
    const before = await batchState(tx, batch);
    if (before.waterGrams === 0 && (before.formula.waterPerProduce ?? 0) > 0) {
      throw refused('salt.nothingToSalt', 'Weigh the trimmed produce first: the brine follows what it has to cover.', {
        field: 'waterGrams',
      });
    }
    if ((before.formula.waterPerProduce ?? 0) === 0)
      throw refused('lot.wrongKind', `${batch.code} is salted dry. Water is no part of its formula.`, {
        field: 'batchId',
      });
    const brineLotId = before.brine?.lotId ?? body.brineLotId;
    const code =
      before.brine?.code ??
      codeFor(recording, brineLotId, await firstFree(tx, (number) => brineCode(batch.code, number)));
    if (!before.brine) {
      await addLot(recording, {
        id: brineLotId,
        code,
        kind: 'preparation',
        form: 'brine',
        name: 'Brine',
        origin: 'made',
        at,
        batchId: batch.id,
      });
    }
    await addMovements(recording, [
      { from: { lot: tap }, to: { lotId: brineLotId }, grams: body.waterGrams, field: 'waterGrams' },
    ]);
    const scale = await weighOn(recording, { ...body, grams: body.waterGrams, lotId: brineLotId });
    const state = await batchState(tx, batch);
    return { facts: { code, saltTargetGrams: state.targetGrams, ...scale }, lots: [batch.id, brineLotId, tap.id] };
  },
  line: ({ entry, facts, code }) => ({
    what: `Water for the brine, ${code(entry.body.waterLotId)}`,
    words: [facts['code'], onScale(facts)].filter(Boolean).join(' · '),
    figure: formatWeighed(entry.body.waterGrams),
  }),
});

export const saltWeigh = kind('salt.weigh', {
  who: 'maker',
  task: 'salting',
  words: 'Salt weighed',
  does: 'salt into the batch or its brine; portions add up. Over the target is refused unless it is `alreadyIn`',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body } = recording;
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const salt = await loadLot(tx, body.saltLotId, 'saltLotId', ['supply']);
    await refuseHeld(tx, salt, 'saltLotId');
    refuseClosed(batch, 'batchId');
    const [what] = await tx.select().from(material).where(eq(material.id, salt.materialId!));
    if (what?.kind !== 'salt')
      throw refused('lot.wrongKind', `${salt.code} is ${salt.name}, not salt. Choose a salt lot.`, {
        field: 'saltLotId',
      });
    must(checkMass({ grams: body.grams, what: 'salt', field: 'grams' }));
    const state = await batchState(tx, batch);
    if (body.saw && !recording.anew) refuseChanged(state, body.saw);
    const outcome = decideSaltWeigh({
      batch: state,
      grams: body.grams,
      alreadyIn: body.alreadyIn || recording.anew !== undefined,
    });
    // Salt that was weighed was weighed, also where its produce turns out to be another batch's: it can follow there.
    const decision = outcome.ok || !happened(tx) ? must(outcome) : null;
    const into = state.brine?.lotId ?? batch.id;
    await addMovements(recording, [{ from: { lot: salt }, to: { lotId: into }, grams: body.grams, field: 'grams' }]);
    const scale = await weighOn(recording, { ...body, lotId: into });
    return {
      facts: {
        ...(decision ? { targetGrams: decision.targetGrams, verdict: decision.atScale.verdict } : {}),
        ...scale,
      },
      lots: [batch.id, salt.id, ...(into === batch.id ? [] : [into])],
    };
  },
  line: ({ entry, facts, code, target }) => ({
    what: `Salt, ${code(entry.body.saltLotId)}`,
    words: [
      target(),
      facts['verdict'] === 'in' ? 'in' : facts['verdict'] === 'over' ? 'over target' : 'portion, under target',
      onScale(facts),
    ]
      .filter(Boolean)
      .join(' · '),
    figure: formatWeighed(entry.body.grams),
    value: entry.body.grams,
  }),
});

export const saltAccept = kind('salt.accept', {
  who: 'maker',
  words: 'Salt accepted as it is',
  does: 'salt outside its tolerance kept as it stands, with a reason; whatever is weighed in or corrected later asks again',
  correct: 'ledger',
  falls: true,
  record: async ({ tx, body, at, seq, anew }) => {
    const batch = await loadLot(tx, body.batchId, 'batchId', ['batch']);
    const state = await batchState(tx, batch);
    const otherwise = (now: number, then: unknown): boolean => typeof then === 'number' && Math.abs(now - then) >= 0.5;
    if (
      happened(tx) &&
      (otherwise(state.saltInGrams, anew?.facts['saltInGrams']) ||
        otherwise(state.targetGrams, anew?.facts['targetGrams']))
    )
      throw new Falls(`the salt of ${batch.code} was accepted as it stood then, and stood otherwise`);
    await tx
      .insert(saltAcceptance)
      .values({ batchId: batch.id, reason: body.reason, at, seq })
      .onConflictDoUpdate({ target: saltAcceptance.batchId, set: { reason: body.reason, at, seq } });
    return { facts: { saltInGrams: state.saltInGrams, targetGrams: state.targetGrams }, lots: [batch.id] };
  },
  line: ({ entry }) => ({ what: 'Salt accepted as it is', words: entry.body.reason }),
});

/** Somebody else recorded, or a weight was put right, since the screen was read: nothing is recorded on an old sight. */
function refuseChanged(
  now: { saltInGrams: number; targetGrams: number },
  saw: { inGrams: number; targetGrams: number },
): void {
  if (Math.abs(now.saltInGrams - saw.inGrams) < 0.5 && Math.abs(now.targetGrams - saw.targetGrams) < 0.5) return;
  throw refused(
    'making.changedMeanwhile',
    `This batch has changed meanwhile: ${formatGrams(now.saltInGrams)} of salt is in, of ${formatGrams(now.targetGrams)}; your screen showed ${formatGrams(saw.inGrams)} of ${formatGrams(saw.targetGrams)}. Nothing was recorded. Look at the new figures, and record again if it still holds.`,
    { facts: { inGrams: now.saltInGrams, targetGrams: now.targetGrams } },
  );
}

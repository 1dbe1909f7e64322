import type { EntryChoices } from '@clear-tally/contract';
import {
  batchCode,
  checkMass,
  decideScope,
  decideStart,
  decideWeakStart,
  formatGrams,
  formulaHoles,
  localDate,
  rulesInForce,
  scaleFormula,
} from '@clear-tally/core';
import { and, eq, sql } from 'drizzle-orm';
import type { Reader, Transaction } from '../../db/database.js';
import { house } from '../../db/schema/house.js';
import { chosenRules } from '../../lots/house.js';
import { lot } from '../../db/schema/ledger.js';
import { formula, formulaState } from '../../db/schema/stores.js';
import { ask } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { addLot, codeFor } from '../../lots/lots.js';
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

/** Versions and variants of every formula, beside the formula that has them. */
async function formulaChoices(reader: Reader): Promise<EntryChoices> {
  const { formulaId, version, data } = formula;
  const all = await reader.select({ formulaId, version, data }).from(formula).orderBy(formulaId, version);
  const beside = (id: string) => ({ where: { field: 'formulaId', is: id } });
  const variants = new Map(
    all.flatMap((row) =>
      (row.data.variants ?? []).map((name) => [`${row.formulaId} ${name}`, { name, of: row.formulaId }]),
    ),
  );
  return {
    version: all.map((row) => ({ id: String(row.version), label: `version ${row.version}`, ...beside(row.formulaId) })),
    variant: [...variants.values()].map(({ name, of }) => ({ id: name, label: name, ...beside(of) })),
  };
}

export const batchStart = kind('batch.start', {
  who: 'maker',
  whoWords: 'maker; weak salt: owner with a reason',
  words: 'Batch started',
  does: 'a batch of a formula version and variant, planned from jars or a trimmed mass; its code is issued, the house rules in force are kept with it',
  correct: 'ledger',
  choices: formulaChoices,
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
    const chosen = await chosenRules(tx);
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

/** Somebody else recorded, or a weight was put right, since the screen was read: nothing is recorded on an old sight. */
export function refuseChanged(
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

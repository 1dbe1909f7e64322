import type { BodyOf } from '@clear-tally/contract';
import {
  BRINE_AT_PACKING_WORDS,
  checkMass,
  decideRest,
  formatGrams,
  type Outcome,
  runCode,
  STORAGE_WORDS,
  tally,
} from '@clear-tally/core';
import { and, count, eq } from 'drizzle-orm';
import { toMilligrams } from '../../db/schema/columns.js';
import { hold, lot, lotCount } from '../../db/schema/ledger.js';
import { ask, happened, isReplay } from '../../journal/asItHappened.js';
import type { InHand, Recording } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import {
  addLot,
  addMovements,
  balance,
  closeEmptied,
  codeFor,
  firstFree,
  loadLot,
  type LotRow,
} from '../../lots/lots.js';
import { mayBeKept } from '../../lots/heat.js';
import { onScale, weighOn } from '../../lots/scaleUsed.js';
import { refuseUnripeThen } from '../../lots/packableThen.js';
import { loadWatched } from '../../lots/watched.js';
import { addIntoJars, holdFor, noteOf, weightFacts, weightsMissing } from './aroundPacking.js';
import { issueJars } from './issueJars.js';

export const packRun = kind('pack.run', {
  who: 'maker',
  task: 'packing',
  words: 'Packed',
  does: 'jars from one or more vessels of one batch; serial ranges are issued; what is poured over them (`brine`: own, boiled, fresh) and where they are kept (`storage`: cold, cellar, ambient); a vessel said to be empty accounts for its rest (`restGrams`, `restReason`)',
  correct: 'ledger',
  judged: true,
  rulesBefore: true,
  weighty: true,
  record: async (recording) => {
    const { tx, body, at } = recording;
    const fills = await fillsOfOneBatch(recording);
    // One list: what the page of a vessel shows is what is asked here.
    const watched = new Map(
      (
        await loadWatched(
          tx,
          at,
          fills.map(({ id }) => id),
        )
      ).map((vessel) => [vessel.lotId, vessel]),
    );
    for (const fill of fills) ask(tx, watched.get(fill.id)!.packable);
    await refuseUnripeThen(recording, fills);
    const jarGrams = refuseOpenTally(recording);
    for (const [index, part] of body.from.entries()) if (part.empties) await refuseRest(recording, fills[index]!, part);
    const missing = await weightsMissing(recording, fills);
    const batch = await loadLot(tx, fills[0]!.batchId!, 'from', ['batch']);
    if (body.storage) {
      const vessels = fills.map(({ id }) => id);
      ask(tx, await mayBeKept(tx, body.storage, { formulaId: batch.formulaId, vessels, at: at.getTime() }));
    }
    const code = await addRun(recording, batch);
    await addMovements(
      recording,
      body.from.map((part, index) => ({
        from: { lot: fills[index]! },
        to: { lotId: body.runLotId },
        grams: part.grams,
        field: 'from',
      })),
    );
    await addIntoJars(recording);
    await addLosses(recording, fills, jarGrams);
    await holdUnfit(
      recording,
      body.runLotId,
      fills.map((fill) => watched.get(fill.id)!.packable),
    );
    if (missing) await holdFor(recording, `${missing}: ${body.weightsReason ?? ''}`);
    const issued = await issueJars(recording, body.runLotId, code, body.jars);
    await noteOf(recording);
    const heaviest = Math.max(0, ...(body.weights ?? []).flatMap(({ grams }) => grams));
    const scale = heaviest > 0 ? await weighOn(recording, { ...body, grams: heaviest, lotId: body.runLotId }) : {};
    const emptied = fills.filter((_, index) => body.from[index]!.empties);
    for (const fill of emptied) await tx.update(lot).set({ closedAt: at }).where(eq(lot.id, fill.id));
    for (const fill of fills) if (!emptied.includes(fill) && (await closeEmptied(recording, fill))) emptied.push(fill);
    return {
      facts: {
        code,
        jars: issued,
        emptied: emptied.map((fill) => fill.code),
        ...(missing ? { missing } : {}),
        ...weightFacts(body),
        ...scale,
      },
      lots: [
        body.runLotId,
        ...fills.map((fill) => fill.id),
        ...(body.added ?? []).map(({ fromLotId }) => fromLotId),
        ...(body.closures ?? []).map(({ lotId }) => lotId),
      ],
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `Packed ${String(facts['code'] ?? '')}`,
    words: [
      `from ${entry.body.from.map((part) => code(part.fillLotId)).join(', ')}`,
      entry.body.brine && BRINE_AT_PACKING_WORDS[entry.body.brine].toLowerCase(),
      entry.body.storage && `kept: ${STORAGE_WORDS[entry.body.storage]}`,
      ...entry.body.from.map((part) => part.restReason && `rest of ${code(part.fillLotId)}: ${part.restReason}`),
      entry.body.tallyReason,
      facts['missing'] && `${String(facts['missing'])}: ${entry.body.weightsReason ?? ''}`,
      ...(entry.body.added ?? []).map((one) => `${code(one.fromLotId)} ${formatGrams(one.grams)} into the jars`),
      facts['weights'],
      onScale(facts),
      entry.body.closures && `closed with ${entry.body.closures.map((one) => code(one.lotId)).join(', ')}`,
      entry.body.retained && `${entry.body.retained.count} jars kept to be tasted`,
      entry.body.cleared && 'line clear before it',
    ]
      .filter(Boolean)
      .join(' · '),
    figure: `${entry.body.jars.reduce((sum, jars) => sum + jars.count, 0)} jars`,
  }),
});

type PackRun = Recording<'pack.run'>;

/** The vessels a run takes from, each named once. @throws {Refused} they are not of one batch */
async function fillsOfOneBatch({ tx, body }: PackRun): Promise<LotRow[]> {
  const fills: LotRow[] = [];
  for (const part of body.from) fills.push(await loadLot(tx, part.fillLotId, 'from', ['fill']));
  if (new Set(fills.map((fill) => fill.id)).size < fills.length)
    throw refused('pack.nothing', 'One vessel is named twice. Name each vessel once, with all that is taken from it.', {
      field: 'from',
    });
  if (new Set(fills.map((fill) => fill.batchId)).size > 1)
    throw refused(
      'pack.differentBatches',
      `A packing run takes from vessels of one batch; ${fills.map((fill) => fill.code).join(' and ')} are of different ones. Pack them one after the other.`,
      { field: 'from' },
    );
  return fills;
}

/** What the jars hold together, grams. @throws {Refused} it does not come to what was taken, and nobody says why */
function refuseOpenTally({ tx, body }: PackRun): number {
  const inGrams = body.from.reduce((sum, part) => sum + part.grams, 0);
  for (const part of body.from)
    must(checkMass({ grams: part.grams, what: 'what is taken from a vessel', field: 'from' }));
  const jarGrams = body.jars.reduce((sum, jars) => sum + jars.count * jars.netGrams, 0);
  const lossGrams = body.sampleGrams + body.leftoverGrams + body.wasteGrams;
  const addedGrams = (body.added ?? []).reduce((sum, { grams }) => sum + grams, 0);
  const run = tally({
    stage: 'upToJars',
    inGrams: inGrams + addedGrams,
    outGrams: 0,
    lossGrams,
    countedGrams: jarGrams,
  });
  if (run.clear || body.tallyReason || happened(tx)) return jarGrams;
  const says =
    run.unexplainedGrams > 0
      ? `${formatGrams(run.unexplainedGrams)} is missing`
      : `${formatGrams(-run.unexplainedGrams)} more is in jars and losses than was taken`;
  throw refused(
    'pack.tallyOpen',
    `Taken ${formatGrams(inGrams)}${addedGrams > 0 ? `, added ${formatGrams(addedGrams)}` : ''}; jars, samples, left over and waste make ${formatGrams(jarGrams + lossGrams)}: ${says}, beyond ± ${formatGrams(run.toleranceGrams)}. Look for it, or give the reason.`,
    {
      field: 'tallyReason',
      facts: { unexplainedGrams: run.unexplainedGrams, toleranceGrams: run.toleranceGrams },
    },
  );
}

/** The lot of the run; its code. @throws {Refused} the batch has as many runs as there are numbers */
async function addRun(recording: PackRun, batch: LotRow): Promise<string> {
  const { tx, body, at } = recording;
  const [{ runs } = { runs: 0 }] = await tx
    .select({ runs: count() })
    .from(lot)
    .where(and(eq(lot.batchId, batch.id), eq(lot.kind, 'run')));
  if (runs >= 99) throw refused('code.exhausted', 'A batch has 99 packing runs at most.');
  const free = await firstFree(tx, (number) => runCode(batch.code, number), runs + 1);
  const code = codeFor(recording, body.runLotId, free);
  await addLot(recording, {
    id: body.runLotId,
    code,
    kind: 'run',
    name: batch.name,
    origin: 'made',
    at,
    batchId: batch.id,
    formulaId: batch.formulaId,
    formulaVersion: batch.formulaVersion,
  });
  return code;
}

/** What stays behind in vessels said to be empty, what leaves the run on the way, and what was counted in its jars. */
async function addLosses(recording: PackRun, fills: readonly LotRow[], jarGrams: number): Promise<void> {
  const { tx, body, at, entry, seq } = recording;
  const rests = body.from.flatMap((part, index) =>
    part.empties && part.restGrams
      ? [{ from: { lot: fills[index]! }, to: { sink: 'residue' as const }, grams: part.restGrams, field: 'from' }]
      : [],
  );
  await addMovements(recording, rests);
  const runLot = await loadLot(tx, body.runLotId, 'runLotId');
  const losses = [
    ['sample', body.sampleGrams],
    ['leftover', body.leftoverGrams],
    ['residue', body.wasteGrams],
  ] as const;
  await addMovements(
    recording,
    losses
      .filter(([, grams]) => grams > 0)
      .map(([sink, grams]) => ({ from: { lot: runLot }, to: { sink }, grams, field: `${sink}Grams` })),
  );
  await tx.insert(lotCount).values({
    entryId: entry.id,
    lotId: body.runLotId,
    milligrams: toMilligrams(jarGrams),
    byDifference: null,
    at,
    seq,
  });
}

/** What the book has left of a vessel that is said to be empty. */
async function refuseRest({ tx, at }: InHand, fill: LotRow, part: BodyOf<'pack.run'>['from'][number]): Promise<void> {
  const { atGrams, inGrams } = await balance(tx, fill, at);
  ask(
    tx,
    decideRest({
      tag: fill.code,
      inGrams,
      leftGrams: Math.max(0, atGrams - part.grams),
      weighedGrams: part.restGrams ?? 0,
      reason: part.restReason,
    }),
  );
}

/** Packed, and by what is known now it should not have been: a reading was put right since. The jars wait for a reviewer. */
async function holdUnfit({ tx, entry, at }: InHand, runLotId: string, unfit: readonly Outcome<void>[]): Promise<void> {
  if (isReplay(tx)) return;
  const why = unfit.flatMap((outcome) => (outcome.ok ? [] : [outcome.refusal.message]));
  if (why.length === 0) return;
  await tx.insert(hold).values({
    entryId: entry.id,
    lotId: runLotId,
    rule: 'person',
    causeLot: null,
    placedAt: at,
    reason: `Packed before it was known: ${why.join(' ')}`.slice(0, 300),
  });
}

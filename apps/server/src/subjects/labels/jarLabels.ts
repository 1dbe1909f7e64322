import { decideDesign } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { material } from '../../db/schema/stores.js';
import { jarLabel, labelDesign, labelTally } from '../../db/schema/labels.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { ask, happened } from '../../journal/asItHappened.js';
import { addMovements, loadLot, refuseHeld } from '../../lots/lots.js';
import { refuseUnknownJars } from '../../lots/runs.js';

export const designKept = kind('label.design', {
  who: 'maker',
  words: 'Label design',
  does: 'how labels of jars look from now on: sheet or roll, fields and their size, symbol; a claim about health is refused',
  correct: 'book',
  record: async ({ tx, entry, body, seq }) => {
    ask(tx, decideDesign(body.design));
    await tx.insert(labelDesign).values({ entryId: entry.id, ...body, formulaId: body.formulaId ?? null, seq });
    return {};
  },
  line: ({ entry }) => ({
    what: 'Label design',
    words: `${entry.body.name}: ${entry.body.design.paper.widthMm} × ${entry.body.design.paper.heightMm} mm`,
  }),
});

async function outOf({ tx }: InHand, runLotId: string): Promise<{ first: number; last: number }[]> {
  return tx
    .select({ first: jarLabel.firstSerial, last: jarLabel.lastSerial })
    .from(jarLabel)
    .where(eq(jarLabel.runLotId, runLotId))
    .orderBy(jarLabel.at, jarLabel.seq);
}

/** Blank labels leave their lot by the piece. */
async function takeBlanks(recording: InHand, lotId: string, count: number): Promise<void> {
  const { tx, at } = recording;
  const from = await loadLot(tx, lotId, 'labelLotId', ['supply']);
  const [of] = from.materialId ? await tx.select().from(material).where(eq(material.id, from.materialId)) : [];
  if (of?.kind !== 'packaging')
    throw refused('lot.wrongKind', `${from.code} is ${from.name}: labels are packaging.`, { field: 'labelLotId' });
  await refuseHeld(tx, from, 'labelLotId');
  await addMovements(
    recording,
    [{ from: { lot: from }, to: { sink: 'packed' }, grams: count, field: 'labelLotId', pieces: true }],
    {
      entryId: recording.entry.id,
      kind: 'label.jars',
      at,
    },
  );
}

export const jarsLabelled = kind('label.jars', {
  who: 'maker',
  task: 'packing',
  words: 'Jars labelled',
  does: 'labels of jars that came out, by number; the same again only with its reason',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const run = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    const [design] = await tx
      .select({ id: labelDesign.designId })
      .from(labelDesign)
      .where(eq(labelDesign.designId, body.designId))
      .limit(1);
    if (!design)
      throw refused('label.designUnknown', 'This design is not kept in this house. Keep it first.', {
        field: 'designId',
      });
    await refuseUnknownJars(tx, run, body);
    const again = (await outOf(recording, run.id)).find((one) => one.first <= body.last && one.last >= body.first);
    if (again && !body.reason && !happened(tx))
      throw refused(
        'label.again',
        `A label of jar ${Math.max(again.first, body.first)} came out already. Say why it is printed again: no jar has two.`,
        { field: 'reason' },
      );
    const { first, last, ...more } = body;
    if (body.labelLotId) await takeBlanks(recording, body.labelLotId, last - first + 1);
    await tx
      .insert(jarLabel)
      .values({ entryId: entry.id, firstSerial: first, lastSerial: last, ...more, by: entry.by, at, seq });
    return { lots: [run.id, ...(body.labelLotId ? [body.labelLotId] : [])] };
  },
  line: ({ entry, code }) => ({
    what: entry.body.reason ? 'Jars labelled again' : 'Jars labelled',
    words: [
      `jars ${entry.body.first} to ${entry.body.last}`,
      entry.body.printer ?? 'on sheets',
      entry.body.labelLotId && code(entry.body.labelLotId),
      entry.body.reason,
    ]
      .filter(Boolean)
      .join(' · '),
    figure: `${entry.body.last - entry.body.first + 1} labels`,
  }),
});

export const labelsCounted = kind('label.tally', {
  who: 'maker',
  words: 'Labels counted',
  does: 'labels of a run: on jars, spoiled, back on the shelf; together what came out, or the reason',
  correct: 'book',
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const run = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    const out = (await outOf(recording, run.id)).reduce((sum, { first, last }) => sum + last - first + 1, 0);
    const { used, spoiled, back } = body;
    const clear = used + spoiled + back === out;
    if (!clear && !body.reason && !happened(tx))
      throw refused(
        'label.countOpen',
        `${out} labels came out; ${used} on jars, ${spoiled} spoiled and ${back} back make ${used + spoiled + back}. Look for the rest, or give the reason.`,
        { field: 'reason', facts: { out } },
      );
    await tx.insert(labelTally).values({ entryId: entry.id, ...body, clear, by: entry.by, at, seq });
    return { facts: { out, clear }, lots: [run.id] };
  },
  line: ({ entry, facts }) => ({
    what: 'Labels counted',
    words: [
      `${entry.body.used} on jars, ${entry.body.spoiled} spoiled, ${entry.body.back} back, of ${String(facts['out'])}`,
      entry.body.reason,
    ]
      .filter(Boolean)
      .join(' · '),
  }),
});

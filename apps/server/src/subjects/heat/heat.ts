import { decideProcess, HEAT_METHOD_WORDS, jarCode } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { formulaStands } from '../../lots/formulaStands.js';
import { heatLoad, heatProcess, sealTest } from '../../db/schema/heat.js';
import { happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { type ProcessRow } from '../../lots/heat.js';
import { loadLot } from '../../lots/lots.js';
import { refuseUnknownPhoto } from '../../lots/photos.js';
import { refuseUnknownJars } from '../../lots/runs.js';
import { jarsGone } from '../dispatch/index.js';

/** A scheduled process, as its authority set it. Without one nothing is kept ambient. */
export const processFiled = kind('heat.process', {
  who: 'owner',
  words: 'Process on file',
  does: 'a scheduled process goes on file: its limits, who issued it, until when it holds',
  correct: 'book',
  record: async ({ tx, body, seq }) => {
    const { processId, formulaId, ...more } = body;
    must(decideProcess(body.limits));
    if (body.document !== null) await refuseUnknownPhoto(tx, body.document, 'document');
    if (formulaId !== null) {
      if (!(await formulaStands(tx, formulaId)))
        throw refused('resource.unknown', 'This formula is not known in this house.', { field: 'formulaId' });
    }
    await tx.insert(heatProcess).values({ id: processId, formulaId, ...more, ended: null, seq });
    return {};
  },
  line: ({ entry }) => ({
    what: 'Process on file',
    words: `${entry.body.name} · ${HEAT_METHOD_WORDS[entry.body.limits.method]} · issued by ${entry.body.issuer}`,
    figure: `${entry.body.limits.processC} °C, ${entry.body.limits.minutes} min`,
  }),
});

async function processOf({ tx }: InHand, id: string): Promise<ProcessRow> {
  const [of] = await tx.select().from(heatProcess).where(eq(heatProcess.id, id));
  if (!of)
    throw refused('heat.processUnknown', 'This process is not on file. An owner puts it there first.', {
      field: 'processId',
    });
  return of;
}

export const processEnded = kind('heat.processEnd', {
  who: 'owner',
  words: 'Process ended',
  does: 'a process is used no more; what was heated to it stays as it was',
  correct: 'book',
  record: async (recording) => {
    const of = await processOf(recording, recording.body.processId);
    if (of.ended !== null) throw refused('heat.processEnded', `${of.name} is used no more already.`);
    await recording.tx.update(heatProcess).set({ ended: recording.body.reason }).where(eq(heatProcess.id, of.id));
    return { facts: { name: of.name } };
  },
  line: ({ entry, facts }) => ({ what: 'Process ended', words: `${String(facts['name'])} · ${entry.body.reason}` }),
});

/** One load, with the log at its cold spot. It names its jars: when it fails, exactly these are held. */
export const loadHeated = kind('heat.load', {
  who: 'maker',
  task: 'heating',
  words: 'Heated',
  does: 'one load of jars heated to a process: its log, fill temperatures and seals decide exactly over the jars it names',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const run = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    const process = await processOf(recording, body.processId);
    if (process.ended !== null && !happened(tx))
      throw refused('heat.processEnded', `${process.name} is used no more: ${process.ended}. Choose another.`, {
        field: 'processId',
      });
    if (process.formulaId !== null && process.formulaId !== run.formulaId && !happened(tx))
      throw refused(
        'heat.jarElsewhere',
        `${process.name} was set for another product than ${run.name}. Choose the process of this one.`,
        { field: 'processId' },
      );
    if (Date.parse(body.startedAt) > at.getTime() + 60_000)
      throw refused('time.future', 'The log begins after the load was heated. Look at its day and its clock.', {
        field: 'startedAt',
      });
    await refuseUnknownJars(tx, run, body);
    for (const { serial } of body.fills)
      if (serial < body.first || serial > body.last)
        throw refused(
          'heat.jarElsewhere',
          `A fill temperature of jar ${serial} was given; this load has jars ${body.first} to ${body.last}.`,
          { field: 'fills' },
        );
    const { loadId, runLotId: _run, processId: _process, first, last, note, ...record } = body;
    await tx.insert(heatLoad).values({
      id: loadId,
      runLotId: run.id,
      processId: process.id,
      firstSerial: first,
      lastSerial: last,
      record,
      note,
      by: entry.by,
      at,
      seq,
    });
    return {
      facts: {
        process: process.name,
        first: jarCode(run.code, first).text,
        last: jarCode(run.code, last).text,
      },
      lots: [run.id],
    };
  },
  line: ({ entry, facts }) => ({
    what: 'Heated',
    words: [`${String(facts['first'])} to ${String(facts['last'])}`, facts['process'], entry.body.note]
      .filter(Boolean)
      .join(' · '),
    figure: `${entry.body.last - entry.body.first + 1} jars`,
  }),
});

/** The day after: every jar that is not tight is named, and held or gone. */
export const sealsLooked = kind('heat.seals', {
  who: 'maker',
  task: 'heating',
  words: 'Seals looked at',
  does: 'seals of a heated load, jar by jar, the day after; what is not tight is kept cold or thrown out',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const [load] = await tx.select().from(heatLoad).where(eq(heatLoad.id, body.loadId));
    if (!load) throw refused('heat.loadUnknown', 'This load is not known in this house.', { field: 'loadId' });
    const run = await loadLot(tx, load.runLotId, 'loadId', ['run']);
    const failed = [...new Set(body.failed)].sort((a, b) => a - b);
    const strange = failed.find((serial) => serial < load.firstSerial || serial > load.lastSerial);
    if (strange !== undefined)
      throw refused(
        'heat.jarElsewhere',
        `Jar ${strange} was given; this load has jars ${load.firstSerial} to ${load.lastSerial}.`,
        { field: 'failed' },
      );
    if (failed.length > 0 && body.then === null)
      throw refused('heat.jarElsewhere', 'What became of the jars that are not tight: kept cold, or thrown out?', {
        field: 'then',
      });
    await tx.insert(sealTest).values({
      entryId: entry.id,
      loadId: load.id,
      failed,
      became: failed.length > 0 ? body.then : null,
      note: body.note,
      by: entry.by,
      at,
      seq,
    });
    if (failed.length > 0 && body.then === 'thrownOut')
      await jarsGone(recording, {
        jars: failed.map((serial) => ({ runLotId: run.id, first: serial, last: serial })),
        to: { kind: 'gone', how: 'thrownOut' },
        note: 'not tight',
      });
    return { facts: { failed: failed.map((serial) => jarCode(run.code, serial).text) }, lots: [run.id] };
  },
  line: ({ entry, facts }) => {
    const failed = (facts['failed'] as string[] | undefined) ?? [];
    return {
      what: 'Seals looked at',
      words: [
        failed.length === 0
          ? 'all tight'
          : `not tight, ${entry.body.then === 'chilled' ? 'kept cold' : 'thrown out'}: ${failed.join(', ')}`,
        entry.body.note,
      ]
        .filter(Boolean)
        .join(' · '),
    };
  },
});

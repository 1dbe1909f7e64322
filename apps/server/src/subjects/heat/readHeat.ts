import type { HeatProcessReply, ProcessesReply, RunHeatReply } from '@clear-tally/contract';
import { JAR_HEAT_WORDS, lethality } from '@clear-tally/core';
import { desc, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { person } from '../../db/schema/house.js';
import { formula } from '../../db/schema/stores.js';
import { heatProcess } from '../../db/schema/heat.js';
import { refused } from '../../journal/refused.js';
import { heatOf, type HeatedLoad, processesFor, type ProcessRow } from '../../lots/heat.js';
import { lotByCode } from '../../lots/lotByCode.js';

async function told(reader: Reader, processes: readonly ProcessRow[]): Promise<HeatProcessReply[]> {
  const names = new Map(
    (
      await reader
        .selectDistinctOn([formula.formulaId], { id: formula.formulaId, name: formula.name })
        .from(formula)
        .orderBy(formula.formulaId, desc(formula.version))
    ).map(({ id, name }) => [id, name]),
  );
  const loads = new Map(
    (
      await rows<{ id: string; count: number }>(
        reader,
        sql`select process_id as id, count(*)::int as count from heat_load where process_id = ${anyOf(processes.map(({ id }) => id))} group by 1`,
      )
    ).map(({ id, count }) => [id, count]),
  );
  return processes.map(({ id, seq: _seq, ...process }) => ({
    processId: id,
    ...process,
    formula: process.formulaId ? (names.get(process.formulaId) ?? null) : null,
    loads: loads.get(id) ?? 0,
  }));
}

/** Every process on file, those in use first. */
export async function readProcesses(reader: Reader): Promise<ProcessesReply> {
  const all = await reader
    .select()
    .from(heatProcess)
    .orderBy(sql`${heatProcess.ended} is not null`, desc(heatProcess.seq));
  return { processes: await told(reader, all) };
}

/** Of a run: what it may be heated to, its loads point by point, and how each jar stands by them. */
export async function readRunHeat(reader: Reader, code: string, now: Date): Promise<RunHeatReply> {
  const of = await lotByCode(reader, code);
  if (of.kind !== 'run')
    throw refused('lot.wrongKind', `${of.code} is no packing run. Jars are heated run by run.`, { field: 'code' });
  const { loads, jars } = await heatOf(reader, { lotId: of.id });
  const initials = new Map(
    (await reader.select({ id: person.id, initials: person.initials }).from(person)).map((one) => [
      one.id,
      one.initials,
    ]),
  );
  return {
    processes: await told(reader, await processesFor(reader, of.formulaId, now.getTime())),
    loads: loads.map((one, index) => ({
      loadId: one.load.id,
      first: one.load.firstSerial,
      last: one.load.lastSerial,
      process: one.process.name,
      startedAt: new Date(one.load.record.startedAt).toISOString(),
      by: initials.get(one.load.by) ?? '',
      note: one.load.note,
      stands: one.stands,
      rows: [...one.rows],
      points: one.load.record.points,
      processC: one.process.limits.processC,
      lethality: lethalityWords(one),
      seals: one.looked,
      anew: isHeatedAnew(one, loads.slice(index + 1)),
    })),
    jars:
      loads.length === 0
        ? []
        : jars.map(({ first, last, heat }) => ({
            first,
            last,
            words: JAR_HEAT_WORDS[heat],
            held: heat === 'notMet' || heat === 'notTight',
          })),
  };
}

/** F of the whole log, where the process names a reference; else none is said: F means nothing without one. */
function lethalityWords({ load, process }: HeatedLoad): string | null {
  const limit = process.limits.lethality;
  if (!limit || load.record.points.length === 0) return null;
  const whole = lethality(load.record.points, limit);
  return `F ${whole.toFixed(2)} min over the whole log, at ${limit.refC} °C and z ${limit.z}`;
}

/** Every jar of it stands in a later load: it is history, and decides nothing. */
function isHeatedAnew({ load }: HeatedLoad, later: readonly HeatedLoad[]): boolean {
  for (let serial = load.firstSerial; serial <= load.lastSerial; serial += 1)
    if (!later.some(({ load: one }) => one.firstSerial <= serial && one.lastSerial >= serial)) return false;
  return true;
}

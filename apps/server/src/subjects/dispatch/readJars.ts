import type { CustomersReply, JarsReply, JarStretch } from '@clear-tally/contract';
import { JAR_HEAT_WORDS, jarCode } from '@clear-tally/core';
import { isNotNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { room } from '../../db/schema/house.js';
import { customer, jarMove } from '../../db/schema/jars.js';
import { heatOf } from '../../lots/heat.js';
import { openSince, whyNotOut } from '../../lots/releasing.js';
import { jarsOf, loadRuns, type RunStanding, stretchesIn } from '../../lots/runs.js';

/** So many released runs are looked through for what opened since. */
const MOST_LOOKED_THROUGH = 80;

/** Of a run kept ambient: each stretch cut where its heat changes, with what holds just these jars. */
async function byHeat(reader: Reader, run: RunStanding, stretches: readonly JarStretch[]): Promise<JarStretch[]> {
  if (run.storage !== 'ambient') return [...stretches];
  const { jars } = await heatOf(reader, run);
  return stretches.flatMap((stretch) =>
    jars.flatMap(({ heat, ...one }) => {
      const [first, last] = [Math.max(one.first, stretch.first), Math.min(one.last, stretch.last)];
      if (first > last) return [];
      return {
        ...stretch,
        first,
        last,
        firstCode: jarCode(run.code, first).text,
        lastCode: jarCode(run.code, last).text,
        count: last - first + 1,
        kept: stretch.kept ?? (heat === 'met' ? null : JAR_HEAT_WORDS[heat]),
      };
    }),
  );
}

/** Why nothing of a run leaves now: unreleased, held, or something opened since its release. */
async function refusalOf(reader: Reader, run: RunStanding, now: Date, looked: number): Promise<string | null> {
  const why = await whyNotOut(reader, run);
  if (why || looked > MOST_LOOKED_THROUGH) return why?.words ?? null;
  const [since] = await openSince(reader, run, now);
  return since ? `Released, and since then stands open: ${since.words}: ${since.now}.` : null;
}

/** What stands in the house by run and place, oldest first, and what went out lately. */
export async function readJars(reader: Reader, now: Date): Promise<JarsReply> {
  const runs = (await loadRuns(reader)).sort((a, b) => a.packedAt - b.packedAt || a.code.localeCompare(b.code, 'en'));
  const jars = await jarsOf(
    reader,
    runs.map(({ lotId }) => lotId),
  );
  const shown: JarsReply['runs'] = [];
  let looked = 0;
  for (const run of runs) {
    const own = jars.filter(({ runLotId }) => runLotId === run.lotId);
    if (!own.some(({ segments }) => segments.some(({ where }) => where.kind === 'house'))) continue;
    const inHouse = (await stretchesIn(reader, run.code, own)).filter(({ kind }) => kind === 'house');
    if (run.state === 'released') looked += 1;
    shown.push({
      lotId: run.lotId,
      code: run.code,
      name: run.name,
      packedAt: new Date(run.packedAt).toISOString(),
      storage: run.storage,
      formulaId: run.formulaId,
      refusal: await refusalOf(reader, run, now, looked),
      stretches: await byHeat(reader, run, inHouse),
    });
  }
  const sent = await rows<Omit<JarsReply['sent'][number], 'at'> & { at: Date }>(
    reader,
    sql`
    select d.id as "dispatchId", d.code, d.at, p.initials as by, c.name as customer, d.note,
      coalesce((select sum(m.last_serial - m.first_serial + 1)::int from jar_move m where m.dispatch_id = d.id), 0) as count,
      array(select distinct l.code from jar_move m join lot l on l.id = m.run_lot_id where m.dispatch_id = d.id order by 1) as runs
    from dispatch d join customer c on c.id = d.customer_id join person p on p.id = d.by order by d.at desc, d.seq desc limit 60`,
  );
  return {
    rooms: await reader.select({ id: room.id, name: room.name }).from(room).orderBy(room.position),
    runs: shown,
    sent: sent.map((row) => ({ ...row, at: new Date(row.at).toISOString() })),
  };
}

/** Who gets jars, how many they have, and since when. */
export async function readCustomers(reader: Reader): Promise<CustomersReply> {
  const all = await reader.select().from(customer).orderBy(customer.closed, customer.name);
  const runs = await reader.selectDistinct({ id: jarMove.runLotId }).from(jarMove).where(isNotNull(jarMove.customerId));
  const jars = await jarsOf(
    reader,
    runs.map(({ id }) => id),
  );
  const held = new Map<string, { jars: number; lastAt: number }>();
  for (const { segments } of jars)
    for (const { where, first, last, since } of segments) {
      if (where.kind !== 'customer') continue;
      const before = held.get(where.customerId) ?? { jars: 0, lastAt: 0 };
      held.set(where.customerId, {
        jars: before.jars + last - first + 1,
        lastAt: Math.max(before.lastAt, since ?? 0),
      });
    }
  return {
    customers: all.map(({ id, name, kind, address, contact, closed }) => ({
      customerId: id,
      name,
      customerKind: kind as CustomersReply['customers'][number]['customerKind'],
      address,
      contact,
      closed,
      jars: held.get(id)?.jars ?? 0,
      lastAt: held.has(id) ? new Date(held.get(id)!.lastAt).toISOString() : null,
    })),
  };
}

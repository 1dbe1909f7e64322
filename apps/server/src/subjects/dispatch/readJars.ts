import type { CustomersReply, JarsReply, JarStretch } from '@clear-tally/contract';
import { JAR_HEAT_WORDS, jarCode } from '@clear-tally/core';
import { isNotNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { room } from '../../db/schema/house.js';
import { customer, jarMove } from '../../db/schema/jars.js';
import { heatOf } from '../../lots/heat.js';
import { ofEachReadable, openSince, whyNotOut } from '../../lots/leaving.js';
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

/** Of each run of which nothing leaves now why: unreleased, held, or something opened since its release. */
async function refusalsOf(reader: Reader, runs: readonly RunStanding[], now: Date): Promise<Map<string, string>> {
  const kept = await whyNotOut(reader, runs);
  const released = runs.filter(({ state }) => state === 'released').slice(0, MOST_LOOKED_THROUGH);
  const { found: since, faults } = await ofEachReadable(
    released.filter(({ lotId }) => !kept.has(lotId)),
    (asked) => openSince(reader, asked, now),
  );
  const words = new Map([...[...kept].map(([lotId, why]): [string, string] => [lotId, why.words]), ...faults]);
  for (const [lotId, [open]] of since)
    if (open) words.set(lotId, `Released, and since then stands open: ${open.words}: ${open.now}.`);
  return words;
}

/** What stands in the house by run and place, oldest first, and what went out lately. */
export async function readJars(reader: Reader, now: Date): Promise<JarsReply> {
  const runs = (await loadRuns(reader)).sort((a, b) => a.packedAt - b.packedAt || a.code.localeCompare(b.code, 'en'));
  const jars = await jarsOf(
    reader,
    runs.map(({ lotId }) => lotId),
  );
  const own = groupBy(jars, ({ runLotId }) => runLotId);
  const here = runs.filter(({ lotId }) =>
    own.get(lotId)?.some(({ segments }) => segments.some(({ where }) => where.kind === 'house')),
  );
  const refusals = await refusalsOf(reader, here, now);
  const shown: JarsReply['runs'] = [];
  for (const run of here) {
    const inHouse = (await stretchesIn(reader, run.code, own.get(run.lotId)!)).filter(({ kind }) => kind === 'house');
    shown.push({
      lotId: run.lotId,
      code: run.code,
      name: run.name,
      packedAt: new Date(run.packedAt).toISOString(),
      storage: run.storage,
      formulaId: run.formulaId,
      refusal: refusals.get(run.lotId) ?? null,
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

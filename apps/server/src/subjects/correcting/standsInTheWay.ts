import type { EntryKind } from '@clear-tally/contract';
import { CLOCK_SKEW_MS, formatGrams } from '@clear-tally/core';
import { and, gt, sql } from 'drizzle-orm';
import { anyOf, rows, type Transaction } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { house } from '../../db/schema/house.js';
import { refused, Refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { savepoint } from '../../journal/savepoint.js';
import { balance, loadLot } from '../../lots/lots.js';
import type { Written } from '../../lots/written.js';

/** The words for an entry that cannot have been with the right one: what stands there, and what to do first. */
export async function inTheWay(tx: Transaction, one: Written, said: string): Promise<Refused> {
  const [what, when] = [kindOf(one.entry.kind).words, await houseMoment(tx, one.entry.happenedAt)];
  return refused(
    'correction.standsInTheWay',
    `“${what}” of ${when} rests on this line, and cannot have been with it: ${said} Put that right first.`,
    {
      field: 'corrects',
      facts: { entryId: one.entry.id, kind: one.entry.kind, what, when },
    },
  );
}

/** `23 Nov 11:25`, by the house's clock. */
async function houseMoment(tx: Transaction, at: string | Date): Promise<string> {
  const [of] = await tx.select({ timeZone: house.timeZone }).from(house);
  return new Intl.DateTimeFormat('en-GB', {
    timeZone: of?.timeZone ?? 'UTC',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
    .format(new Date(at))
    .replace(',', '');
}

/** Nothing happens to a lot before it was. */
export async function refuseBefore(tx: Transaction, lotIds: readonly string[], at: Date): Promise<void> {
  if (lotIds.length === 0) return;
  const [early] = await tx
    .select({ code: lot.code })
    .from(lot)
    .where(and(sql`${lot.id} = ${anyOf(lotIds)}`, gt(lot.at, new Date(at.getTime() + CLOCK_SKEW_MS))))
    .limit(1);
  if (early)
    throw refused('lot.notYet', `${early.code} began after the time given. Look at the time.`, { field: 'happenedAt' });
}

/** What stays laid aside never was: nothing may stand on it that somebody still says. */
export async function leaveLots(tx: Transaction, seq: number, of: Written): Promise<string[]> {
  const left = await rows<{ code: string }>(tx, sql`select leave_lots(${seq}) as code`);
  const standing = await rows<{ code: string; kind: EntryKind; at: Date; id: string }>(
    tx,
    sql`
    select l.code, j.kind, j.happened_at as at, j.entry_id as id from lot l join entry_lot e on e.lot_id = l.id join journal j on j.seq = e.seq
    left join lateral (select seq, "right" from correction c where c.root_entry_id = j.entry_id order by c.seq desc limit 1) c on true
    where l.undone_seq = ${seq} and j.seq <> ${of.seq} and j.kind not in ('entry.correct', 'label.print', 'hold.byRule', 'hold.anew')
      and (c.seq is null or c."right" is not null) order by j.seq limit 5`,
  );
  if (standing.length > 0) {
    const said: string[] = [];
    // One after the other: inside a transaction there is one connection.
    for (const { kind, at } of standing) said.push(`${kindOf(kind).words} of ${await houseMoment(tx, at)}`);
    const what = said.join(', ');
    const [first] = standing;
    throw refused(
      'correction.standsInTheWay',
      `${standing[0]!.code} would never have been, and this stands in its book: ${what}. Put those right first: say where they belong, or that they never happened.`,
      {
        field: 'corrects',
        facts: {
          entryId: first!.id,
          kind: first!.kind,
          what: kindOf(first!.kind).words,
          when: await houseMoment(tx, first!.at),
        },
      },
    );
  }
  return left.map(({ code }) => code);
}

/** The ledger has to have held enough at every moment since. */
export async function refuseShort(tx: Transaction, seq: number): Promise<void> {
  const touched = await rows<{ id: string; at: Date }>(
    tx,
    sql`
    select lot as id, min(at) as at from (
      select from_lot as lot, at from movement where id >= ${seq * 1000} and id < ${(seq + 1) * 1000}
      union all select to_lot, at from movement where id >= ${seq * 1000} and id < ${(seq + 1) * 1000}) t
    where lot is not null group by 1`,
  );
  for (const { id, at } of touched) {
    const found = await loadLot(tx, id, 'code');
    const held = await balance(tx, found, new Date(at));
    const least = Math.min(held.atGrams, held.leastLaterGrams);
    if (held.metered && least < -Math.max(held.toleranceGrams, 20)) {
      throw refused(
        'correction.standsInTheWay',
        `With this, more would have left ${found.code} than ever was in it: ${formatGrams(-least)} is short. Look at what was taken from it first.`,
        { field: 'corrects', facts: { lot: found.code, shortGrams: -least } },
      );
    }
  }
}

/** A vessel that would not have been empty, and was filled anew since. */
export async function refuseTwice(tx: Transaction): Promise<void> {
  const [twice] = await rows<{ tag: string; code: string; id: string; at: Date; kind: EntryKind }>(
    tx,
    sql`
    select v.tag, l.code, j.entry_id as id, j.happened_at as at, j.kind from lot l
    join vessel v on v.id = l.vessel_id join journal j on j.seq = l.seq
    where l.kind = 'fill' and l.closed_at is null
      and exists (select 1 from lot o where o.vessel_id = l.vessel_id and o.kind = 'fill' and o.closed_at is null and o.seq < l.seq)
    limit 1`,
  );
  if (!twice) return;
  const [what, when] = [kindOf(twice.kind).words, await houseMoment(tx, twice.at)];
  throw refused(
    'correction.standsInTheWay',
    `${twice.tag} would not have been empty, and ${twice.code} was filled into it since (${when}). Put that right first: say where it was filled, or that it never happened.`,
    { field: 'corrects', facts: { entryId: twice.id, kind: twice.kind, what, when } },
  );
}

/** What points at a room, a vessel or a material that would never have been. */
export async function refuseDangling(tx: Transaction): Promise<void> {
  const waiting = await rows<{ name: string; of: string }>(
    tx,
    sql`
    select quote_ident(conname) as name, conrelid::regclass::text as of from pg_constraint
    where contype in ('f', 'x') and condeferrable and not condeferred`,
  );
  try {
    await savepoint(tx, (inner) =>
      inner.execute(sql.raw(`set constraints ${waiting.map(({ name }) => name).join(', ')} immediate`)),
    );
  } catch (error) {
    const cause = ((error as { cause?: unknown }).cause ?? error) as { code?: string; constraint?: string };
    if (cause.code !== '23503') throw error;
    const what = waiting.find(({ name }) => name === cause.constraint)?.of ?? 'the book';
    throw refused(
      'correction.standsInTheWay',
      `Something that was recorded since stands on it (${what.replace('_', ' ')}). Put that right first: say where it belongs, or that it never happened.`,
      { field: 'corrects' },
    );
  }
}

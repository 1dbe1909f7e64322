import { type JarCode, readJarCode } from '@clear-tally/core';
import { and, desc, eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { lot } from '../db/schema/ledger.js';
import { refused } from '../journal/refused.js';
import { codeKey } from './lots.js';

export interface FoundCode {
  readonly kind: 'jar' | 'lot' | 'supply' | 'vessel';
  readonly code: string;
  /** Null for a vessel that stands empty. */
  readonly lotId: string | null;
  readonly jar: JarCode | null;
}

/**
 * The thing a code stands for: a jar, a lot, a supply lot by our code or the supplier's, a vessel.
 * @throws {Refused} a wrong check character (with near matches that exist), an unknown code
 */
export async function findCode(reader: Reader, typed: string): Promise<FoundCode> {
  const text = typed.trim();
  if (text === '' || text.length > 120)
    throw refused('code.unreadable', 'Type or scan a jar, lot, supply or vessel code.', { field: 'code' });
  const jar = readJarCode(text);
  if (jar) {
    if (jar.ok) return { kind: 'jar', code: jar.value.text, lotId: await runOf(reader, jar.value), jar: jar.value };
    const near = await existing(reader, jar.refusal.facts!['nearMatches'] as string[]);
    throw refused('code.checkCharacter', jar.refusal.message, { field: 'code', facts: { nearMatches: near } });
  }
  const named = { id: lot.id, code: lot.code, kind: lot.kind };
  const [ours] = await reader
    .select(named)
    .from(lot)
    .where(eq(lot.codeKey, codeKey(text)));
  const [found = null] = ours
    ? [ours]
    : await reader
        .select(named)
        .from(lot)
        .where(and(eq(lot.kind, 'supply'), eq(sql`upper(${lot.supplierLotCode})`, text.toUpperCase())))
        .orderBy(desc(lot.seq))
        .limit(1);
  if (found) return { kind: found.kind === 'supply' ? 'supply' : 'lot', code: found.code, lotId: found.id, jar: null };
  const [vessel] = await rows<{ tag: string; lotId: string | null }>(
    reader,
    sql`
    select v.tag, coalesce((select id from lot where live_vessel = v.id), (select id from lot where kind = 'fill' and vessel_id = v.id order by seq desc limit 1)) as "lotId" from vessel v where upper(v.tag) = ${codeKey(text)}`,
  );
  if (vessel) return { kind: 'vessel', code: vessel.tag, lotId: vessel.lotId, jar: null };
  throw refused(
    'code.unknown',
    `Nothing in this house has the code “${text}”. A jar code reads like NY26-327-A-01-00147-K, a lot like NY26-327-A, a supply like SP-0871, a vessel like C2.`,
    { field: 'code' },
  );
}

async function runOf(reader: Reader, jar: JarCode): Promise<string> {
  const [run] = await rows<{ id: string }>(
    reader,
    sql`
    select l.id from lot l join jar_range r on r.run_lot_id = l.id where l.code = ${jar.run} and ${jar.serial} between r.first_serial and r.last_serial`,
  );
  if (!run)
    throw refused('code.unknown', `${jar.text} is a well-formed jar code, but no such jar was packed here.`, {
      field: 'code',
    });
  return run.id;
}

async function existing(reader: Reader, candidates: readonly string[]): Promise<string[]> {
  if (candidates.length === 0) return [];
  const parts = candidates.map((text) => ({ text, run: text.slice(0, -8), serial: Number(text.slice(-7, -2)) }));
  const runs = await rows<{ code: string; first: number; last: number }>(
    reader,
    sql`
    select l.code, r.first_serial as first, r.last_serial as last from lot l join jar_range r on r.run_lot_id = l.id where l.code in ${[...new Set(parts.map((part) => part.run))]}`,
  );
  return parts
    .filter((part) => runs.some((run) => run.code === part.run && run.first <= part.serial && part.serial <= run.last))
    .map((part) => part.text)
    .slice(0, 5);
}

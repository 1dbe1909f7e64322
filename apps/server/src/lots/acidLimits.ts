import { effectsOf } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { once } from '../db/once.js';
import { loadHouse } from './house.js';
import { loadAnswers } from './written.js';

/** A limit as the house set it, and where in the journal. */
interface LimitSet {
  readonly seq: number;
  readonly limit: number;
}

/** What is known of a lot for the limit it is held to. */
export interface LimitedLot {
  /** Where in the journal its batch began, or it was entered. */
  readonly begunSeq: number;
  /** The answers its batch was started under; null: from before these records. */
  readonly rules: Readonly<Record<string, string>> | null;
}

/** How the house has set its limit over time, the first first. */
const limitsSet = (reader: Reader): Promise<readonly LimitSet[]> =>
  once(reader, 'acidLimits', async () =>
    (await loadAnswers(reader)).flatMap(({ seq, entry, never }): LimitSet[] => {
      if (never) return [];
      if (entry.kind === 'house.found') return [{ seq, limit: entry.body.acidLimit }];
      return entry.kind === 'house.rule' && entry.body.rule === 'acidLimit'
        ? [{ seq, limit: effectsOf({ acidLimit: entry.body.option }).acidLimit }]
        : [];
    }),
  );

/**
 * The pH a lot is held to: the limit its batch began under, or a stricter one set since. A looser one never reaches what
 * has begun. Source: handbook 1.3, 3.3.
 */
export async function acidLimitFor(reader: Reader): Promise<(lot: LimitedLot) => number> {
  const { acidLimit: now } = await loadHouse(reader);
  const set = await limitsSet(reader);
  return ({ begunSeq, rules }) => {
    const begun =
      rules?.['acidLimit'] === undefined
        ? (set.findLast(({ seq }) => seq <= begunSeq)?.limit ?? now)
        : effectsOf(rules).acidLimit;
    return Math.min(begun, now, ...set.filter(({ seq }) => seq > begunSeq).map(({ limit }) => limit));
  };
}

/** The same of some lots, by their id. */
export async function acidLimitsOf(reader: Reader, lotIds: readonly string[]): Promise<ReadonlyMap<string, number>> {
  const of = await acidLimitFor(reader);
  const found = await rows<{ id: string; begunSeq: string; rules: Record<string, string> | null }>(
    reader,
    sql`
    select l.id, coalesce(b.seq, l.seq) as "begunSeq", b.rules from lot l left join lot b on b.id = l.batch_id where l.id = ${anyOf(lotIds)}`,
  );
  return new Map(found.map(({ id, begunSeq, rules }) => [id, of({ begunSeq: Number(begunSeq), rules })]));
}

import type { EntryOf, RuleHistoryReply } from '@clear-tally/contract';
import { HOUSE_RULES } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';

/** How a question of the house was answered over time, from the journal. */
export async function readRuleHistory(reader: Reader, rule: string): Promise<RuleHistoryReply> {
  const written = await rows<{ at: Date; by: string; entry: string }>(
    reader,
    sql`
    select j.happened_at as at, p.initials as by, j.entry from journal j join person p on p.id = j.by where j.kind = 'house.rule' order by j.seq desc`,
  );
  const found = written
    .map(({ entry, ...row }) => ({ ...row, ...(JSON.parse(entry) as EntryOf<'house.rule'>).body }))
    .filter((row) => row.rule === rule)
    .slice(0, 100);
  const options = HOUSE_RULES.find(({ key }) => key === rule)?.options ?? [];
  return {
    answers: found.map((row) => ({
      at: new Date(row.at).toISOString(),
      by: row.by,
      words: options.find(({ key }) => key === row.option)?.words ?? row.option,
      reason: row.reason,
    })),
  };
}

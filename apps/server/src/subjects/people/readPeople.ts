import type { PeopleReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { RULES_PERSON } from '../../journal/rulesPerson.js';

/** Everybody of the house: who signs in where, and who has left. */
export async function readPeople(reader: Reader): Promise<PeopleReply['people']> {
  const found = await rows<{
    id: string;
    name: string;
    initials: string;
    role: PeopleReply['people'][number]['role'];
    leftAt: Date | null;
    lastDay: string | null;
    hasPin: boolean;
    signedIn: number;
    devices: number;
    trainings: PeopleReply['people'][number]['trainings'];
  }>(
    reader,
    sql`
    select p.id, p.name, p.initials, p.role, p.left_at as "leftAt", p.last_day::text as "lastDay", c.person_id is not null as "hasPin",
      (select count(*)::int from sign_in s where s.person_id = p.id and s.expires_at > now()) as "signedIn", (select count(*)::int from known_device d where d.person_id = p.id) as devices,
      coalesce((select jsonb_agg(jsonb_build_object('id', t.id, 'task', t.task, 'words', t.words, 'taughtBy', t.taught_by, 'on', t.on_day, 'until', t.until_day) order by t.on_day desc, t.seq desc) from training t where t.person_id = p.id), '[]') as trainings
    from person p left join credential c on c.person_id = p.id where p.id <> ${RULES_PERSON.personId} order by p.left_at is not null, p.name`,
  );
  return found.map((row) => ({ ...row, leftAt: row.leftAt?.toISOString() ?? null }));
}

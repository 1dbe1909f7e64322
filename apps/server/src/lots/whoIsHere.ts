import { type SQL, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { once } from '../db/once.js';
import { RULES_PERSON } from '../journal/rulesPerson.js';

/** Of `person`: somebody who works here today. Who has left does not, and the house's rules only sign entries. */
export const IS_HERE: SQL = sql`left_at is null and id <> ${RULES_PERSON.personId}`;

/** Whether somebody else than this person may review in this house; of nobody in particular (an empty id), whether anybody. */
export const hasOtherReviewer = (reader: Reader, personId: string): Promise<boolean> =>
  once(reader, `a reviewer beside ${personId}`, async () => {
    const [found] = await rows<{ any: boolean }>(
      reader,
      sql`select exists (select 1 from person where role = 'owner' and id::text <> ${personId} and ${IS_HERE}) as any`,
    );
    return found!.any;
  });

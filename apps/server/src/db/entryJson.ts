import { type SQL, sql } from 'drizzle-orm';

/** `\u0000` and one half of a pair, as text spells them: valid JSON, which this database's jsonb refuses to hold. */
const UNHELD = String.raw`(?<!\\)((\\\\)*)\\u(0000|[dD][89a-fA-F][0-9a-fA-F]{2})`;

/**
 * An entry's text as jsonb, where a statement looks into it. The book keeps what was sent, letter by letter; a letter that
 * jsonb cannot hold is left out of what is looked at, so that one such entry never stops a page that only passes by it.
 * @param text an expression of the entry's text, e.g. sql`j.entry`
 */
export const entryJson = (text: SQL): SQL => sql`regexp_replace(${text}, ${sql.raw(`'${UNHELD}'`)}, '\\1', 'g')::jsonb`;

import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';

/** Two stays in one vessel, one after the other, with no cleaning between them. */
export interface Uncleaned {
  readonly from: string;
  readonly to: string;
  readonly vesselTag: string;
  /** When the second was filled. */
  readonly at: Date;
}

/** Nobody cleaned the vessel between these two. Source: handbook 5.3, carry-over. */
const nobodyCleaned = sql`
  not exists (select 1 from cleaning c where c.vessel_id = f.vessel_id and c.at between coalesce(f.closed_at, f.at) and n.at)`;

/** What was filled next into the vessels of these, where nobody cleaned them in between. */
export const uncleanedAfter = (reader: Reader, lotIds: readonly string[]): Promise<Uncleaned[]> =>
  rows<Uncleaned>(
    reader,
    sql`
    select f.id as "from", n.id as "to", v.tag as "vesselTag", n.at from lot f join lateral (
      select id, at from lot where kind = 'fill' and vessel_id = f.vessel_id and undone_seq is null and (at, seq) > (f.at, f.seq) order by at, seq limit 1
    ) n on true join vessel v on v.id = f.vessel_id
    where f.id = ${anyOf(lotIds)} and f.kind = 'fill' and ${nobodyCleaned}`,
  );

/** What stood in the vessels of these before them, where nobody cleaned them in between. */
export const uncleanedBefore = (reader: Reader, lotIds: readonly string[]): Promise<Uncleaned[]> =>
  rows<Uncleaned>(
    reader,
    sql`
    select f.id as "from", n.id as "to", v.tag as "vesselTag", n.at from lot n join lateral (
      select id, at, seq, vessel_id, closed_at from lot where kind = 'fill' and vessel_id = n.vessel_id and undone_seq is null and (at, seq) < (n.at, n.seq) order by at desc, seq desc limit 1
    ) f on true join vessel v on v.id = n.vessel_id
    where n.id = ${anyOf(lotIds)} and n.kind = 'fill' and ${nobodyCleaned}`,
  );

import {
  ALLERGENS,
  CLAIM_REASONS,
  labelClaims,
  type NamedMaterial,
  type ReleaseInput,
  undecidedAllergens,
} from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { lot } from '../db/schema/ledger.js';
import { openHolds } from './openHolds.js';
import type { RunStanding } from './runs.js';
import { walkBack, walkForward } from './walk.js';

type OpenHolds = ReleaseInput['holds'][number][];

/** Open holds on each of these lots, on everything that went into it, and on what came of it. */
export async function holdsAlong(reader: Reader, lotIds: readonly string[]): Promise<Map<string, OpenHolds>> {
  if (lotIds.length === 0) return new Map();
  const found = await rows<{ root: string; id: string; code: string }>(
    reader,
    sql`
    select r.id as root, l.id, l.code from lot r cross join lateral (
      select r.id union select w."from" from (${walkBack(sql`r.id`)}) w
      union select w."to" from (${walkForward(sql`r.id`)}) w where w."to" is not null) along join lot l on l.id = along.id
    where r.id = ${anyOf(lotIds)}`,
  );
  const open = await openHolds(reader, [...new Set(found.map(({ id }) => id))]);
  const codes = new Map(found.map(({ id, code }) => [id, code]));
  const along = groupBy(found, ({ root }) => root);
  return new Map(
    lotIds.map((root) => {
      const own = new Set((along.get(root) ?? []).map(({ id }) => id));
      const holds = [...open].filter(([id]) => own.has(id));
      return [root, holds.flatMap(([id, all]) => all.map(({ reason }) => ({ code: codes.get(id)!, reason })))];
    }),
  );
}

type Labelled = Pick<RunStanding, 'lotId' | 'origin'>;

/** What nobody has said yet of what went into each of these lots, and a label would have to say. */
export async function labelLacksOf(reader: Reader, lots: readonly Labelled[]): Promise<Map<string, string[]>> {
  const made = lots.filter(({ origin }) => origin !== 'beforeLedger').map(({ lotId }) => lotId);
  const found = await rows<
    Pick<NamedMaterial, 'name' | 'allergens'> & { root: string; details: Partial<NamedMaterial> }
  >(
    reader,
    sql`
    select distinct r.id as root, x.name, x.allergens, x.details from lot r cross join lateral (${walkBack(sql`r.id`)}) w
      join lot l on l.id = w."from" join material x on x.id = l.material_id where r.id = ${anyOf(made)} order by x.name`,
  );
  const went = groupBy(found, ({ root }) => root);
  const named = await reader
    .select({ id: lot.id, name: lot.name })
    .from(lot)
    .where(sql`${lot.id} = ${anyOf(lots.map(({ lotId }) => lotId))}`);
  const claims = new Map(
    named.map(({ id, name }) => [
      id,
      labelClaims(name).map(({ words, why }) => `“${words}” in its name: ${CLAIM_REASONS[why]}`),
    ]),
  );
  return new Map(
    lots.map(({ lotId, origin }) => [
      lotId,
      [
        ...(claims.get(lotId) ?? []),
        ...(origin === 'beforeLedger'
          ? ['from before these records: what went in is not known']
          : (went.get(lotId) ?? []).flatMap(({ details, name, allergens }) =>
              undecidedAllergens({ ...details, name, allergens }).map(
                (key) => `${name}: ${ALLERGENS[key].words}, yes or no?`,
              ),
            )),
      ],
    ]),
  );
}

export const labelLacks = async (reader: Reader, of: Labelled): Promise<string[]> =>
  (await labelLacksOf(reader, [of])).get(of.lotId)!;

import { decideDonor, decideStarterAge, KEPT_BRINE } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { house } from '../db/schema/house.js';
import { happened } from '../journal/asItHappened.js';
import { must, refused } from '../journal/refused.js';
import type { LotRow } from './lots.js';
import { houseDay } from './pastDate.js';
import { acidLimitsOf } from './acidLimits.js';
import { phPoints, type ReadPoint } from './readings.js';
import { openHolds } from './openHolds.js';

/** What begins a ferment when it is added: of another vessel, kept, woken, or bought; of lot `s` and its material `x`. */
export const BEGINS = sql`(s.kind = 'fill' or s.form in ('keptBrine', 'starterLiquor', 'culture') or x.kind = 'starter')`;

type Fill = Pick<LotRow, 'id' | 'code'>;

type Kept = Pick<LotRow, 'id' | 'code' | 'useBy'>;

interface Started {
  readonly fill: string;
  readonly starter: string;
  readonly kind: string;
  readonly generation: number | null;
}

/** All that is asked of brines and vessels before they start others, for many of them at once. */
export interface StarterBook {
  readonly acidLimits: ReadonlyMap<string, number>;
  readonly mostGenerations: number;
  readonly today: string;
  /** What the batch of each vessel was started with. */
  readonly startedWith: ReadonlyMap<string, readonly Started[]>;
  /** The vessels each kept brine was taken from. */
  readonly donors: ReadonlyMap<string, readonly Fill[]>;
  readonly holds: ReadonlyMap<string, string>;
  readonly points: ReadonlyMap<string, readonly ReadPoint[]>;
}

/** Starters of starters are followed no further than this: two vessels may have given to each other. */
const DEEPEST = 20;

export async function starterBook(reader: Reader, lotIds: readonly string[], at: Date): Promise<StarterBook> {
  const [of] = await reader.select().from(house);
  const taken = await rows<{ kept: string; id: string; code: string }>(
    reader,
    sql`
    select distinct m.to_lot as kept, l.id, l.code from live_movement m join lot l on l.id = m.from_lot and l.kind = 'fill' join lot k on k.id = m.to_lot and k.form = 'keptBrine' where m.to_lot = ${anyOf(lotIds)}`,
  );
  const all = [...new Set([...lotIds, ...taken.map(({ id }) => id)])];
  const started = await rows<Started>(
    reader,
    sql`
    with recursive up(fill, batch_id, depth) as (
      select id, batch_id, 0 from lot where id = ${anyOf(all)} and kind = 'fill'
      union select s.id, s.batch_id, u.depth + 1 from up u join live_movement m on m.to_lot = u.batch_id and m.kind = 'ingredient.add' join lot s on s.id = m.from_lot and s.kind = 'fill' where u.depth <= ${DEEPEST}
    )
    select distinct u.fill, s.id as starter, s.kind, s.generation from up u join live_movement m on m.to_lot = u.batch_id and m.kind = 'ingredient.add' join lot s on s.id = m.from_lot and (s.kind = 'fill' or s.form = 'keptBrine')`,
  );
  const held = await openHolds(reader, all);
  return {
    acidLimits: await acidLimitsOf(reader, all),
    mostGenerations: of!.settings.keptBrineGenerations ?? KEPT_BRINE.generations,
    today: await houseDay(reader, at),
    startedWith: groupBy(started, (row) => row.fill),
    donors: groupBy(taken, (row) => row.kept),
    holds: new Map(
      [...held].map(([lotId, open]) => [lotId, [...new Set(open.map(({ reason }) => reason))].join('; ')]),
    ),
    points: await phPoints(reader, all),
  };
}

/** How many batches of kept brine stand behind a vessel; 0 for one that began wild. */
function generationIn(book: StarterBook, fillId: string, depth = 0): number {
  if (depth > DEEPEST) return 0;
  return Math.max(
    0,
    ...(book.startedWith.get(fillId) ?? []).map((starter) =>
      starter.kind === 'fill' ? generationIn(book, starter.starter, depth + 1) + 1 : (starter.generation ?? 1),
    ),
  );
}

/** A vessel that gives brine: not held, its pH read and low enough, not too many generations down. */
export function donorIn(book: StarterBook, fill: Fill): number {
  const donor = {
    code: fill.code,
    onHold: book.holds.get(fill.id) ?? null,
    points: [...(book.points.get(fill.id) ?? [])],
    generation: generationIn(book, fill.id),
  };
  return must(decideDonor({ donor, acidLimit: book.acidLimits.get(fill.id)!, mostGenerations: book.mostGenerations }))
    .generation;
}

/** Kept brine at its use: in date, and every vessel it was taken from still fit to give. */
export function refuseTiredIn(book: StarterBook, kept: Kept): void {
  must(decideStarterAge({ code: kept.code, useBy: kept.useBy, today: book.today }));
  for (const fill of book.donors.get(kept.id) ?? []) {
    const held = book.holds.get(fill.id);
    if (held)
      throw refused(
        'lot.onHold',
        `${kept.code} was taken from ${fill.code}, which is on hold: ${held}. It starts nothing until the hold is lifted.`,
        { field: 'fromLotId' },
      );
    donorIn(book, fill);
  }
}

export async function donorGeneration(reader: Reader, fill: LotRow, at = new Date(0)): Promise<number> {
  const book = await starterBook(reader, [fill.id], at);
  return happened(reader) ? generationIn(book, fill.id) + 1 : donorIn(book, fill);
}

export const refuseTiredStarter = async (reader: Reader, kept: LotRow, at: Date): Promise<void> =>
  refuseTiredIn(await starterBook(reader, [kept.id], at), kept);

export const generationOf = async (reader: Reader, fill: LotRow): Promise<number> =>
  generationIn(await starterBook(reader, [fill.id], new Date(0)), fill.id);

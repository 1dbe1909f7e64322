import {
  type ContentMovement,
  type Contents,
  contentsOf,
  NOTHING_IN,
  type SaltFigure,
  saltFigure,
  type SupplyContents,
  takesOf,
} from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { toGrams } from '../db/schema/columns.js';

interface MovementRow {
  id: string;
  at: Date;
  kind: string;
  from: string | null;
  to: string | null;
  sink: string | null;
  mg: string;
  fromKind: string | null;
  leaves: string | null;
}

interface SupplyRow {
  id: string;
  water: string;
  salt: string;
  kind: string;
}

interface Ledger {
  readonly supplies: ReadonlyMap<string, SupplyContents>;
  readonly movements: readonly ContentMovement[];
  readonly vessels: ReadonlySet<string>;
}

/** Everything that ever came into these lots, through however many vessels; each lot once. */
async function ledgerOf(reader: Reader, lotIds: readonly string[]): Promise<Ledger> {
  const moved = await rows<MovementRow>(
    reader,
    sql`
    with recursive above as (
      select id from lot where id = ${anyOf(lotIds)} and kind <> 'supply'
      union
      select l.id from above a join live_movement m on m.to_lot = a.id join lot l on l.id = m.from_lot and l.kind <> 'supply'
    )
    , moved as (
      select m.* from above a join live_movement m on m.to_lot = a.id
      union select m.* from above a join live_movement m on m.from_lot = a.id
    )
    select m.id, m.at, m.kind, m.from_lot as "from", m.to_lot as "to", m.sink, m.milligrams as mg, (select f.kind from lot f where f.id = m.from_lot) as "fromKind",
      case when m.sink = 'rinse' then (select g.water_phase_salt from leaf_log g where g.entry_id = m.root_entry_id) end as leaves
    from moved m`,
  );
  const supplyIds = [
    ...new Set([...lotIds, ...moved.flatMap(({ from, fromKind }) => (fromKind === 'supply' ? [from!] : []))]),
  ];
  const found = await rows<SupplyRow>(
    reader,
    sql`
    select l.id, x.water_fraction as water, x.salt_fraction as salt, x.kind from lot l join material x on x.id = l.material_id where l.id = ${anyOf(supplyIds)} and l.kind = 'supply'`,
  );
  const movements = moved.map(({ id, at, kind, from, to, sink, mg, fromKind, leaves }): ContentMovement => ({
    at: new Date(at).getTime(),
    order: Number(id),
    from,
    to,
    grams: toGrams(mg),
    takes: takesOf({ kind, sink, fromVessel: fromKind === 'fill' }),
    leavesSalt: leaves === null ? null : Number(leaves),
  }));
  return {
    supplies: new Map(
      found.map(({ id, water, salt, kind }): [string, SupplyContents] => [
        id,
        { waterFraction: Number(water), saltFraction: Number(salt), vegetable: kind === 'produce' },
      ]),
    ),
    movements,
    vessels: new Set(moved.flatMap(({ from, fromKind }) => (fromKind === 'fill' && from ? [from] : []))),
  };
}

const ofSupply = (supply: SupplyContents): Contents => ({
  grams: 1,
  waterGrams: supply.waterFraction,
  saltGrams: supply.saltFraction,
  vegetableGrams: supply.vegetable ? 1 : 0,
  known: true,
});

/**
 * What stands in each of these lots, by the movements up to a moment: the one place where the server reckons salt and
 * water. Book, filling, top-up, guide, starters, kept brine and papers read it here.
 */
export async function loadContents(
  reader: Reader,
  lotIds: readonly string[],
  until?: Date,
): Promise<Map<string, Contents>> {
  if (lotIds.length === 0) return new Map();
  const { supplies, movements } = await ledgerOf(reader, lotIds);
  const standing = contentsOf({ supplies, movements, until: until?.getTime() });
  return new Map(
    lotIds.map((id) => [id, supplies.has(id) ? ofSupply(supplies.get(id)!) : (standing.get(id) ?? NOTHING_IN)]),
  );
}

/**
 * What each of these lots is made of, as it was before anything was taken from it: its strength for whoever used it up.
 * Of a vessel it is the brine.
 */
export async function loadMade(reader: Reader, lotIds: readonly string[]): Promise<Map<string, Contents>> {
  if (lotIds.length === 0) return new Map();
  const { supplies, movements, vessels } = await ledgerOf(reader, lotIds);
  return new Map(
    lotIds.map((id) => {
      if (supplies.has(id)) return [id, ofSupply(supplies.get(id)!)];
      const made =
        contentsOf({
          supplies,
          movements: movements.filter(({ from, takes }) => from !== id || takes === 'water' || takes === 'rinse'),
        }).get(id) ?? NOTHING_IN;
      return [id, vessels.has(id) ? { ...made, grams: made.waterGrams + made.saltGrams, vegetableGrams: 0 } : made];
    }),
  );
}

export const contentsIn = async (reader: Reader, lotId: string, until?: Date): Promise<Contents> =>
  (await loadContents(reader, [lotId], until)).get(lotId)!;

/** The salt of a lot on every scale. */
export const saltOf = async (reader: Reader, lotId: string, until?: Date): Promise<SaltFigure> =>
  saltFigure(await contentsIn(reader, lotId, until));

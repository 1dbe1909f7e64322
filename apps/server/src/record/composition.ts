import { sql } from 'drizzle-orm';
import { rows, type Reader } from '../db/database.js';
import { toGrams } from '../db/schema/index.js';

/** Salt and water in a gram of it. */
export interface Composition {
  readonly waterFraction: number;
  readonly saltFraction: number;
}

interface PartRow { toLot: string; fromLot: string; kind: string; mg: string; waterFraction: string | null; saltFraction: string | null }
interface LossRow { lot: string; sink: string; mg: string; seq: string; measured: string | null }

const NOTHING: Composition = { waterFraction: 0, saltFraction: 0 };

/**
 * What a lot is made of, from the movements into it: a supply by its material, a preparation, bowl or vessel by
 * what went in. What was taken off a vessel is its brine, so it has the salt of the vessel's water phase. Salt
 * that a rinse took off is told by what was measured on the drained leaf.
 */
export async function compositionOf(reader: Reader, lotId: string): Promise<Composition> {
  const parts = await rows<PartRow>(reader, sql`
    with recursive into_it as (
      select m.to_lot, m.from_lot, m.kind, m.milligrams, 1 as depth from live_movement m where m.to_lot = ${lotId} and m.from_lot is not null
      union
      select m.to_lot, m.from_lot, m.kind, m.milligrams, i.depth + 1 from live_movement m join into_it i on m.to_lot = i.from_lot where m.from_lot is not null and i.depth < 12
    )
    select i.to_lot as "toLot", i.from_lot as "fromLot", l.kind, sum(distinct_mg.mg) as mg, x.water_fraction as "waterFraction", x.salt_fraction as "saltFraction"
    from (select distinct to_lot, from_lot from into_it) i
    join lot l on l.id = i.from_lot left join material x on x.id = l.material_id
    join lateral (select sum(m.milligrams) as mg from live_movement m where m.to_lot = i.to_lot and m.from_lot = i.from_lot) distinct_mg on true
    group by 1, 2, 3, 5, 6`);
  const lots = [...new Set([lotId, ...parts.map((part) => part.toLot)])];
  const lost = await rows<LossRow>(reader, sql`
    select m.from_lot as lot, m.sink, m.milligrams as mg, m.seq, g.water_phase_salt as measured from live_movement m left join leaf_log g on g.entry_id = m.root_entry_id
    where m.from_lot in ${lots} and m.sink in ('evaporation', 'rinse')`);
  const kinds = new Map(parts.map((part) => [part.fromLot, part.kind]));
  const own = await rows<{ kind: string; waterFraction: string | null; saltFraction: string | null }>(reader, sql`
    select l.kind, x.water_fraction as "waterFraction", x.salt_fraction as "saltFraction" from lot l left join material x on x.id = l.material_id where l.id = ${lotId}`);
  const of = (id: string, above: ReadonlySet<string>): Composition => {
    const supply = id === lotId ? own[0] : parts.find((part) => part.fromLot === id);
    if (supply && supply.waterFraction !== null) return { waterFraction: Number(supply.waterFraction), saltFraction: Number(supply.saltFraction) };
    if (above.has(id)) return NOTHING;
    const inside = new Set([...above, id]);
    let [grams, water, salt] = [0, 0, 0];
    for (const part of parts.filter(({ toLot }) => toLot === id)) {
      const mass = toGrams(part.mg);
      const made = of(part.fromLot, inside);
      // Out of a vessel comes its brine; out of a bowl, the mix.
      const wet = made.waterFraction + made.saltFraction;
      const as = kinds.get(part.fromLot) === 'fill' && wet > 0 ? { waterFraction: made.waterFraction / wet, saltFraction: made.saltFraction / wet } : made;
      grams += mass;
      water += mass * as.waterFraction;
      salt += mass * as.saltFraction;
    }
    for (const loss of lost.filter(({ lot }) => lot === id)) {
      const gone = toGrams(loss.mg);
      grams -= gone;
      if (loss.sink === 'evaporation') water -= gone;
      else {
        // A rinse takes water and salt. What of the water phase stays has the salt that was measured, or estimated, at draining.
        const phase = Math.max(0, salt + water - gone);
        salt = phase * Number(loss.measured ?? (salt + water > 0 ? salt / (salt + water) : 0));
        water = phase - salt;
      }
    }
    return grams > 0 ? { waterFraction: Math.max(0, water) / grams, saltFraction: Math.max(0, salt) / grams } : NOTHING;
  };
  return of(lotId, new Set());
}

/** Salt in the water phase of a lot. */
export async function waterPhaseOf(reader: Reader, lotId: string): Promise<number> {
  const { waterFraction, saltFraction } = await compositionOf(reader, lotId);
  return waterFraction + saltFraction === 0 ? 0 : saltFraction / (waterFraction + saltFraction);
}

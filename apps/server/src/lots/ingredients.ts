import { ALLERGENS, type Allergen, type LabelIngredient } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { lotBalance } from '../db/schema/ledger.js';
import { toGrams } from '../db/schema/columns.js';
import { lotAllergens } from './lotAllergens.js';

interface Came {
  from: string;
  kind: string;
  form: string | null;
  batchId: string | null;
  name: string;
  grams: number;
  materialName: string | null;
  materialKind: string | null;
  standsFor: string | null;
  allergens: string[] | null;
  mayContain: string[] | null;
}

/** No recipe is nested deeper than this. */
const DEEPEST = 12;

/**
 * What a run is made of, by material and mass as it was weighed in; pastes and brines made for it are taken apart, brine
 * of another batch stays one ingredient that carries its allergens. Packaging and steps are none.
 */
export async function ingredientsOf(
  reader: Reader,
  run: { readonly lotId: string; readonly batchId: string },
): Promise<LabelIngredient[]> {
  const found = new Map<string, LabelIngredient>();
  await gather(reader, { lotId: run.lotId, batchId: run.batchId, share: 1, deep: 0 }, found);
  return [...found.values()].sort((a, b) => b.grams - a.grams);
}

/** What a house calls its water and salts is its own affair. */
const PLAIN: Readonly<Record<string, string>> = { water: 'Water', salt: 'Salt' };

const inWords = (keys: readonly string[]): string[] => keys.map((key) => ALLERGENS[key as Allergen]?.words ?? key);

async function gather(
  reader: Reader,
  of: { lotId: string; batchId: string; share: number; deep: number },
  found: Map<string, LabelIngredient>,
): Promise<void> {
  if (of.deep > DEEPEST) return;
  const came = await rows<Came>(
    reader,
    sql`
    select l.id as "from", l.kind, l.form, l.batch_id as "batchId", l.name, sum(m.milligrams)::float / 1000 as grams,
      x.name as "materialName", x.kind as "materialKind", x.details->>'standsFor' as "standsFor", x.allergens, x.details->'mayContain' as "mayContain"
    from live_movement m join lot l on l.id = m.from_lot left join material x on x.id = l.material_id
    where m.to_lot = ${of.lotId} group by l.id, x.id`,
  );
  for (const one of came) {
    const grams = one.grams * of.share;
    if (one.kind === 'supply') {
      if (one.materialKind === 'packaging') continue;
      const name = PLAIN[one.materialKind!] ?? one.materialName!;
      add(found, {
        key: name,
        name,
        grams,
        allergens: inWords(one.allergens ?? []),
        mayContain: inWords(one.mayContain ?? []),
        carried: false,
      });
    } else if (
      (one.kind === 'fill' && one.batchId !== of.batchId) ||
      one.standsFor === 'keptBrine' ||
      one.form === 'keptBrine'
    ) {
      const carried = await lotAllergens(reader, one.from);
      add(found, {
        key: 'kept brine',
        name: 'Kept brine',
        grams,
        allergens: carried.filter(({ certain }) => certain).map(({ words }) => words),
        mayContain: carried.filter(({ certain }) => !certain).map(({ words }) => words),
        carried: true,
      });
    } else {
      const [came] = await reader
        .select({ mg: lotBalance.inMilligrams })
        .from(lotBalance)
        .where(eq(lotBalance.lotId, one.from));
      const total = toGrams(came?.mg ?? 0);
      if (total > 0)
        await gather(
          reader,
          { lotId: one.from, batchId: of.batchId, share: of.share * (one.grams / total), deep: of.deep + 1 },
          found,
        );
    }
  }
}

function add(found: Map<string, LabelIngredient>, { key, ...one }: LabelIngredient & { key: string }): void {
  const before = found.get(key);
  found.set(key, {
    ...one,
    grams: one.grams + (before?.grams ?? 0),
    allergens: [...new Set([...(before?.allergens ?? []), ...one.allergens])],
    mayContain: [...new Set([...(before?.mayContain ?? []), ...one.mayContain])],
  });
}

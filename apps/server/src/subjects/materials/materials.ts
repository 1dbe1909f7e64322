import type { BodyOf } from '@clear-tally/contract';
import { countsAs, decideAllergens, looksRed } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { material } from '../../db/schema/stores.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';

type Row = Omit<BodyOf<'material.add'>, 'materialId'>;
type Details = typeof material.$inferSelect.details;

/** What a name speaks of is confirmed or denied by a person, before anything of it goes into a bowl. */
function refuseUnsaidAllergens(row: Row): void {
  if (row.kind !== 'packaging') must(decideAllergens({ name: row.name, allergens: row.allergens, ...row.details }));
}

/** As it is kept: what it counts as, and whether it brings a red of its own, as somebody said or as its name does. */
function kept(row: Row, details: Details): Row & { details: Details } {
  const { purity, ...make } = countsAs(row.kind, { ...row, purity: details.purity });
  return {
    ...row,
    ...make,
    details: {
      ...details,
      ...(purity !== null && details.purity == null ? { purity } : {}),
      red: details.red ?? looksRed(row.name),
    },
  };
}

export const materialAdd = kind('material.add', {
  who: 'owner',
  words: 'Material added',
  does: 'the house is set up',
  makes: 'materialId',
  correct: 'book',
  record: async ({ tx, body }) => {
    const { materialId, ...row } = body;
    refuseUnsaidAllergens(row);
    await tx.insert(material).values({ id: materialId, ...kept(row, row.details ?? {}) });
    return {};
  },
  line: ({ entry }) => ({ what: 'Material added', words: entry.body.name }),
});

/** Properties change as more is known; a material's kind does not, because lots stand under it. */
export const materialChange = kind('material.change', {
  who: 'owner',
  words: 'Material changed',
  does: 'what is known of a material now; its kind stays',
  correct: 'book',
  record: async ({ tx, body }) => {
    const { materialId, ...row } = body;
    const [known] = await tx.select().from(material).where(eq(material.id, materialId));
    if (!known)
      throw refused('material.unknown', 'This material is not known in this house. Add it first.', {
        field: 'materialId',
      });
    if (known.kind !== row.kind)
      throw refused(
        'lot.wrongKind',
        `${known.name} is ${known.kind}, and stays so: its lots are kept under that. Add another material instead.`,
        { field: 'kind' },
      );
    refuseUnsaidAllergens({ ...row, details: row.details ?? known.details });
    await tx
      .update(material)
      .set(kept(row, row.details ?? known.details))
      .where(eq(material.id, materialId));
    return {};
  },
  line: ({ entry }) => ({ what: 'Material changed', words: entry.body.name }),
});

import type { BodyOf } from '@clear-tally/contract';
import { checkSaltFraction, HOUSE_RULES, outsideScope, CLAIM_REASONS, labelClaims } from '@clear-tally/core';
import { desc, eq, inArray } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { formula, formulaState, material } from '../../db/schema/stores.js';
import { isReplay } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';

/** A change makes a new version; batches keep theirs. A formula is kept with its holes. */
export const formulaSave = kind('formula.save', {
  who: 'owner',
  words: 'Formula saved',
  does: 'a version of a formula, also with holes; a change is a new version',
  correct: { never: 'Batches keep the version they were made by. Save a new version with what is right.' },
  record: async ({ tx, body, entry, at }) => {
    if (body.saltBasis !== null && body.saltFraction !== null)
      must(checkSaltFraction({ basis: body.saltBasis, saltFraction: body.saltFraction }));
    const shares = body.produce.reduce((sum, part) => sum + part.share, 0);
    if (Math.abs(shares - 1) > 1e-6) {
      const hint = Math.abs(shares - 100) < 1e-6 ? ' These look like per cent: 60 % is the fraction 0.6.' : '';
      throw refused(
        'fraction.percentTyped',
        `The shares of the produce add up to ${shares}. They are fractions that add up to 1.${hint}`,
        { field: 'produce' },
      );
    }
    if (body.saltBasis !== null && body.saltBasis !== 'ofVegetable' && body.waterPerProduce === 0) {
      throw refused(
        'formula.hole',
        'Salt is counted on water here, but the formula pours none. Give the water per produce, or salt the vegetable.',
        { field: 'waterPerProduce' },
      );
    }
    await refuseUnknownMaterials(tx, body);
    refuseUnknownNames(body);
    // Its name is what its jars are called.
    const [claim] = isReplay(tx) ? [] : labelClaims(body.name);
    if (claim)
      throw refused('label.claim', `“${claim.words}” was given in its name; ${CLAIM_REASONS[claim.why]}.`, {
        field: 'name',
      });
    const [last] = await tx
      .select()
      .from(formula)
      .where(eq(formula.formulaId, body.formulaId))
      .orderBy(desc(formula.version))
      .limit(1);
    const next = (last?.version ?? 0) + 1;
    if (body.version !== next) {
      throw refused(
        'name.taken',
        `Version ${body.version} was given; the next version of this formula is ${next}. Somebody may have saved it meanwhile: look at the newest first.`,
        { field: 'version', facts: { next } },
      );
    }
    await tx.insert(formula).values({
      formulaId: body.formulaId,
      version: body.version,
      number: body.number,
      name: body.name,
      data: body,
      savedAt: at,
      by: entry.by,
    });
    return {};
  },
  line: ({ entry }) => ({ what: 'Formula saved', words: `${entry.body.name}, version ${entry.body.version}` }),
});

async function refuseUnknownMaterials(tx: Transaction, body: BodyOf<'formula.save'>): Promise<void> {
  const wanted = new Set([
    ...[...body.produce, ...body.lines].map((line) => line.materialId),
    ...(body.saltMaterialId ? [body.saltMaterialId] : []),
  ]);
  const known = await tx
    .select({ id: material.id, kind: material.kind, details: material.details })
    .from(material)
    .where(inArray(material.id, [...wanted]));
  if (known.length < wanted.size)
    throw refused(
      'material.unknown',
      'A line names a material that is not known in this house. Add the material first.',
      { field: 'lines' },
    );
  const main = new Set(body.produce.map((part) => part.materialId));
  const why = outsideScope({
    makes: body.makes,
    groups: known.filter((row) => main.has(row.id)).map((row) => row.details.group),
  });
  if (why && (body.checks?.length ?? 0) > 0) throw refused('formula.outsideScope', why, { field: 'checks' });
}

function refuseUnknownNames(body: BodyOf<'formula.save'>): void {
  for (const line of body.lines) {
    const strange = line.variants?.find((name) => !body.variants?.includes(name));
    if (strange)
      throw refused(
        'formula.hole',
        `A line belongs to the variant “${strange}”, which this formula does not have. Add the variant, or put the line into all of them.`,
        { field: 'lines' },
      );
  }
  for (const [key, chosen] of Object.entries(body.rules ?? {})) {
    const rule = HOUSE_RULES.find((one) => one.key === key && one.byFormula);
    if (!rule?.options.some((one) => one.key === chosen))
      throw refused(
        'rule.unknown',
        `“${key}: ${chosen}” is no choice a formula can make. Choose from the list of house rules.`,
        { field: 'rules' },
      );
  }
}

export const formulaRetire = kind('formula.retire', {
  who: 'owner',
  words: 'Formula retired',
  does: 'out of use, or back',
  correct: 'book',
  record: async ({ tx, body, seq }) => {
    const [known] = await tx
      .select({ name: formula.name })
      .from(formula)
      .where(eq(formula.formulaId, body.formulaId))
      .limit(1);
    if (!known) throw refused('formula.unknown', 'This formula is not in the book.', { field: 'formulaId' });
    const { formulaId, retired, reason } = body;
    await tx
      .insert(formulaState)
      .values({ formulaId, retired, reason, seq })
      .onConflictDoUpdate({ target: formulaState.formulaId, set: { retired, reason, seq } });
    return { facts: { name: known.name } };
  },
  line: ({ entry, facts }) => ({
    what: entry.body.retired ? 'Formula retired' : 'Formula in use again',
    words: [facts['name'], entry.body.reason].filter(Boolean).join(' · '),
  }),
});

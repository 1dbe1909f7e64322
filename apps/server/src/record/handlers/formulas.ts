import { desc, eq, inArray } from 'drizzle-orm';
import { checkSaltFraction } from '@clear-tally/core';
import { formula, material } from '../../db/schema/index.js';
import { must, refused } from '../refused.js';
import type { Handler } from '../handler.js';

/** A change makes a new version; batches keep theirs. */
export const formulaSave: Handler<'formula.save'> = async ({ tx, body }) => {
  must(checkSaltFraction({ basis: body.saltBasis, saltFraction: body.saltFraction }));
  const shares = body.produce.reduce((sum, part) => sum + part.share, 0);
  if (Math.abs(shares - 1) > 1e-6) {
    const hint = Math.abs(shares - 100) < 1e-6 ? ' These look like per cent: 60 % is the fraction 0.6.' : '';
    throw refused('fraction.percentTyped', `The shares of the produce add up to ${shares}. They are fractions that add up to 1.${hint}`, { field: 'produce' });
  }
  if (body.saltBasis !== 'ofVegetable' && body.waterPerProduce === 0) {
    throw refused('formula.hole', 'Salt is counted on water here, but the formula pours none. Give the water per produce, or salt the vegetable.', { field: 'waterPerProduce' });
  }
  const wanted = new Set([...body.produce, ...body.lines].map((line) => line.materialId));
  const known = await tx.select({ id: material.id }).from(material).where(inArray(material.id, [...wanted]));
  if (known.length < wanted.size) throw refused('formula.hole', 'A line names a material that is not known in this house. Add the material first.', { field: 'lines' });
  const [last] = await tx.select().from(formula).where(eq(formula.formulaId, body.formulaId)).orderBy(desc(formula.version)).limit(1);
  const next = (last?.version ?? 0) + 1;
  if (body.version !== next) {
    throw refused('name.taken', `Version ${body.version} was given; the next version of this formula is ${next}. Somebody may have saved it meanwhile: look at the newest first.`, { field: 'version', facts: { next } });
  }
  await tx.insert(formula).values({ formulaId: body.formulaId, version: body.version, number: body.number, name: body.name, data: body });
  return {};
};

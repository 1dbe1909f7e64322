import { meterFitness, slopeAndOffset } from '@clear-tally/core';
import { and, desc, eq, lt, lte } from 'drizzle-orm';
import { type Reader } from '../../db/database.js';
import { calibration, meter } from '../../db/schema/watching.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';

export const meterAdded = kind('meter.add', {
  who: 'owner',
  whoWords: 'owner adds, maker calibrates',
  words: 'Meter added',
  does: 'a meter or strip lot; its buffers, slope, offset, and a buffer read again',
  makes: 'meterId',
  correct: 'book',
  record: async ({ tx, body }) => {
    await tx.insert(meter).values({ id: body.meterId, tag: body.tag, name: body.name, kind: body.kind });
    return {};
  },
  line: ({ entry }) => ({ what: 'Meter added', words: entry.body.tag }),
});

export const meterCalibrated = kind('meter.calibrate', {
  who: 'maker',
  task: 'reading',
  whoWords: 'owner adds, maker calibrates',
  words: 'Meter calibrated',
  does: 'a meter or strip lot; its buffers, slope, offset, and a buffer read again',
  correct: 'meter',
  record: async ({ tx, entry, body, seq, at }) => {
    const [of] = await tx.select().from(meter).where(eq(meter.id, body.meterId));
    if (!of)
      throw refused('meter.unknown', 'This meter is not known in this house. Add it on the page of meters first.', {
        field: 'meterId',
      });
    if (of.kind === 'strips')
      throw refused('meter.buffers', `${of.tag} are strips: they are not calibrated, and never count for release.`, {
        field: 'meterId',
      });
    const { by } = body;
    if (by.how === 'buffers' && Math.abs(by.buffers[0].ph - by.buffers[1].ph) < 1) {
      throw refused(
        'meter.buffers',
        `Buffers ${by.buffers[0].ph} and ${by.buffers[1].ph} were given. Two buffers at least 1 pH apart are wanted, such as 7.00 and 4.01.`,
        { field: 'by' },
      );
    }
    const found = by.how === 'buffers' ? slopeAndOffset({ buffers: by.buffers, celsius: body.celsius }) : by;
    const buffers = by.how === 'buffers' ? by.buffers.map(({ ph }) => ph) : by.buffers;
    if (!(found.slopePercent > 0 && found.slopePercent < 400))
      throw refused(
        'meter.buffers',
        `These millivolts give a slope of ${found.slopePercent.toFixed(0)} %. Are the buffers swapped? The acid one gives the higher millivolts.`,
        { field: 'by' },
      );
    await tx.insert(calibration).values({
      entryId: entry.id,
      meterId: of.id,
      buffers,
      slopePercent: found.slopePercent,
      offsetMillivolts: found.offsetMillivolts,
      checkBuffer: body.check?.buffer ?? null,
      checkRead: body.check?.read ?? null,
      by: entry.by,
      at,
      seq,
    });
    const fitness = meterFitness({
      kind: of.kind,
      calibration: {
        at: at.getTime(),
        buffers,
        slopePercent: found.slopePercent,
        offsetMillivolts: found.offsetMillivolts,
        check: body.check,
      },
      at: at.getTime(),
    });
    return {
      facts: {
        slopePercent: Math.round(found.slopePercent * 10) / 10,
        offsetMillivolts: Math.round(found.offsetMillivolts * 10) / 10,
        fit: fitness.fit,
        reasons: fitness.reasons,
      },
    };
  },
  line: ({ entry, facts, code }) => ({
    what: `${code(entry.body.meterId)} calibrated`,
    words: [
      typeof facts['slopePercent'] === 'number' && `slope ${facts['slopePercent'].toFixed(1)} %`,
      facts['fit'] === false && `not fit: ${(facts['reasons'] as string[] | undefined)?.join('; ') ?? ''}`,
    ]
      .filter(Boolean)
      .join(' · '),
  }),
});

/**
 * Whether readings with this meter count for release at a moment, and why not. A calibration that was written down after
 * a reading vouches for none of before, whatever moment it is said of.
 * @param of.seq where in the journal the reading stands
 */
export async function fitnessOf(
  tx: Reader,
  meterId: string | null | undefined,
  { at, ph, seq }: { readonly at: Date; readonly ph: number; readonly seq: number },
): Promise<{ forRelease: boolean; unfit: string | null; tag: string | null }> {
  if (!meterId) return { forRelease: false, unfit: 'no meter named', tag: null };
  const [of] = await tx.select().from(meter).where(eq(meter.id, meterId));
  if (!of)
    throw refused('meter.unknown', 'This meter is not known in this house. Choose it from the list.', {
      field: 'meterId',
    });
  const [last] = await tx
    .select()
    .from(calibration)
    .where(and(eq(calibration.meterId, meterId), lte(calibration.at, at), lt(calibration.seq, seq)))
    .orderBy(desc(calibration.at), desc(calibration.seq))
    .limit(1);
  const fitness = meterFitness({
    kind: of.kind,
    at: at.getTime(),
    ph,
    calibration: last
      ? {
          at: last.at.getTime(),
          buffers: last.buffers,
          slopePercent: last.slopePercent,
          offsetMillivolts: last.offsetMillivolts,
          check: last.checkBuffer === null ? null : { buffer: last.checkBuffer, read: last.checkRead ?? Number.NaN },
        }
      : null,
  });
  return { forRelease: fitness.fit, unfit: fitness.fit ? null : fitness.reasons.join('; '), tag: of.tag };
}

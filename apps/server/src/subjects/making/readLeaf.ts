import type { MakeReply } from '@clear-tally/contract';
import { pasteSalt, type ScaledBatch } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import type { BatchState } from '../../lots/batchSalt.js';
import type { LotRow } from '../../lots/lots.js';
import type { ReadyFormula } from '../../lots/scalable.js';
import { firstSalted, leafEstimate } from './leafEstimate.js';

type Leaf = NonNullable<MakeReply['leaf']>;

/** The heavily salted leaf: what was done to it, where its salt stands by estimate and by measure, what the paste still wants. */
export async function readLeaf(
  reader: Reader,
  batch: LotRow,
  state: BatchState,
  ready: ReadyFormula,
  plan: ScaledBatch,
  now: Date,
): Promise<Leaf> {
  const heavy = state.formula.heavy!;
  const found = await rows<{
    entryId: string;
    what: Leaf['log'][number]['what'];
    at: Date;
    by: string;
    water: string | null;
    drained: string | null;
    salt: string | null;
    how: string | null;
    tasted: Leaf['log'][number]['tasted'];
  }>(
    reader,
    sql`
    select g.entry_id as "entryId", g.what, g.at, p.initials as by, g.water_milligrams as water, g.drained_milligrams as drained, g.water_phase_salt as salt, g.how, g.tasted
    from leaf_log g join person p on p.id = g.by where g.batch_id = ${batch.id} order by g.seq`,
  );
  const saltedAt = await firstSalted(reader, batch.id);
  const began = saltedAt && state.produceGrams > 0;
  const done = began ? await leafEstimate(reader, batch.id, state, now) : null;
  const { estimate, least, most, rinses, minutes } = done ?? {
    estimate: plan.heavy!.estimate,
    least: plan.heavy!.band.least,
    most: plan.heavy!.band.most,
    rinses: 0,
    minutes: 0,
  };
  const last = [...found].reverse().find((row) => row.salt !== null && row.how !== 'estimate');
  const drain = found.find((row) => row.what === 'drain');
  const leafSalt = last ? Number(last.salt) : drain?.salt ? Number(drain.salt) : estimate;
  const drainedGrams = drain?.drained ? toGrams(drain.drained) : null;
  const scale = state.produceGrams > 0 ? state.produceGrams / plan.produceGrams : 1;
  const paste = plan.lines
    .filter((line) => line.role === 'ingredient' && line.stage === 'mix')
    .map((line) => {
      const of = ready.lines[Number(line.key.replace('line-', ''))];
      return {
        grams: (line.grams ?? 0) * scale,
        waterFraction: of?.waterFraction ?? 0,
        saltFraction: of?.saltFraction ?? 0,
      };
    });
  const waterFraction =
    done?.waterFraction ?? ready.produce.reduce((sum, part) => sum + part.share * (part.waterFraction ?? 0.92), 0);
  const { addSaltGrams } = pasteSalt({
    drainedGrams: drainedGrams ?? state.produceGrams * heavy.drainYield,
    waterFraction,
    leafSalt: Math.min(0.26, leafSalt),
    paste,
    wanted: heavy.wanted,
  });
  return {
    log: found.map(({ water, drained, salt, ...row }) => ({
      ...row,
      at: new Date(row.at).toISOString(),
      waterGrams: water === null ? null : toGrams(water),
      drainedGrams: drained === null ? null : toGrams(drained),
      waterPhaseSalt: salt === null ? null : Number(salt),
    })),
    saltedAt: saltedAt?.toISOString() ?? null,
    estimate,
    least,
    most,
    rinses,
    minutes,
    leafSalt,
    measured: last !== undefined,
    drainedGrams,
    wanted: heavy.wanted,
    pasteSaltGrams: Math.max(0, addSaltGrams),
  };
}

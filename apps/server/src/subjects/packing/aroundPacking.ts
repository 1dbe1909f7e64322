import type { BodyOf } from '@clear-tally/contract';
import { checkMass, fillWeights, formatGrams, lotsBySerial } from '@clear-tally/core';
import { eq, inArray } from 'drizzle-orm';
import { room } from '../../db/schema/house.js';
import { jarMove } from '../../db/schema/jars.js';
import { hold } from '../../db/schema/ledger.js';
import { closing } from '../../db/schema/making.js';
import { closureLot, packingNote, retainedJar } from '../../db/schema/packing.js';
import { material } from '../../db/schema/stores.js';
import { happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { must, refused } from '../../journal/refused.js';
import { addMovements, loadLot, type LotRow, refuseClosed, refuseHeld } from '../../lots/lots.js';
import { refusePast } from '../../lots/pastDate.js';

type Packing = InHand & { readonly body: BodyOf<'pack.run'> };

const DAY = 86_400_000;

/**
 * Weight items that went into the emptied vessels and did not come out, in words; null where all are there or nobody
 * counted. @throws {Refused} some are missing, and nobody says where they are
 */
export async function weightsMissing({ tx, body }: Packing, fills: readonly LotRow[]): Promise<string | null> {
  const counted = body.from.flatMap((part, index) =>
    part.weightsOut === undefined ? [] : [{ fill: fills[index]!, out: part.weightsOut }],
  );
  if (counted.length === 0) return null;
  const closed = await tx
    .select()
    .from(closing)
    .where(
      inArray(
        closing.lotId,
        counted.map(({ fill }) => fill.id),
      ),
    );
  const missing = counted.flatMap(({ fill, out }) => {
    const put =
      closed.find(({ lotId }) => lotId === fill.id)?.weightItems.reduce((sum, { count }) => sum + count, 0) ?? 0;
    return put > out ? [`${put - out} of ${put} weight items of ${fill.code} did not come out`] : [];
  });
  if (missing.length === 0) return null;
  if (!body.weightsReason?.trim() && !happened(tx))
    throw refused(
      'pack.weightsMissing',
      `${missing.join('; ')}. Look for them before a jar is filled. Packed without, the run is held: write what is known of them.`,
      { field: 'weightsReason' },
    );
  return missing.join('; ');
}

export async function holdFor({ tx, entry, at, body }: Packing, reason: string): Promise<void> {
  const [there] = await tx.select({ lotId: hold.lotId }).from(hold).where(eq(hold.entryId, entry.id));
  // One hold of one entry on one lot: what was placed already says more.
  if (there) return;
  await tx.insert(hold).values({
    entryId: entry.id,
    lotId: body.runLotId,
    rule: 'person',
    causeLot: null,
    placedAt: at,
    reason: reason.slice(0, 300),
  });
}

/** Firming salt, a leaf, a spice: out of their lots, into all jars of the run. */
export async function addIntoJars(recording: Packing): Promise<void> {
  const { tx, body, at } = recording;
  for (const { fromLotId, grams } of body.added ?? []) {
    const from = await loadLot(tx, fromLotId, 'added', ['supply', 'preparation']);
    refuseClosed(from, 'added');
    await refuseHeld(tx, from, 'added');
    await refusePast(tx, from, at, undefined);
    must(checkMass({ grams, what: from.name, field: 'added' }));
    await addMovements(recording, [{ from: { lot: from }, to: { lotId: body.runLotId }, grams, field: 'added' }]);
  }
}

/** What stands beside the jars: their weights, their closures by lot, the line, what is retained. */
export async function noteOf(recording: Packing): Promise<void> {
  const { tx, body, seq } = recording;
  if (body.weights || body.cleared)
    await tx
      .insert(packingNote)
      .values({ runLotId: body.runLotId, weights: body.weights ?? [], cleared: body.cleared === true, seq });
  await takeClosures(recording);
  await retain(recording);
}

/** Jars and lids leave their lots by the piece; which serials carry which lot follows from the order they were opened in. */
async function takeClosures(recording: Packing): Promise<void> {
  const { tx, body, entry, seq } = recording;
  const jars = body.jars.reduce((sum, { count }) => sum + count, 0);
  const byMaterial = new Map<string, { lot: LotRow; count: number }[]>();
  for (const { lotId, count } of body.closures ?? []) {
    const lot = await loadLot(tx, lotId, 'closures', ['supply']);
    await refuseHeld(tx, lot, 'closures');
    byMaterial.set(lot.materialId!, [...(byMaterial.get(lot.materialId!) ?? []), { lot, count }]);
  }
  let number = 1;
  for (const [materialId, lots] of byMaterial) {
    const [of] = await tx
      .select({ name: material.name, kind: material.kind })
      .from(material)
      .where(eq(material.id, materialId));
    if (of!.kind !== 'packaging')
      throw refused('lot.wrongKind', `${lots[0]!.lot.code} is ${of!.name}: jars and lids are packaging.`, {
        field: 'closures',
      });
    const pieces = lots.reduce((sum, { count }) => sum + count, 0);
    if (pieces < jars && !happened(tx))
      throw refused(
        'pack.closuresShort',
        `${jars} jars are packed, and ${pieces} of ${of!.name} named: ${lots.map(({ lot, count }) => `${count} of ${lot.code}`).join(', ')}. Name the lot the other ${jars - pieces} are from.`,
        { field: 'closures', facts: { jars, pieces } },
      );
    await addMovements(
      recording,
      lots.map(({ lot, count }) => ({
        from: { lot },
        to: { sink: 'packed' as const },
        grams: count,
        field: 'closures',
        pieces: true as const,
      })),
    );
    for (const { lotId, first, last } of lotsBySerial(
      lots.map(({ lot, count }) => ({ lotId: lot.id, count })),
      jars,
    )) {
      await tx.insert(closureLot).values({
        entryId: entry.id,
        number,
        runLotId: body.runLotId,
        lotId,
        firstSerial: first,
        lastSerial: last,
        pieces: last - first + 1,
        seq,
      });
      number += 1;
    }
  }
}

/** The last jars of the run are kept where somebody finds them again, and tasted on their days. */
async function retain({ tx, body, entry, at, seq }: Packing): Promise<void> {
  if (!body.retained) return;
  const { count, roomId, onDays } = body.retained;
  const jars = body.jars.reduce((sum, one) => sum + one.count, 0);
  if (count > jars)
    throw refused('jar.unknown', `${count} jars are to be kept, and ${jars} are packed.`, { field: 'retained' });
  const [place] = await tx.select({ id: room.id }).from(room).where(eq(room.id, roomId));
  if (!place) throw refused('resource.unknown', 'There is no such place in this house.', { field: 'retained' });
  const serials = { firstSerial: jars - count + 1, lastSerial: jars };
  await tx.insert(retainedJar).values({
    entryId: entry.id,
    runLotId: body.runLotId,
    ...serials,
    roomId,
    tasteAt: [...onDays].sort((a, b) => a - b).map((day) => new Date(at.getTime() + day * DAY)),
    seq,
  });
  await tx.insert(jarMove).values({
    entryId: entry.id,
    number: 1,
    runLotId: body.runLotId,
    ...serials,
    whereKind: 'house',
    roomId,
    note: 'retained',
    at,
    seq,
  });
}

/** What the sampled jars say, for the book. */
export function weightFacts({ weights, jars }: BodyOf<'pack.run'>): { weights?: string } {
  if (!weights || weights.length === 0) return {};
  const words = weights.flatMap(({ sizeMl, grams }) => {
    const net = jars.find((one) => one.sizeMl === sizeMl)?.netGrams;
    if (net === undefined) return [];
    const says = fillWeights({ netGrams: net, sampled: grams });
    const judged = { fine: 'as labelled', light: 'some light', short: 'SHORT' }[says.says];
    return [
      `${says.n} of ${sizeMl} mL weighed: mean ${formatGrams(says.mean, { stepGrams: 0.1 })}, least ${formatGrams(says.least, { stepGrams: 0.1 })}, ${judged}`,
    ];
  });
  return words.length > 0 ? { weights: words.join('; ') } : {};
}

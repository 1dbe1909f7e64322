import { allowedWords, besideAllowed, checkCelsius, checkPh, fitsBetter, jumps } from '@clear-tally/core';
import { eq, sql } from 'drizzle-orm';
import { v5 } from 'uuid';
import { type Reader, rows } from '../../db/database.js';
import { room, vessel } from '../../db/schema/house.js';
import { reading } from '../../db/schema/ledger.js';
import { happened, placeOf } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { SAMPLE_WORDS } from '../../lots/lineWords.js';
import { loadLot, type LotRow } from '../../lots/lots.js';
import { loadWithTrend, type ReadPoint } from '../../lots/readings.js';
import { fitnessOf } from './meters.js';

export const phRead = kind('ph.read', {
  who: 'maker',
  task: 'reading',
  words: 'pH',
  does: 'readings; a pH with its meter, sample and sample temperature; one off the trend is asked about, and kept when it stays so',
  correct: 'reading',
  rulesBehind: true,
  record: async ({ tx, entry, body, seq, at, anew }) => {
    // The trend is told by its last readings; one that is written anew, by those that were read before it.
    const asked = anew ? { last: 12, until: at } : { last: 12 };
    const of = await loadWithTrend(tx, body.lotId, ['fill', 'run', 'preparation'], asked);
    const ph = must(checkPh({ ph: body.ph, confirmedUnusual: body.confirmedUnusual }));
    if (at < of.at)
      throw refused('lot.notYet', `${of.code} was filled after the time given for this reading. Look at the time.`, {
        field: 'happenedAt',
      });
    const { forRelease, unfit, tag } = await fitnessOf(tx, body.meterId, { at, ph, seq });
    const off = of.kind === 'fill' ? await offTheTrend(tx, of, { ph, at: at.getTime(), sample: body.sample }) : null;
    if (off?.jump && !body.confirmedJump && !happened(tx)) {
      throw refused(
        'ph.jump',
        `pH ${ph.toFixed(2)} was given; after ${off.last.toFixed(2)}, ${off.least.toFixed(2)} to ${off.most.toFixed(2)} was expected of ${of.code}. Read again at once${off.fits.length > 0 ? `; or was the probe in ${off.fits.join(' or ')}?` : '.'} If it stays so, record it: both readings are kept.`,
        {
          field: 'ph',
          facts: { last: off.last, least: off.least, most: off.most, fits: off.fits },
        },
      );
    }
    const writes = tx.insert(reading).values({
      ...rowOf({ entry, seq, anew }),
      lotId: of.id,
      kind: 'ph',
      value: ph,
      sample: body.sample,
      at,
      meterId: body.meterId ?? null,
      sampleCelsius: body.sampleCelsius ?? null,
      forRelease,
      unfit,
      jumped: off?.jump ?? false,
    });
    return {
      facts: {
        forRelease,
        ...(unfit && body.meterId ? { unfit } : {}),
        ...(tag ? { meter: tag } : {}),
        ...(off?.jump ? { jumped: true } : {}),
      },
      lots: [of.id],
      writes: writes.getSQL(),
    };
  },
  line: ({ entry, facts }) => ({
    what: 'pH',
    words: [
      SAMPLE_WORDS[entry.body.sample],
      facts['meter'] && `${String(facts['meter'])}${facts['forRelease'] ? '' : ', not for release'}`,
      entry.body.sampleCelsius != null && `${entry.body.sampleCelsius.toFixed(1)} °C`,
      facts['jumped'] && 'off the trend',
    ]
      .filter(Boolean)
      .join(' · '),
    figure: entry.body.ph.toFixed(2),
    value: entry.body.ph,
    sample: entry.body.sample,
  }),
});

/** A reading put right stands beside the wrong one, under the same root: the newest counts. */
function rowOf({ entry, seq, anew }: Pick<InHand, 'entry' | 'seq' | 'anew'>): {
  entryId: string;
  rootEntryId: string;
  seq: number;
} {
  return anew
    ? { entryId: v5(entry.id, anew.entryId), rootEntryId: entry.id, seq: anew.seq }
    : { entryId: entry.id, rootEntryId: entry.id, seq };
}

/** Whether a reading is off the trend of its vessel, and which sisters of its batch it fits better. */
async function offTheTrend(
  tx: Reader,
  of: LotRow & { points: readonly ReadPoint[] },
  input: { ph: number; at: number; sample: 'blended' | 'brine' },
): Promise<(NonNullable<ReturnType<typeof jumps>> & { fits: string[] }) | null> {
  // One that is written anew is told by what was read before it, as it was then.
  const place = placeOf(tx) ?? Infinity;
  const points = of.points.filter(({ rootSeq }) => rootSeq < place);
  const found = jumps({ points, ...input, filledAt: of.at.getTime() });
  if (!found?.jump) return found ? { ...found, fits: [] } : null;
  const sisters = await rows<{ code: string; ph: string }>(
    tx,
    sql`
    select v.tag as code, p.value as ph from lot l join vessel v on v.id = l.vessel_id
    join lateral (select value from live_reading r where r.lot_id = l.id and r.kind = 'ph' order by r.at desc, r.seq desc limit 1) p on true
    where l.batch_id = ${of.batchId} and l.kind = 'fill' and l.closed_at is null and l.id <> ${of.id}`,
  );
  return {
    ...found,
    fits: fitsBetter({
      ph: input.ph,
      own: found.last,
      sisters: sisters.map(({ code, ph }) => ({ code, ph: Number(ph) })),
    }),
  };
}

export const temperatureRead = kind('temperature.read', {
  who: 'maker',
  task: 'reading',
  words: 'Temperature',
  does: 'readings; a pH with its meter, sample and sample temperature; one off the trend is asked about, and kept when it stays so',
  correct: 'reading',
  rulesBehind: true,
  record: async ({ tx, entry, body, seq, at, anew }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run', 'preparation']);
    const celsius = must(checkCelsius(body.celsius));
    if (at < of.at)
      throw refused('lot.notYet', `${of.code} was filled after the time given for this reading. Look at the time.`, {
        field: 'happenedAt',
      });
    const writes = tx
      .insert(reading)
      .values({ ...rowOf({ entry, seq, anew }), lotId: of.id, kind: 'temperature', value: celsius, sample: null, at });
    const [stands] = of.vesselId
      ? await tx
          .select({ name: room.name, details: room.details })
          .from(vessel)
          .innerJoin(room, eq(room.id, vessel.roomId))
          .where(eq(vessel.id, of.vesselId))
      : [];
    const beside = stands && besideAllowed(celsius, stands.details);
    return {
      facts: beside ? { beside: `${beside} than ${stands.name} allows: ${allowedWords(stands.details)}` } : {},
      lots: [of.id],
      writes: writes.getSQL(),
    };
  },
  line: ({ entry, facts }) => ({
    what: 'Temperature',
    words: typeof facts['beside'] === 'string' ? facts['beside'] : null,
    figure: `${entry.body.celsius.toFixed(1)} °C`,
    value: entry.body.celsius,
  }),
});

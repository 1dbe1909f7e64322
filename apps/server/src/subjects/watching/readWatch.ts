import type { WatchReply } from '@clear-tally/contract';
import { checkWords, dayNumber, findingOf, type Place, PLACES, type Verdict, whyNotTaste } from '@clear-tally/core';
import { and, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { checkMark } from '../../db/schema/watching.js';
import { hold, lot as lots } from '../../db/schema/ledger.js';
import { refused } from '../../journal/refused.js';
import { contentsIn } from '../../lots/contents.js';
import { loadHouse } from '../../lots/house.js';
import { lotByCode } from '../../lots/lotByCode.js';
import { phShown } from '../../lots/shelf.js';
import type { Watched } from '../../lots/watchedVessel.js';
import { loadWatched } from '../../lots/watched.js';
import { oddOnes, standingOf } from './readFloor.js';

/** All that is watched on one vessel. */
export async function readWatch(reader: Reader, code: string, now: Date): Promise<WatchReply> {
  const lot = await lotByCode(reader, code);
  if (lot.undoneSeq !== null)
    throw refused(
      'lot.wrongKind',
      `${lot.code} never was: the entry that filled it was taken back. Its book says why.`,
      { field: 'code' },
    );
  if (lot.kind !== 'fill')
    throw refused('lot.wrongKind', `${lot.code} is no filled vessel: only those are watched.`, { field: 'code' });
  const house = await loadHouse(reader);
  const family = await reader
    .select({ id: lots.id })
    .from(lots)
    .where(and(eq(lots.batchId, lot.batchId!), eq(lots.kind, 'fill')));
  const all = await loadWatched(
    reader,
    now,
    family.map(({ id }) => id),
  );
  const own = all.find(({ lotId }) => lotId === lot.id)!;
  const odd = oddOnes(all.filter(({ closed }) => !closed));
  const seen = await rows<{
    entryId: string;
    finding: string;
    place: Place;
    verdict: Verdict;
    guide: Verdict;
    reasons: string[];
    at: Date;
    by: string;
    photo: string | null;
  }>(
    reader,
    sql`
    select f.entry_id as "entryId", f.finding, f.place, f.verdict, f.guide, f.reasons, f.at, p.initials as by, f.photo from finding f join person p on p.id = f.by where f.lot_id = ${lot.id} order by f.at desc, f.seq desc limit 100`,
  );
  const checked = await reader
    .select({ photo: sql<string>`${checkMark.photo}`, at: checkMark.at, what: checkMark.what, words: checkMark.words })
    .from(checkMark)
    .where(and(eq(checkMark.lotId, lot.id), isNotNull(checkMark.photo)))
    .orderBy(checkMark.at);
  const past = await reader
    .select({
      reason: hold.reason,
      placedAt: hold.placedAt,
      liftedAt: hold.liftedAt,
      liftReason: hold.liftReason,
    })
    .from(hold)
    .where(and(eq(hold.lotId, lot.id), isNotNull(hold.liftedAt)))
    .orderBy(desc(hold.placedAt))
    .limit(50);
  const day = (at: Date): number =>
    dayNumber({ filledAt: lot.at.getTime(), at: new Date(at).getTime(), timeZone: house.timeZone });
  const iso = (at: Date): string => new Date(at).toISOString();
  const { saltGrams, waterGrams, known } = await contentsIn(reader, lot.id);
  const planned = new Set(own.ownPlan.map(checkWords));
  return {
    waterPhase: known && saltGrams > 0 ? { saltGrams, waterGrams } : null,
    lotId: lot.id,
    code: lot.code,
    now: now.toISOString(),
    day: own.day,
    closed: own.closed,
    ...standingOf(own),
    conditions: conditionsOf(own, odd.has(own.code)),
    packable: own.packable.ok ? null : own.packable.refusal.message,
    salt: own.salt,
    houseBand: own.houseBand,
    mayTaste: whyNotTaste({
      lastPh: own.standing.counting?.ph ?? null,
      strictPh: own.standing.strict,
      onHold: own.holds.length > 0,
    }),
    sisters:
      all.length < 2
        ? []
        : all.map((sister) => ({
            code: sister.code,
            vesselTag: sister.vesselTag,
            ...shownOf(sister),
            celsius: sister.celsius.at(-1)?.celsius ?? null,
            odd: odd.has(sister.code),
            hold: sister.holds.length > 0,
            closed: sister.closed,
          })),
    pictures: [
      ...seen.flatMap((row) =>
        row.photo
          ? [
              {
                photo: row.photo,
                at: iso(row.at),
                day: day(row.at),
                words: findingOf(row.finding)?.name ?? row.finding,
              },
            ]
          : [],
      ),
      ...checked.map((row) => ({ photo: row.photo, at: iso(row.at), day: day(row.at), words: row.words ?? row.what })),
    ].sort((a, b) => a.at.localeCompare(b.at)),
    findings: seen.map((row) => ({
      entryId: row.entryId,
      name: findingOf(row.finding)?.name ?? row.finding,
      place: PLACES[row.place],
      verdict: row.verdict,
      guide: row.guide,
      reasons: row.reasons,
      at: iso(row.at),
      by: row.by,
    })),
    pastHolds: past.map((row) => ({
      reason: row.reason,
      placedAt: iso(row.placedAt),
      liftedAt: iso(row.liftedAt!),
      liftReason: row.liftReason!,
    })),
    plan: [...own.ownPlan],
    asked: own.plan.filter((check) => !planned.has(checkWords(check))),
    planSince: own.planSince === undefined ? null : new Date(own.planSince).toISOString(),
    batchId: own.batchId,
  };
}

/** A sister's pH, as every line about a vessel shows it. */
function shownOf({ standing }: Watched): { ph: number | null; at: number | null; counts: boolean } {
  const { lastPh, lastPhAt, phCounts } = phShown(standing);
  return { ph: lastPh, at: lastPhAt === null ? null : Date.parse(lastPhAt), counts: phCounts };
}

/** Every condition of a vessel, met or not met: the gate before packing first, as packing itself asks it. */
function conditionsOf(vessel: Watched, odd: boolean): WatchReply['conditions'] {
  const { temperature, salt, houseBand } = vessel;
  const percent = (fraction: number): string => `${(fraction * 100).toFixed(2)} %`;
  const saltState = salt.band === null ? 'open' : salt.band === 'usual' ? 'met' : 'watch';
  return [
    ...vessel.gate.map(({ key, words, state, now }) => ({ gate: key, words, state, now })),
    {
      gate: null,
      words: 'Salt in the water phase',
      state: saltState,
      now:
        salt.waterPhase === null
          ? 'not known'
          : `${percent(salt.waterPhase)}, ${salt.band}${salt.ofEverything === null ? '' : `; ${percent(salt.ofEverything)} of the total mass`}`,
    },
    ...(houseBand
      ? [
          {
            gate: null,
            words: 'Salt as this house wants it',
            state: houseBand.state === 'in' ? ('met' as const) : ('watch' as const),
            now: houseBand.words,
          },
        ]
      : []),
    {
      gate: null,
      words: 'Temperature',
      state: temperature.verdict === 'act' ? 'watch' : temperature.verdict,
      now: `${temperature.verdict === 'act' ? 'act: ' : ''}${temperature.words}`,
    },
    ...(odd
      ? [
          {
            gate: null,
            words: 'Stands with its sisters',
            state: 'watch' as const,
            now: 'more than 0.3 apart on one day: look at this one',
          },
        ]
      : []),
    ...vessel.doneness.map(({ words, met, now }) => ({
      gate: null,
      words,
      state: met ? ('met' as const) : ('open' as const),
      now,
    })),
  ];
}

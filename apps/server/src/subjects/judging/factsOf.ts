import { effectsOf, type LotFacts, phStanding } from '@clear-tally/core';
import { and, count, eq, isNotNull, lt, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { liveMovement } from '../../db/schema/ledger.js';
import { acidLimitsOf } from '../../lots/acidLimits.js';
import { chosenRules } from '../../lots/house.js';
import { finding } from '../../db/schema/watching.js';
import type { lot } from '../../db/schema/ledger.js';
import { refused } from '../../journal/refused.js';
import { saltOf } from '../../lots/contents.js';
import { hasFrozenProduce } from '../../lots/frozen.js';
import { phPoints } from '../../lots/readings.js';
import { redOf } from '../../lots/watch.js';
import { loadWatched } from '../../lots/watched.js';
import { openHolds } from '../../lots/openHolds.js';

type Lot = typeof lot.$inferSelect;

/** All that is known of a vessel or a packing run when somebody sees something on it. */
export async function factsOf(reader: Reader, of: Lot, at: Date): Promise<LotFacts> {
  const acidLimit = (await acidLimitsOf(reader, [of.id])).get(of.id)!;
  const film = await reader
    .select({ many: count() })
    .from(finding)
    .where(and(eq(finding.lotId, of.id), eq(finding.finding, 'film'), lt(finding.at, at)));
  const rules = await chosenRules(reader);
  const common = {
    acidLimit,
    filmBefore: (film[0]?.many ?? 0) > 0,
    filmIsHeld: effectsOf(rules).filmIsHeld,
  };
  return of.kind === 'run'
    ? { ...common, ...(await factsOfRun(reader, of, at)) }
    : { ...common, ...(await factsOfVessel(reader, of, at)) };
}

type Own = Omit<LotFacts, 'acidLimit' | 'filmBefore' | 'filmIsHeld'> & Partial<Pick<LotFacts, 'acidLimit'>>;

const hoursTo = (at: Date, moment: number): number => (at.getTime() - moment) / 3_600_000;

/** A run is judged by its own readings, or by the last of the vessels it was packed from. */
async function factsOfRun(reader: Reader, of: Lot, at: Date): Promise<Own> {
  const sources = await reader
    .selectDistinct({ id: liveMovement.fromLot })
    .from(liveMovement)
    .where(and(eq(liveMovement.toLot, of.id), isNotNull(liveMovement.fromLot)));
  const points = await phPoints(reader, [of.id, ...sources.map(({ id }) => id!)], { until: at });
  const own = points.get(of.id)!;
  const standing = phStanding(own.length > 0 ? own : [...points.values()].flat());
  const counted = standing.counting ?? standing.last;
  const [batch] = await rows<{
    rules: Record<string, string> | null;
    reds: (boolean | null)[] | null;
    fruit: boolean | null;
  }>(
    reader,
    sql`
    select b.rules, (select array_agg((x.details->>'red')::boolean) from jsonb_array_elements((f.data->'produce') || (f.data->'lines')) p join material x on x.id = (p->>'materialId')::uuid) as reds,
      (select bool_or(x.details->>'group' = 'fruit') from jsonb_array_elements(f.data->'produce') p join material x on x.id = (p->>'materialId')::uuid) as fruit
    from lot b left join formula f on f.formula_id = b.formula_id and f.version = b.formula_version where b.id = ${of.batchId}`,
  );
  return {
    ageDays: Math.floor(hoursTo(at, of.at.getTime()) / 24),
    ph: standing.strict,
    phCounts: standing.counting !== null,
    phHoursAgo: counted ? hoursTo(at, counted.at) : null,
    trend: 'none',
    rise: 0,
    late: false,
    twiceLate: false,
    onHold: ((await openHolds(reader, [of.id])).get(of.id) ?? []).length > 0,
    celsius: null,
    waterPhaseSalt: (await saltOf(reader, of.id, at)).waterPhase,
    closure: null,
    stage: 'packed',
    heated: batch?.rules ? batch.rules['heat'] === 'heat' : null,
    redIngredient: redOf(batch?.reds ?? null),
    sweet: batch?.fruit ?? null,
    slowStart: false,
  };
}

async function factsOfVessel(reader: Reader, of: Lot, at: Date): Promise<Own> {
  const [watched] = await loadWatched(reader, at, [of.id]);
  if (!watched)
    throw refused(
      'lot.wrongKind',
      `${of.code} is neither a filled vessel nor a packing run: nothing is judged on it.`,
      { field: 'lotId' },
    );
  const { trend, standing, lateness, holds } = watched;
  const counted = standing.counting ?? standing.last;
  const inWindow = watched.doneness.find(({ key }) => key === 'days')?.met === true;
  return {
    acidLimit: watched.acidLimit,
    ageDays: watched.day,
    ph: standing.strict,
    phCounts: standing.counting !== null,
    phHoursAgo: counted ? hoursTo(at, counted.at) : null,
    trend: trend.direction,
    rise: trend.rise,
    late:
      lateness.state === 'late' ||
      (lateness.state === 'metLate' && holds.some(({ rule }) => rule === 'late')) ||
      holds.some(({ rule }) => rule === 'late'),
    twiceLate: lateness.state === 'throwOut',
    onHold: holds.length > 0,
    celsius: watched.celsiusNow,
    waterPhaseSalt: watched.salt.waterPhase,
    closure: watched.closure,
    stage: watched.ready || inWindow ? 'finish' : 'ferment',
    heated: false,
    redIngredient: watched.red,
    sweet: watched.formula ? watched.fruit : null,
    slowStart:
      watched.formula?.form === 'cloves' || watched.roomCelsius < 12 || (await hasFrozenProduce(reader, of.id)),
  };
}

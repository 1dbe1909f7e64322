import { sql } from 'drizzle-orm';
import { HOUSE_RULES, type LotFacts } from '@clear-tally/core';
import { rows, type Reader } from '../db/database.js';
import { house, type lot } from '../db/schema/index.js';
import { waterPhaseOf } from './composition.js';
import { loadWatched, openHolds, phPoints } from './watched.js';
import { refused } from './refused.js';

/** Names of materials that bring a red of their own. */
const RED = /\b(red|beet(root)?s?|purple|paprika|cherr(y|ies)|raspberr(y|ies)|rhubarb|damsons?)\b/i;

const usualFilm = HOUSE_RULES.find(({ key }) => key === 'film')!.usual;

/** All that is known of a vessel or a packing run when somebody sees something on it. */
export async function factsOf(reader: Reader, of: typeof lot.$inferSelect, at: Date): Promise<LotFacts> {
  const [settings] = await reader.select({ acidLimit: house.acidLimit }).from(house);
  if (!settings) throw refused('resource.unknown', 'This ledger has no house yet.');
  const red = await rows<{ name: string }>(reader, sql`
    select x.name from formula f cross join lateral jsonb_array_elements((f.data->'produce') || (f.data->'lines')) p join material x on x.id = (p->>'materialId')::uuid where f.formula_id = ${of.formulaId} and f.version = ${of.formulaVersion}`);
  const redIngredient = red.some(({ name }) => RED.test(name));
  const film = await rows<{ many: number }>(reader, sql`select count(*)::int as many from finding where lot_id = ${of.id} and finding = 'film' and at < ${at.toISOString()}`);
  const [rule] = await rows<{ option: string }>(reader, sql`select option from house_rule where rule = 'film'`);
  const filmIsHeld = (rule?.option ?? usualFilm) === 'reject';
  const hours = (moment: number): number => (at.getTime() - moment) / 3_600_000;
  if (of.kind === 'run') {
    // A run is judged by its own readings, or by the last of the vessels it was packed from.
    const sources = await rows<{ id: string }>(reader, sql`select distinct from_lot as id from live_movement where to_lot = ${of.id} and from_lot is not null`);
    const points = await phPoints(reader, [of.id, ...sources.map(({ id }) => id)]);
    const all = (points.get(of.id)!.length > 0 ? points.get(of.id)! : [...points.values()].flat()).sort((a, b) => a.at - b.at);
    const last = all.at(-1);
    const [batch] = await rows<{ rules: Record<string, string> | null }>(reader, sql`select rules from lot where id = ${of.batchId}`);
    return {
      ageDays: Math.floor(hours(of.at.getTime()) / 24), ph: last?.ph ?? null, phHoursAgo: last ? hours(last.at) : null, trend: 'none', rise: 0, acidLimit: settings.acidLimit, late: false, twiceLate: false,
      onHold: ((await openHolds(reader, [of.id])).get(of.id) ?? []).length > 0, celsius: null, waterPhaseSalt: null, closure: null, stage: 'packed', heated: batch?.rules?.['heat'] === 'heat', redIngredient, sweet: false, slowStart: false, filmBefore: false, filmIsHeld,
    };
  }
  const [watched] = await loadWatched(reader, at, [of.id]);
  if (!watched) throw refused('lot.wrongKind', `${of.code} is neither a filled vessel nor a packing run: nothing is judged on it.`, { field: 'lotId' });
  const { trend } = watched;
  const form = watched.formula?.form;
  return {
    ageDays: watched.day, ph: trend.last?.ph ?? null, phHoursAgo: trend.last ? hours(trend.last.at) : null, trend: trend.direction, rise: trend.rise, acidLimit: settings.acidLimit,
    late: watched.lateness.state === 'late' || watched.holds.some(({ rule }) => rule === 'late'), twiceLate: watched.lateness.state === 'throwOut', onHold: watched.holds.length > 0, celsius: watched.celsius.at(-1)?.celsius ?? null,
    waterPhaseSalt: await waterPhaseOf(reader, of.id), closure: watched.closure, stage: watched.ready || watched.doneness.find(({ words }) => words.startsWith('day '))?.met === true ? 'finish' : 'ferment',
    heated: false, redIngredient, sweet: false, slowStart: form === 'cloves' || watched.roomCelsius < 12, filmBefore: (film[0]?.many ?? 0) > 0, filmIsHeld,
  };
}

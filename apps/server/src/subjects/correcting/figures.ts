import { formatGrams, type Lateness } from '@clear-tally/core';
import { inArray, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { lot } from '../../db/schema/ledger.js';
import { batchState } from '../../lots/batchSalt.js';
import { saltOf } from '../../lots/contents.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { openHold } from '../../lots/lots.js';
import { holdersOf } from '../../lots/holders.js';
import { missedChecks } from '../../lots/releasing.js';
import { loadStanding } from '../../lots/watched.js';

/** One figure of one lot, as its page says it. */
export interface Figure {
  readonly code: string;
  readonly what: string;
  readonly says: string;
}

export interface Changed {
  readonly code: string;
  readonly what: string;
  readonly was: string;
  readonly now: string;
}

/** More lots than these are named by their count. */
const MOST_LOTS = 30;

/**
 * What pages say of some lots: what stands in them, their salt, what is asked of it, acid, holds, whether they may be
 * packed, who has their jars. Read before and after a correction, it tells what the correction changes.
 */
export async function figuresOf(reader: Reader, lotIds: readonly string[], now: Date): Promise<Figure[]> {
  const ids = [...new Set(lotIds)].slice(0, MOST_LOTS);
  if (ids.length === 0) return [];
  const lots = (await reader.select().from(lot).where(inArray(lot.id, ids))).filter(
    ({ undoneSeq }) => undoneSeq === null,
  );
  const held = await rows<{ id: string; mg: string | null }>(
    reader,
    sql`select l.id, ${onHandMg(sql`l.id`)} as mg from lot l where l.id = ${anyOf(ids)}`,
  );
  const onHand = new Map(held.map(({ id, mg }) => [id, formatGrams(toGrams(mg ?? 0))]));
  const { vessels } = await loadStanding(
    reader,
    now,
    lots.filter(({ kind }) => kind === 'fill').map(({ id }) => id),
  );
  const figures: Figure[] = [];
  for (const of of lots) {
    const say = (what: string, says: string | null | undefined): void =>
      void (says && figures.push({ code: of.id, what, says }));
    say('', of.code);
    if (of.metered) say('on hand by the book', onHand.get(of.id));
    say('held', await openHold(reader, of.id));
    if (of.kind === 'batch' && of.formulaId) {
      const state = await batchState(reader, of);
      say('produce', formatGrams(state.produceGrams));
      say('salt wanted', formatGrams(state.targetGrams));
      say('salt in', formatGrams(state.saltInGrams));
    }
    if (of.kind === 'preparation') say('salt in the water phase', percent((await saltOf(reader, of.id)).waterPhase));
    if (of.kind === 'run') {
      const holders = await holdersOf(reader, [{ lotId: of.id, code: of.code }]);
      say('with customers', holders.map(({ name, count }) => `${name}: ${count}`).join(', ') || 'none');
    }
    const vessel = vessels.find(({ lotId }) => lotId === of.id);
    if (!vessel) continue;
    say('stands in', vessel.vesselTag);
    say('salt in the water phase', percent(vessel.salt.waterPhase));
    say('salt is', vessel.salt.band);
    say('acid in time', ACID_WORDS[vessel.lateness.state]);
    say('acid asked for', vessel.lateness.words);
    say('last pH', vessel.standing.last?.ph.toFixed(2));
    say('may be packed', vessel.packable.ok ? 'yes' : `no: ${vessel.packable.refusal.message}`);
    say('checks missed', missedChecks(vessel.due).join(', ') || 'none');
    say('closed', vessel.closed ? 'yes' : 'no');
  }
  return figures;
}

/** Whether acid came in time, as it is said of a vessel. */
const ACID_WORDS: Readonly<Record<Lateness['state'], string>> = {
  met: 'met',
  metLate: 'met, too late',
  pending: 'not yet asked for',
  late: 'late',
  throwOut: 'late: throw it out',
};

const percent = (fraction: number | null): string | null =>
  fraction === null ? null : `${(fraction * 100).toFixed(2)} %`;

/** What is said otherwise than before, by lot. */
export function changesBetween(before: readonly Figure[], after: readonly Figure[]): Changed[] {
  const codes = new Map([...before, ...after].filter(({ what }) => what === '').map(({ code, says }) => [code, says]));
  // A lot that is called otherwise now says nothing else by being called so.
  const renamed = before.flatMap(({ code, what, says }) => {
    const now = what === '' ? codes.get(code) : says;
    return now !== undefined && now !== says ? [[says, now] as const] : [];
  });
  const asNow = (says: string): string => renamed.reduce((words, [then, now]) => words.replaceAll(then, now), says);
  const keyOf = ({ code, what }: Figure): string => `${code} ${what}`;
  const [was, is] = [new Map(before.map((one) => [keyOf(one), one])), new Map(after.map((one) => [keyOf(one), one]))];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((key) => {
    const [then, now] = [was.get(key)?.says ?? 'nothing', is.get(key)?.says ?? 'nothing'];
    const { code, what } = (is.get(key) ?? was.get(key))!;
    return then === now || (what !== '' && asNow(then) === now)
      ? []
      : [{ code: codes.get(code) ?? '?', what: what === '' ? 'code' : what, was: then, now }];
  });
}

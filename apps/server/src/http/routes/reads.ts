import { id, type Person } from '@clear-tally/contract';
import { FINDING_KEYS, PLACE_KEYS } from '@clear-tally/core';
import type Router from '@koa/router';
import { z } from 'zod';
import { journalLines } from '../../journal/bookLines.js';
import { loadHouse } from '../../lots/house.js';
import { loadLot } from '../../lots/lots.js';
import { reachOf } from '../../lots/reach.js';
import { conditionsAhead } from '../../lots/releasing.js';
import { standing } from '../../lots/standing.js';
import { readLot, readLots } from '../../subjects/book/readLots.js';
import { readEntry } from '../../subjects/correcting/readEntry.js';
import { readCustomers, readJars } from '../../subjects/dispatch/readJars.js';
import { readFormula, readFormulas } from '../../subjects/formulas/readFormulas.js';
import { readHouse } from '../../subjects/house/readHouse.js';
import { readRuleHistory } from '../../subjects/house/readRuleHistory.js';
import { readJudgement } from '../../subjects/judging/readJudgement.js';
import { readMake, readMaking } from '../../subjects/making/readMake.js';
import { readTimers } from '../../subjects/making/readTimers.js';
import { readOrders } from '../../subjects/dispatch/readOrders.js';
import { readPacking } from '../../subjects/packing/readPacking.js';
import { readPackable } from '../../subjects/packing/readPackable.js';
import { readStarters } from '../../subjects/preparations/readStarters.js';
import { readLabels } from '../../subjects/labels/readLabels.js';
import { readDossier } from '../../subjects/dossier/readDossier.js';
import { readFinish, readFinishes } from '../../subjects/finishing/readFinishes.js';
import { readProcesses, readRunHeat } from '../../subjects/heat/readHeat.js';
import { readLooks, readRun, readRuns } from '../../subjects/release/readRuns.js';
import { readStock, readSupplies } from '../../subjects/stores/readSupplies.js';
import { readCode, readFolded, readTrace } from '../../subjects/tracing/readTrace.js';
import { readFloor } from '../../subjects/watching/readFloor.js';
import { readEquipment } from '../../subjects/equipment/readEquipment.js';
import { readMeters } from '../../subjects/watching/readMeters.js';
import { readWatch } from '../../subjects/watching/readWatch.js';
import { type Ctx, type Deps, signedIn } from '../context.js';
import { DAYS, inOrder, momentsOf, NOT_IN_ORDER } from '../days.js';

const uuid = id;

const yesOrNo = z
  .enum(['yes', 'no'])
  .default('no')
  .transform((said) => said === 'yes');

const query = {
  supplies: z.object({ kind: z.string().max(30).optional(), materialId: uuid.optional() }),
  lots: z.object({
    kind: z.enum(['supply', 'batch', 'preparation', 'fill', 'run']).optional(),
    before: z.coerce.number().int().optional(),
    search: z.string().max(80).optional(),
    many: z.coerce.number().int().min(1).max(2000).optional(),
  }),
  judge: z.object({ lotId: uuid, finding: z.enum(FINDING_KEYS), place: z.enum(PLACE_KEYS) }),
  trace: z.object({ carryOver: yesOrNo }),
  folded: z.object({
    carryOver: yesOrNo,
    of: z.union([z.literal('jars'), z.guid().toLowerCase()]),
    page: z.coerce.number().int().min(0).max(10_000).default(0),
  }),
  ahead: z.object({
    lots: z
      .string()
      .max(800)
      .transform((text) => text.split(','))
      .pipe(z.array(uuid).min(1).max(20)),
  }),
  journal: z
    .object({
      ...DAYS,
      before: z.coerce.number().int().optional(),
      many: z.coerce.number().int().min(1).max(1000).optional(),
    })
    .refine(inOrder, NOT_IN_ORDER),
  formula: z.object({ version: z.coerce.number().int().min(1).optional() }),
};

/** Everything that can be read. Each read asks who is signed in; all three roles may read all. */
export function readRoutes(router: Router, deps: Deps): void {
  const read = (
    path: string,
    answer: (ctx: Ctx & { params: Record<string, string> }, person: Person) => Promise<unknown>,
  ): void => {
    router.get(path, async (ctx) => {
      const person = await signedIn(ctx, deps);
      ctx.body = await answer(ctx as never, person);
    });
  };
  read('/api/house', () => readHouse(deps.reader));
  read('/api/shelf', async () => {
    const look = await standing(deps.reader, deps.now());
    return { ...(await look.shelf()), faults: look.faults };
  });
  read('/api/floor', () => readFloor(deps.reader, deps.now()));
  read('/api/watch/:code', (ctx) => readWatch(deps.reader, ctx.params['code']!, deps.now()));
  read('/api/judge', (ctx) => readJudgement(deps.reader, query.judge.parse(ctx.query), deps.now()));
  read('/api/meters', () => readMeters(deps.reader, deps.now()));
  read('/api/equipment', () => readEquipment(deps.reader, deps.now()));
  read('/api/house-rules/:rule/history', (ctx) => readRuleHistory(deps.reader, ctx.params['rule']!));
  read('/api/formulas', () => readFormulas(deps.reader));
  read('/api/formulas/:id', (ctx) =>
    readFormula(deps.reader, uuid.parse(ctx.params['id']), query.formula.parse(ctx.query).version),
  );
  read('/api/supplies', (ctx) => readSupplies(deps.reader, query.supplies.parse(ctx.query), deps.now()));
  read('/api/stock', () => readStock(deps.reader, deps.now()));
  read('/api/making', () => readMaking(deps.reader, deps.now()));
  read('/api/making/:id', (ctx) => readMake(deps.reader, uuid.parse(ctx.params['id']), deps.now()));
  read('/api/timers', () => readTimers(deps.reader, deps.now()));
  read('/api/starters', () => readStarters(deps.reader, deps.now()));
  read('/api/lots', (ctx) => readLots(deps.reader, query.lots.parse(ctx.query)));
  read('/api/lots/:code', (ctx) => readLot(deps.reader, ctx.params['code']!, deps.now()));
  read('/api/journal', async (ctx) => {
    const asked = query.journal.parse(ctx.query);
    const { timeZone } = await loadHouse(deps.reader);
    return journalLines(deps.reader, { ...asked, ...momentsOf(asked, timeZone) });
  });
  read('/api/entries/:id', (ctx) => readEntry(deps.reader, uuid.parse(ctx.params['id'])));
  read('/api/looks', (_, by) => readLooks(deps.reader, by, deps.now()));
  read('/api/runs', (_, by) => readRuns(deps.reader, by, deps.now()));
  read('/api/runs/:code', (ctx, by) => readRun(deps.reader, ctx.params['code']!, by, deps.now()));
  read('/api/release-ahead', async (ctx) => ({
    conditions: await conditionsAhead(deps.reader, query.ahead.parse(ctx.query).lots, deps.now()),
  }));
  read('/api/runs/:code/dossier', async (ctx, by) => {
    const [code, now] = [ctx.params['code']!, deps.now()];
    const run = await readRun(deps.reader, code, by, now);
    return readDossier(deps.reader, run, await readRunHeat(deps.reader, code, now), now);
  });
  read('/api/runs/:code/heat', (ctx) => readRunHeat(deps.reader, ctx.params['code']!, deps.now()));
  read('/api/runs/:code/labels', (ctx) => readLabels(deps.reader, ctx.params['code']!));
  read('/api/finishes', () => readFinishes(deps.reader, deps.now()));
  read('/api/finishes/:code', (ctx) => readFinish(deps.reader, ctx.params['code']!, deps.now()));
  read('/api/processes', () => readProcesses(deps.reader));
  read('/api/jars', () => readJars(deps.reader, deps.now()));
  read('/api/orders', () => readOrders(deps.reader));
  read('/api/customers', () => readCustomers(deps.reader));
  read('/api/packing/:id', (ctx) => readPacking(deps.reader, uuid.parse(ctx.params['id']), deps.now()));
  read('/api/packable', () => readPackable(deps.reader, deps.now()));
  read('/api/codes/:code', (ctx) => readCode(deps.reader, ctx.params['code']!));
  read('/api/reach/:id', async (ctx) =>
    reachOf(deps.reader, await loadLot(deps.reader, uuid.parse(ctx.params['id']), 'lotId', ['fill', 'run'])),
  );
  read('/api/trace/:code/folded', (ctx) => readFolded(deps.reader, ctx.params['code']!, query.folded.parse(ctx.query)));
  read('/api/trace/:code', (ctx) => readTrace(deps.reader, ctx.params['code']!, query.trace.parse(ctx.query)));
}

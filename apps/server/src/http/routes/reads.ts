import { id, type Person } from '@clear-tally/contract';
import { FINDING_KEYS, PLACE_KEYS } from '@clear-tally/core';
import type Router from '@koa/router';
import { z } from 'zod';
import type { Reader } from '../../db/database.js';
import { forOneQuestion } from '../../db/once.js';
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
import { readMake } from '../../subjects/making/readMake.js';
import { readMaking } from '../../subjects/making/readMaking.js';
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

/** What is asked, by whom, and what it is read with. */
interface Asked {
  readonly ctx: Ctx & { params: Record<string, string> };
  readonly by: Person;
  readonly reader: Reader;
  readonly now: Date;
}

/** Everything that can be read. Each read asks who is signed in; all three roles may read all. */
export function readRoutes(router: Router, deps: Deps): void {
  const read = (path: string, answer: (asked: Asked) => Promise<unknown>): void => {
    router.get(path, async (ctx) => {
      const by = await signedIn(ctx, deps);
      ctx.body = await answer({ ctx: ctx as never, by, reader: forOneQuestion(deps.reader), now: deps.now() });
    });
  };
  read('/api/house', ({ reader }) => readHouse(reader));
  read('/api/shelf', async ({ reader, now }) => {
    const look = await standing(reader, now);
    return { ...(await look.shelf()), faults: look.faults };
  });
  read('/api/floor', ({ reader, now }) => readFloor(reader, now));
  read('/api/watch/:code', ({ ctx, reader, now }) => readWatch(reader, ctx.params['code']!, now));
  read('/api/judge', ({ ctx, reader, now }) => readJudgement(reader, query.judge.parse(ctx.query), now));
  read('/api/meters', ({ reader, now }) => readMeters(reader, now));
  read('/api/equipment', ({ reader, now }) => readEquipment(reader, now));
  read('/api/house-rules/:rule/history', ({ ctx, reader }) => readRuleHistory(reader, ctx.params['rule']!));
  read('/api/formulas', ({ reader }) => readFormulas(reader));
  read('/api/formulas/:id', ({ ctx, reader }) =>
    readFormula(reader, uuid.parse(ctx.params['id']), query.formula.parse(ctx.query).version),
  );
  read('/api/supplies', ({ ctx, reader, now }) => readSupplies(reader, query.supplies.parse(ctx.query), now));
  read('/api/stock', ({ reader, now }) => readStock(reader, now));
  read('/api/making', ({ reader, now }) => readMaking(reader, now));
  read('/api/making/:id', ({ ctx, reader, now }) => readMake(reader, uuid.parse(ctx.params['id']), now));
  read('/api/timers', ({ reader, now }) => readTimers(reader, now));
  read('/api/starters', ({ reader, now }) => readStarters(reader, now));
  read('/api/lots', ({ ctx, reader }) => readLots(reader, query.lots.parse(ctx.query)));
  read('/api/lots/:code', ({ ctx, reader, now }) => readLot(reader, ctx.params['code']!, now));
  read('/api/journal', async ({ ctx, reader }) => {
    const asked = query.journal.parse(ctx.query);
    const { timeZone } = await loadHouse(reader);
    return journalLines(reader, { ...asked, ...momentsOf(asked, timeZone) });
  });
  read('/api/entries/:id', ({ ctx, reader }) => readEntry(reader, uuid.parse(ctx.params['id'])));
  read('/api/looks', ({ by, reader, now }) => readLooks(reader, by, now));
  read('/api/runs', ({ by, reader, now }) => readRuns(reader, by, now));
  read('/api/runs/:code', ({ ctx, by, reader, now }) => readRun(reader, ctx.params['code']!, by, now));
  read('/api/release-ahead', async ({ ctx, reader, now }) => ({
    conditions: await conditionsAhead(reader, query.ahead.parse(ctx.query).lots, now),
  }));
  read('/api/runs/:code/dossier', async ({ ctx, by, reader, now }) => {
    const code = ctx.params['code']!;
    const run = await readRun(reader, code, by, now);
    return readDossier(reader, run, await readRunHeat(reader, code, now), now);
  });
  read('/api/runs/:code/heat', ({ ctx, reader, now }) => readRunHeat(reader, ctx.params['code']!, now));
  read('/api/runs/:code/labels', ({ ctx, reader }) => readLabels(reader, ctx.params['code']!));
  read('/api/finishes', ({ reader, now }) => readFinishes(reader, now));
  read('/api/finishes/:code', ({ ctx, reader, now }) => readFinish(reader, ctx.params['code']!, now));
  read('/api/processes', ({ reader }) => readProcesses(reader));
  read('/api/jars', ({ reader, now }) => readJars(reader, now));
  read('/api/orders', ({ reader }) => readOrders(reader));
  read('/api/customers', ({ reader }) => readCustomers(reader));
  read('/api/packing/:id', ({ ctx, reader, now }) => readPacking(reader, uuid.parse(ctx.params['id']), now));
  read('/api/packable', ({ reader, now }) => readPackable(reader, now));
  read('/api/codes/:code', ({ ctx, reader }) => readCode(reader, ctx.params['code']!));
  read('/api/reach/:id', async ({ ctx, reader }) =>
    reachOf(reader, await loadLot(reader, uuid.parse(ctx.params['id']), 'lotId', ['fill', 'run'])),
  );
  read('/api/trace/:code/folded', ({ ctx, reader }) =>
    readFolded(reader, ctx.params['code']!, query.folded.parse(ctx.query)),
  );
  read('/api/trace/:code', ({ ctx, reader }) => readTrace(reader, ctx.params['code']!, query.trace.parse(ctx.query)));
}

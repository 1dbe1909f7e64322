import type Router from '@koa/router';
import { z } from 'zod';
import { id, type Person } from '@clear-tally/contract';
import { FINDING_KEYS, PLACE_KEYS } from '@clear-tally/core';
import { loadLot } from '../../record/lots.js';
import { reachOf } from '../../record/reach.js';
import { journalLines } from '../../read/bookLines.js';
import { readEntry } from '../../read/entry.js';
import { readFloor } from '../../read/floor.js';
import { readMeters, readRuleHistory } from '../../read/meters.js';
import { readJudgement, readWatch } from '../../read/watch.js';
import { readCode, readFolded, readTrace } from '../../read/trace.js';
import { readFormula, readFormulas } from '../../read/formulas.js';
import { readHouse } from '../../read/house.js';
import { readLot, readLots, readPackable } from '../../read/lots.js';
import { readMake, readMaking } from '../../read/make.js';
import { standing } from '../../read/standing.js';
import { readStarters } from '../../read/starters.js';
import { readTimers } from '../../read/timers.js';
import { readStock, readSupplies } from '../../read/supplies.js';
import { signedIn, type Ctx, type Deps } from '../context.js';

const uuid = id;
const query = {
  supplies: z.object({ kind: z.string().max(30).optional(), materialId: uuid.optional() }),
  lots: z.object({
    kind: z.enum(['supply', 'batch', 'preparation', 'fill', 'run']).optional(),
    before: z.coerce.number().int().optional(),
    search: z.string().max(80).optional(),
  }),
  judge: z.object({ lotId: uuid, finding: z.enum(FINDING_KEYS), place: z.enum(PLACE_KEYS) }),
  folded: z.object({
    of: z.union([z.literal('jars'), z.guid().toLowerCase()]),
    page: z.coerce.number().int().min(0).max(10_000).default(0),
  }),
  journal: z.object({ before: z.coerce.number().int().optional() }),
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
  read('/api/house', () => readHouse(deps.db));
  read('/api/shelf', async () => {
    const look = await standing(deps.db, deps.now());
    return { ...(await look.shelf()), faults: look.faults };
  });
  read('/api/floor', () => readFloor(deps.db, deps.now()));
  read('/api/watch/:code', (ctx) => readWatch(deps.db, ctx.params['code']!, deps.now()));
  read('/api/judge', (ctx) => readJudgement(deps.db, query.judge.parse(ctx.query), deps.now()));
  read('/api/meters', () => readMeters(deps.db, deps.now()));
  read('/api/house-rules/:rule/history', (ctx) => readRuleHistory(deps.db, ctx.params['rule']!));
  read('/api/formulas', () => readFormulas(deps.db));
  read('/api/formulas/:id', (ctx) =>
    readFormula(deps.db, uuid.parse(ctx.params['id']), query.formula.parse(ctx.query).version),
  );
  read('/api/supplies', (ctx) => readSupplies(deps.db, query.supplies.parse(ctx.query), deps.now()));
  read('/api/stock', () => readStock(deps.db, deps.now()));
  read('/api/making', () => readMaking(deps.db, deps.now()));
  read('/api/making/:id', (ctx) => readMake(deps.db, uuid.parse(ctx.params['id']), deps.now()));
  read('/api/timers', () => readTimers(deps.db, deps.now()));
  read('/api/starters', () => readStarters(deps.db, deps.now()));
  read('/api/lots', (ctx) => readLots(deps.db, query.lots.parse(ctx.query)));
  read('/api/lots/:code', (ctx) => readLot(deps.db, ctx.params['code']!, deps.now()));
  read('/api/journal', (ctx) => journalLines(deps.db, query.journal.parse(ctx.query).before));
  read('/api/entries/:id', (ctx) => readEntry(deps.db, uuid.parse(ctx.params['id'])));
  read('/api/packable', () => readPackable(deps.db, deps.now()));
  read('/api/codes/:code', (ctx) => readCode(deps.db, ctx.params['code']!));
  read('/api/reach/:id', async (ctx) =>
    reachOf(deps.db, await loadLot(deps.db, uuid.parse(ctx.params['id']), 'lotId', ['fill', 'run'])),
  );
  read('/api/trace/:code/folded', (ctx) => readFolded(deps.db, ctx.params['code']!, query.folded.parse(ctx.query)));
  read('/api/trace/:code', (ctx) => readTrace(deps.db, ctx.params['code']!));
}

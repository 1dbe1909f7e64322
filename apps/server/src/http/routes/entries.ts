import type Router from '@koa/router';
import { entriesRequest, type EntriesReply } from '@clear-tally/contract';
import { recordEntries } from '../../record/record.js';
import { signedIn, type Deps } from '../context.js';

/** The one way in. */
export function entryRoutes(router: Router, deps: Deps): void {
  router.post('/api/entries', async (ctx) => {
    const actor = await signedIn(ctx, deps);
    const { entries } = entriesRequest.parse(ctx.request.body);
    ctx.body = { recorded: await recordEntries(deps.db, { entries, actor, now: deps.now() }) } satisfies EntriesReply;
  });
}

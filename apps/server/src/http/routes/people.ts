import type Router from '@koa/router';
import { id, type PeopleReply } from '@clear-tally/contract';
import { readPeople } from '../../read/people.js';
import { refused } from '../../record/refused.js';
import { signedIn, type Ctx, type Deps } from '../context.js';

/** Who comes in, and who is kept out at the moment. */
export function peopleRoutes(router: Router, deps: Deps): void {
  router.get('/api/people', async (ctx) => {
    await owner(ctx, deps);
    ctx.body = { people: await readPeople(deps.db), locks: await deps.limits.locks(deps.now()) } satisfies PeopleReply;
  });
  router.delete('/api/people/:id/locks', async (ctx) => {
    await owner(ctx, deps);
    await deps.limits.clear(id.parse(ctx.params['id']));
    ctx.body = { done: true };
  });
}

async function owner(ctx: Ctx, deps: Deps): Promise<void> {
  const person = await signedIn(ctx, deps);
  if (person.role !== 'owner') throw refused('who.notAllowed', 'Only an owner sees who comes in.');
}

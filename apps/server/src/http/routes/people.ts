import { id, type LooksReply, type PeopleReply } from '@clear-tally/contract';
import type Router from '@koa/router';
import { z } from 'zod';
import { refused } from '../../journal/refused.js';
import { givePin } from '../../session/session.js';
import { readLooks } from '../../session/looks.js';
import { readPeople } from '../../subjects/people/readPeople.js';
import { readUntrained } from '../../subjects/people/training.js';
import { readRights } from '../../subjects/people/readRights.js';
import { type Ctx, type Deps, signedIn } from '../context.js';

/** Who comes in, and who is kept out at the moment. */
export function peopleRoutes(router: Router, deps: Deps): void {
  router.get('/api/rights', async (ctx) => {
    await signedIn(ctx, deps);
    ctx.body = readRights();
  });
  router.get('/api/untrained', async (ctx) => {
    const by = await signedIn(ctx, deps);
    ctx.body = await readUntrained(deps.reader, by.id, deps.now());
  });
  router.get('/api/people', async (ctx) => {
    await owner(ctx, deps);
    ctx.body = { people: await readPeople(deps.db), locks: await deps.limits.locks(deps.now()) } satisfies PeopleReply;
  });
  router.post('/api/people/:id/pin', async (ctx) => {
    const by = await owner(ctx, deps);
    const personId = id.parse(ctx.params['id']);
    if (personId === by)
      throw refused('who.notAllowed', 'Your own PIN is changed with the one you have now.', { field: 'personId' });
    await givePin(deps.db, personId, z.strictObject({ pin: z.string().min(1).max(120) }).parse(ctx.request.body).pin);
    await deps.limits.clear(personId);
    ctx.body = { done: true };
  });
  router.get('/api/people/:id/looks', async (ctx) => {
    await owner(ctx, deps);
    ctx.body = { looks: await readLooks(deps.reader, id.parse(ctx.params['id'])) } satisfies LooksReply;
  });
  router.delete('/api/people/:id/locks', async (ctx) => {
    await owner(ctx, deps);
    await deps.limits.clear(id.parse(ctx.params['id']));
    ctx.body = { done: true };
  });
}

async function owner(ctx: Ctx, deps: Deps): Promise<string> {
  const person = await signedIn(ctx, deps);
  if (person.role !== 'owner') throw refused('who.notAllowed', 'Only an owner sees who comes in.');
  return person.id;
}

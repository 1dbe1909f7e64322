import type { VerificationReply } from '@clear-tally/contract';
import type Router from '@koa/router';
import { z } from 'zod';
import { refused } from '../../journal/refused.js';
import { chainEnd } from '../../journal/verify/chainEnds.js';
import { backupsIn } from '../backups.js';
import { type Ctx, type Deps, signedIn } from '../context.js';

const startBody = z.strictObject({ end: chainEnd.nullable() });

/** Whether all that was recorded stands as it was: for an owner. */
export function verificationRoutes(router: Router, deps: Deps): void {
  router.get('/api/verification', async (ctx) => {
    await owner(ctx, deps);
    ctx.body = deps.verification!.now() satisfies VerificationReply;
  });
  router.post('/api/verification', async (ctx) => {
    await owner(ctx, deps);
    const { end } = startBody.parse(ctx.request.body);
    ctx.body = deps.verification!.start(deps.now(), end, deps.now) satisfies VerificationReply;
  });
  router.get('/api/backups', async (ctx) => {
    const person = await signedIn(ctx, deps);
    if (person.role !== 'owner') throw refused('who.notAllowed', 'Only an owner looks after the backups.');
    if (!deps.backups) throw refused('resource.unknown', 'This server does not know where backups lie.');
    ctx.body = backupsIn(deps.backups.folder, deps.backups.which, deps.now());
  });
  // The end of the chain as it is now, signed: kept elsewhere, it proves later what stood here today.
  router.get('/api/chain-end.json', async (ctx) => {
    await owner(ctx, deps);
    const end = await deps.ends?.write(deps.db, deps.now());
    if (!end) throw refused('resource.unknown', 'Nothing is recorded yet, or this server keeps no key of the house.');
    ctx.type = 'application/json';
    ctx.set('Content-Disposition', `attachment; filename="chain-end-${end.seq}.json"`);
    ctx.body = JSON.stringify(end, null, 2);
  });
}

async function owner(ctx: Ctx, deps: Deps): Promise<void> {
  const person = await signedIn(ctx, deps);
  if (person.role !== 'owner') throw refused('who.notAllowed', 'Only an owner verifies the house.');
  if (!deps.verification)
    throw refused('resource.unknown', 'This server verifies nothing from a page: npm run verify does.');
}

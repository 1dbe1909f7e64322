import type Router from '@koa/router';
import { z } from 'zod';
import { id, type SessionReply } from '@clear-tally/contract';
import { closeSession, openSession, personOf, SESSION_HOURS, signInChoices } from '../../session/session.js';
import { COOKIE, type Deps } from '../context.js';

const signInBody = z.strictObject({ personId: id, pin: z.string().min(1).max(40) });

export function sessionRoutes(router: Router, deps: Deps): void {
  router.get('/api/sign-in', async (ctx) => {
    ctx.body = await signInChoices(deps.db);
  });
  router.get('/api/session', async (ctx) => {
    ctx.body = { person: await personOf(deps.db, ctx.cookies.get(COOKIE), deps.now()) } satisfies SessionReply;
  });
  router.post('/api/session', async (ctx) => {
    const { personId, pin } = signInBody.parse(ctx.request.body);
    const token = await openSession(deps.db, { personId, pin, now: deps.now() });
    ctx.cookies.set(COOKIE, token, { httpOnly: true, sameSite: 'strict', maxAge: SESSION_HOURS * 3_600_000, overwrite: true });
    ctx.body = { person: await personOf(deps.db, token, deps.now()) } satisfies SessionReply;
  });
  router.delete('/api/session', async (ctx) => {
    await closeSession(deps.db, ctx.cookies.get(COOKIE));
    ctx.cookies.set(COOKIE, null);
    ctx.body = { person: null } satisfies SessionReply;
  });
}

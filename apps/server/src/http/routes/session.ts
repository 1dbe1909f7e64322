import type Router from '@koa/router';
import { z } from 'zod';
import { id, type SessionReply } from '@clear-tally/contract';
import {
  changePin,
  closeSession,
  openSession,
  personOf,
  proveAgain,
  SESSION_HOURS,
  signInChoices,
} from '../../session/session.js';
import { addressOf, COOKIE, DEVICE_COOKIE, origin, signedIn, type Ctx, type Deps } from '../context.js';

const signInBody = z.strictObject({ personId: id, pin: z.string().min(1).max(120) });
const pinBody = z.strictObject({ old: z.string().min(1).max(120), pin: z.string().min(1).max(120) });
/** As long as browsers keep one. */
const DEVICE_DAYS = 400;

export function sessionRoutes(router: Router, deps: Deps): void {
  router.get('/api/sign-in', async (ctx) => {
    ctx.body = await signInChoices(deps.db);
  });
  router.get('/api/session', async (ctx) => {
    ctx.body = { person: await personOf(deps.db, ctx.cookies.get(COOKIE), deps.now()) } satisfies SessionReply;
  });
  router.post('/api/session', async (ctx) => {
    const { personId, pin } = signInBody.parse(ctx.request.body);
    const opened = await openSession(deps.db, deps.limits, {
      personId,
      pin,
      now: deps.now(),
      ...origin(ctx),
      device: ctx.cookies.get(DEVICE_COOKIE),
    });
    const secure = ctx.secure || ((await addressOf(deps))?.startsWith('https:') ?? false);
    keep(ctx, { name: COOKIE, value: opened.token, hours: SESSION_HOURS, secure });
    keep(ctx, { secure, name: DEVICE_COOKIE, value: opened.device, hours: DEVICE_DAYS * 24 });
    ctx.body = { person: await personOf(deps.db, opened.token, deps.now()) } satisfies SessionReply;
  });
  router.delete('/api/session', async (ctx) => {
    await closeSession(deps.db, ctx.cookies.get(COOKIE));
    ctx.cookies.set(COOKIE, null);
    ctx.body = { person: null } satisfies SessionReply;
  });
  // Before a signature: the person’s own PIN, typed now.
  router.post('/api/session/proof', async (ctx) => {
    const person = await signedIn(ctx, deps);
    const { pin } = z.strictObject({ pin: z.string().min(1).max(120) }).parse(ctx.request.body);
    await proveAgain(deps.db, deps.limits, {
      personId: person.id,
      pin,
      address: origin(ctx).address,
      token: ctx.cookies.get(COOKIE)!,
      now: deps.now(),
    });
    ctx.body = { person } satisfies SessionReply;
  });
  router.post('/api/session/pin', async (ctx) => {
    const person = await signedIn(ctx, deps);
    const body = pinBody.parse(ctx.request.body);
    await changePin(deps.db, deps.limits, {
      ...body,
      personId: person.id,
      address: origin(ctx).address,
      token: ctx.cookies.get(COOKIE)!,
      device: ctx.cookies.get(DEVICE_COOKIE),
      now: deps.now(),
    });
    ctx.body = { person } satisfies SessionReply;
  });
}

/** A cookie no page can read and no other site can send; behind an encrypted line it goes over that alone. */
function keep(
  ctx: Ctx,
  { name, value, hours, secure }: { name: string; value: string; hours: number; secure: boolean },
): void {
  // The line to a proxy on this machine is plain: that it is encrypted outside, the settings know.
  ctx.cookies.secure = secure;
  ctx.cookies.set(name, value, {
    httpOnly: true,
    sameSite: 'strict',
    secure,
    maxAge: hours * 3_600_000,
    overwrite: true,
  });
}

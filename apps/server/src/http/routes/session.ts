import type Router from '@koa/router';
import { z } from 'zod';
import { foundRequest, id, type SessionReply, type SignInReply } from '@clear-tally/contract';
import { refused } from '../../journal/refused.js';
import { foundHouse } from '../../session/found.js';
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
    const found = await signInChoices(deps.db);
    ctx.body = { ...found, other: mayGoOver(ctx, found) } satisfies SignInReply;
  });
  // An empty ledger, at the machine itself: whoever stands there first owns the house.
  router.post('/api/found', async (ctx) => {
    const { local } = origin(ctx);
    if (!local) throw refused('who.notAllowed', 'A house is founded on the machine it runs on. Open the page there.');
    const asked = foundRequest.parse(ctx.request.body);
    const personId = await foundHouse(deps.db, { ...asked, now: deps.now() });
    await open(ctx, personId, asked.owner.pin);
  });
  router.post('/api/other-house', async (ctx) => {
    if (mayGoOver(ctx, await signInChoices(deps.db)) === null)
      throw refused(
        'who.notAllowed',
        'From here the other house is opened with the start command alone: npm start -- --demo, or --house.',
      );
    ctx.body = { done: true };
    setTimeout(() => deps.goOver?.(), 200).unref();
  });
  router.get('/api/session', async (ctx) => {
    ctx.body = { person: await personOf(deps.db, ctx.cookies.get(COOKIE), deps.now()) } satisfies SessionReply;
  });
  router.post('/api/session', async (ctx) => {
    const { personId, pin } = signInBody.parse(ctx.request.body);
    await open(ctx, personId, pin);
  });
  router.delete('/api/session', async (ctx) => {
    await closeSession(deps.db, ctx.cookies.get(COOKIE));
    ctx.cookies.set(COOKIE, null);
    ctx.body = { person: null } satisfies SessionReply;
  });
  /** From the demo house, and from one that nobody has founded, the other is a press away: at the machine itself. */
  function mayGoOver(ctx: Ctx, of: Awaited<ReturnType<typeof signInChoices>>): SignInReply['other'] {
    if (!deps.goOver || !origin(ctx).local) return null;
    if (of.demoPins) return 'own';
    return of.house === null ? 'demo' : null;
  }
  async function open(ctx: Ctx, personId: string, pin: string): Promise<void> {
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
  }
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

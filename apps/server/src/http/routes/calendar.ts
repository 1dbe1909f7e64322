import { createHash, randomBytes } from 'node:crypto';
import type Router from '@koa/router';
import { and, desc, eq, isNull } from 'drizzle-orm';
import type { CalendarReply } from '@clear-tally/contract';
import { calendarKey } from '../../db/schema/index.js';
import { calendarOf } from '../../papers/calendar.js';
import { refused } from '../../record/refused.js';
import { signedIn, type Deps } from '../context.js';

const hash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A private address per person, without a sign-in: calendars have none. It is shown once and can be taken back. */
export function calendarRoutes(router: Router, deps: Deps): void {
  const revoke = async (personId: string): Promise<void> => {
    await deps.db.update(calendarKey).set({ revokedAt: deps.now() }).where(and(eq(calendarKey.personId, personId), isNull(calendarKey.revokedAt)));
  };
  router.get('/api/calendar', async (ctx) => {
    const { id } = await signedIn(ctx, deps);
    const [key] = await deps.db.select().from(calendarKey).where(and(eq(calendarKey.personId, id), isNull(calendarKey.revokedAt))).orderBy(desc(calendarKey.madeAt));
    ctx.body = { made: key?.madeAt.toISOString() ?? null } satisfies CalendarReply;
  });
  router.post('/api/calendar', async (ctx) => {
    const { id } = await signedIn(ctx, deps);
    await revoke(id);
    const token = randomBytes(24).toString('base64url');
    await deps.db.insert(calendarKey).values({ tokenHash: hash(token), personId: id, madeAt: deps.now() });
    ctx.body = { address: `${ctx.protocol}://${ctx.host}/calendar/${token}.ics` };
  });
  router.delete('/api/calendar', async (ctx) => {
    const { id } = await signedIn(ctx, deps);
    await revoke(id);
    ctx.body = { made: null } satisfies CalendarReply;
  });
  router.get('/calendar/:token.ics', async (ctx) => {
    const [key] = await deps.db.select().from(calendarKey).where(and(eq(calendarKey.tokenHash, hash(ctx.params['token']!)), isNull(calendarKey.revokedAt)));
    if (!key) throw refused('resource.unknown', 'This calendar address is not known, or was taken back.');
    ctx.type = 'text/calendar; charset=utf-8';
    ctx.set('Cache-Control', 'private, max-age=300');
    ctx.body = await calendarOf(deps.db, { now: deps.now(), base: `${ctx.protocol}://${ctx.host}` });
  });
}

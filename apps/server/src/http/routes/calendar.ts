import type Router from '@koa/router';
import type { CalendarReply } from '@clear-tally/contract';
import { calendarOf } from '../../papers/calendar.js';
import { refused } from '../../record/refused.js';
import { calendarMade, isCalendar, makeCalendar, revokeCalendar } from '../../session/calendarKeys.js';
import { houseAddress, signedIn, type Deps } from '../context.js';

/** A private address per person, without a sign-in: calendars have none. It is shown once and can be taken back. */
export function calendarRoutes(router: Router, deps: Deps): void {
  router.get('/api/calendar', async (ctx) => {
    const { id } = await signedIn(ctx, deps);
    ctx.body = { made: (await calendarMade(deps.db, id))?.toISOString() ?? null } satisfies CalendarReply;
  });
  router.post('/api/calendar', async (ctx) => {
    const { id } = await signedIn(ctx, deps);
    ctx.body = {
      address: `${await houseAddress(ctx, deps)}/calendar/${await makeCalendar(deps.db, id, deps.now())}.ics`,
    };
  });
  router.delete('/api/calendar', async (ctx) => {
    const { id } = await signedIn(ctx, deps);
    await revokeCalendar(deps.db, id, deps.now());
    ctx.body = { made: null } satisfies CalendarReply;
  });
  router.get('/calendar/:token.ics', async (ctx) => {
    if (!(await isCalendar(deps.db, ctx.params['token']!)))
      throw refused('resource.unknown', 'This calendar address is not known, or was taken back.');
    ctx.type = 'text/calendar; charset=utf-8';
    ctx.set('Cache-Control', 'private, max-age=300');
    ctx.body = await calendarOf(deps.db, { now: deps.now(), base: await houseAddress(ctx, deps) });
  });
}

import type { CalendarReply } from '@clear-tally/contract';
import type Router from '@koa/router';
import { refused } from '../../journal/refused.js';
import { calendarMade, isCalendar, makeCalendar, revokeCalendar } from '../../session/calendarKeys.js';
import { calendarOf } from '../../subjects/watching/calendar.js';
import { type Deps, houseAddress, signedIn } from '../context.js';

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
    ctx.body = await calendarOf(deps.reader, { now: deps.now(), base: await houseAddress(ctx, deps) });
  });
}

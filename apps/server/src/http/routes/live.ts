import { PassThrough } from 'node:stream';
import type Router from '@koa/router';
import { personOf, tokenHash } from '../../session/session.js';
import { COOKIE, signedIn, type Deps } from '../context.js';

const BEAT_MS = 25_000;

/**
 * Small notes by server-sent events: that something was recorded, and the page reads again what it shows; how a
 * device of the bench stands; that the sign-in has ended. One line for all, because a browser opens only six to one house.
 */
export function liveRoutes(router: Router, deps: Deps): void {
  router.get('/api/live', async (ctx) => {
    await signedIn(ctx, deps);
    const token = ctx.cookies.get(COOKIE)!;
    const own = tokenHash(token);
    const stream = new PassThrough();
    ctx.type = 'text/event-stream';
    ctx.set('Cache-Control', 'no-cache, no-transform');
    ctx.body = stream;
    stream.write('retry: 3000\n\n');
    const end = (): void => {
      stop();
      quiet?.();
      clearInterval(beat);
      stream.end();
    };
    const endedHere = (): void => {
      stream.write('event: ended\ndata: ended\n\n');
      end();
    };
    const stop = deps.live.subscribe(({ what, note }) => {
      if (what === 'closing') end();
      else if (what !== 'ended') stream.write(`event: recorded\ndata: ${note}\n\n`);
      else if (note === own) endedHere();
    });
    const device = (note: object): void => void stream.write(`event: device\ndata: ${JSON.stringify(note)}\n\n`);
    for (const one of deps.bench?.list() ?? []) device({ id: one.id, device: one });
    const quiet = deps.bench?.subscribe(device);
    // A quiet line would be cut by proxies; and a sign-in runs out without anybody ending it.
    const beat = setInterval(() => {
      stream.write(': beat\n\n');
      void personOf(deps.db, token, deps.now()).then(
        (person) => person ?? endedHere(),
        () => undefined,
      );
    }, BEAT_MS);
    ctx.req.on('close', end);
  });
}

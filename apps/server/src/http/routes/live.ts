import { PassThrough } from 'node:stream';
import type Router from '@koa/router';
import { signedIn, type Deps } from '../context.js';

/**
 * Small notes by server-sent events: that something was recorded, and the page reads again what it shows; how a
 * device of the bench stands. One line for both, because a browser opens only six to one house.
 */
export function liveRoutes(router: Router, deps: Deps): void {
  router.get('/api/live', async (ctx) => {
    await signedIn(ctx, deps);
    const stream = new PassThrough();
    ctx.type = 'text/event-stream';
    ctx.set('Cache-Control', 'no-cache, no-transform');
    ctx.body = stream;
    stream.write('retry: 3000\n\n');
    const stop = deps.live.subscribe((note) => stream.write(`event: recorded\ndata: ${note}\n\n`));
    const device = (note: object): void => void stream.write(`event: device\ndata: ${JSON.stringify(note)}\n\n`);
    for (const one of deps.bench?.list() ?? []) device({ id: one.id, device: one });
    const quiet = deps.bench?.subscribe(device);
    // A quiet line would be cut by proxies.
    const beat = setInterval(() => stream.write(': beat\n\n'), 25_000);
    ctx.req.on('close', () => {
      stop();
      quiet?.();
      clearInterval(beat);
      stream.end();
    });
  });
}

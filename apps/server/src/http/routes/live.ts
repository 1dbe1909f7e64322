import { PassThrough } from 'node:stream';
import type Router from '@koa/router';
import { signedIn, type Deps } from '../context.js';

/** Small notes that something was recorded, by server-sent events; the page reads again what it shows. */
export function liveRoutes(router: Router, deps: Deps): void {
  router.get('/api/live', async (ctx) => {
    await signedIn(ctx, deps);
    const stream = new PassThrough();
    ctx.type = 'text/event-stream';
    ctx.set('Cache-Control', 'no-cache, no-transform');
    ctx.body = stream;
    stream.write('retry: 3000\n\n');
    const stop = deps.live.subscribe((note) => stream.write(`event: recorded\ndata: ${note}\n\n`));
    // A quiet line would be cut by proxies.
    const beat = setInterval(() => stream.write(': beat\n\n'), 25_000);
    ctx.req.on('close', () => {
      stop();
      clearInterval(beat);
      stream.end();
    });
  });
}

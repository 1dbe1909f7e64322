import { existsSync } from 'node:fs';
import { join } from 'node:path';
import Koa from 'koa';
import Router from '@koa/router';
import { bodyParser } from '@koa/bodyparser';
import compress from 'koa-compress';
import helmet from 'koa-helmet';
import send from 'koa-send';
import '../subjects/kinds.js';
import type { Logger } from 'pino';
import { deadline } from './deadline.js';
import { fromHere } from './fromHere.js';
import { openApi, routesOf } from './openapi.js';
import { faultOf } from './explain.js';
import { problems } from './problems.js';
import { readable } from './readable.js';
import { calendarRoutes } from './routes/calendar.js';
import { deviceRoutes } from './routes/devices.js';
import { entryRoutes } from './routes/entries.js';
import { networkRoutes } from './routes/network.js';
import { liveRoutes } from './routes/live.js';
import { deskRoutes } from './routes/desk.js';
import { paperRoutes } from './routes/papers.js';
import { peopleRoutes } from './routes/people.js';
import { recordRoutes } from './routes/records.js';
import { readRoutes } from './routes/reads.js';
import { sessionRoutes } from './routes/session.js';
import { verificationRoutes } from './routes/verification.js';
import type { Deps } from './context.js';

/** The application: one error middleware, the routes, and the built interface. */
export function createApp(
  deps: Deps,
  options: { log: Logger; webRoot?: string; proxied?: boolean; deadlineMs?: number },
): Koa {
  const app = new Koa();
  // Behind a proxy the address of who asks, and whether the line is encrypted, is what the proxy says.
  app.proxy = options.proxied ?? false;
  const router = new Router();
  sessionRoutes(router, deps);
  peopleRoutes(router, deps);
  verificationRoutes(router, deps);
  networkRoutes(router, deps);
  entryRoutes(router, deps);
  deskRoutes(router, deps);
  paperRoutes(router, deps);
  recordRoutes(router, deps);
  readRoutes(router, deps);
  calendarRoutes(router, deps);
  liveRoutes(router, deps);
  deviceRoutes(router, deps);
  // Made once, of the routes there are; itself among them.
  let description: string | null = null;
  router.get('/schemas/openapi.json', (ctx) => {
    ctx.type = 'application/json';
    ctx.body = description ??= JSON.stringify(openApi(routesOf(router)));
  });
  app.on('error', (error: NodeJS.ErrnoException) => {
    // A tablet that closes its page ends its live line early: that is no fault.
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') options.log.warn(faultOf(error), 'a reply was not finished');
  });
  app.use(problems(options.log));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The reader of code symbols is compiled to machine words; nothing else may be made into a script.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(
    compress({ filter: (type) => !/event-stream/i.test(type) && /json|text|javascript|svg/i.test(type), br: false }),
  );
  app.use(
    bodyParser({
      // A delivery list of five thousand rows comes in whole.
      jsonLimit: '2mb',
      enableTypes: ['json'],
      onError: (error) => {
        throw Object.assign(error, { status: /too large/i.test(error.message) ? 413 : 400 });
      },
    }),
  );
  app.use(deadline(options.deadlineMs));
  app.use(readable);
  app.use(fromHere(deps));
  app.use(router.routes());
  if (options.webRoot) app.use(serveInterface(options.webRoot));
  return app;
}

/** Files with a hash in their name never change; every other path is a place of the interface. */
function serveInterface(root: string): Koa.Middleware {
  return async (ctx, next) => {
    if (
      (ctx.method !== 'GET' && ctx.method !== 'HEAD') ||
      ctx.path.startsWith('/api/') ||
      ctx.path.startsWith('/calendar/') ||
      ctx.path.startsWith('/schemas/')
    )
      return next();
    // A file's name is one step below the root, whatever the address says of folders above.
    const isFile =
      /^(\/[\w.@-]+)+\.[a-z0-9]+$/i.test(ctx.path) && !ctx.path.includes('..') && existsSync(join(root, ctx.path));
    ctx.set(
      'Cache-Control',
      isFile && /-[A-Z0-9]{8}\./.test(ctx.path) ? 'public, max-age=31536000, immutable' : 'no-cache',
    );
    // Packed once with gzip, never with brotli: nobody looks for what is not there.
    await send(ctx, isFile ? ctx.path : '/index.html', { root, brotli: false });
  };
}

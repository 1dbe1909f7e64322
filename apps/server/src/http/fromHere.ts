import type { Context, Next } from 'koa';
import { refused } from '../journal/refused.js';
import { addressOf, type Deps } from './context.js';

const READS: ReadonlySet<string> = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * What changes something comes from this house's own pages: the host it was sent to is the house's address or this
 * machine, and a browser says the same of the page that sent it.
 */
export function fromHere(deps: Deps) {
  return async (ctx: Context, next: Next): Promise<void> => {
    if (READS.has(ctx.method)) return next();
    const port = ctx.req.socket.localPort;
    const here = ['127.0.0.1', 'localhost', '[::1]'].map((name) => `${name}:${port}`);
    const [host, from] = [ctx.get('host').toLowerCase(), ctx.get('origin').toLowerCase()];
    // Most come from this machine, or from nowhere a browser would name: nobody has to ask the house for them.
    if (here.includes(host) && (from === '' || from === `http://${host}`)) return next();
    // Over the workshop's network: under a name of this machine, from a page that came over the same encrypted line.
    if (ctx.secure && deps.network?.hosts().includes(host) && (from === '' || from === `https://${host}`))
      return next();
    const address = await addressOf(deps);
    const of = address === null ? null : new URL(address);
    const hosts = new Set([...(of ? [of.host] : []), ...here]);
    const ownPage = from === '' || from === of?.origin || [...hosts].some((one) => from === `http://${one}`);
    if (!hosts.has(host) || !ownPage) {
      throw refused(
        'who.origin',
        `This was sent to “${host.slice(0, 80)}”${from ? ` from “${from.slice(0, 80)}”` : ''}; this house is reached at ${of?.origin ?? deps.network?.addresses()[0] ?? `http://127.0.0.1:${port}`}. Open it there. If that address is not right, an owner sets it under “Who comes in” on this machine.`,
      );
    }
    return next();
  };
}

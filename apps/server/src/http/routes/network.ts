import type { NetworkReply } from '@clear-tally/contract';
import type Router from '@koa/router';
import { refused } from '../../journal/refused.js';
import { fingerprintOf } from '../../network/certificate.js';
import { symbolModules } from '../../papers/symbol.js';
import { type Deps, signedIn } from '../context.js';

/** How other devices come in, and the certificate they are told to trust. */
export function networkRoutes(router: Router, deps: Deps): void {
  router.get('/api/network', async (ctx) => {
    await signedIn(ctx, deps);
    const shown = deps.network?.shown() ?? null;
    ctx.body = {
      addresses: (deps.network?.addresses() ?? []).map((address) => ({ address, symbol: symbolOf(address) })),
      fingerprint: shown?.root ? fingerprintOf(shown.root) : null,
      until: shown?.until.toISOString() ?? null,
    } satisfies NetworkReply;
  });
  // Public by nature, and asked for before anybody can sign in over a line that is trusted.
  router.get('/api/house.crt', (ctx) => {
    const root = deps.network?.shown()?.root;
    if (!root)
      throw refused(
        'resource.unknown',
        'This house has no certificate of its own to trust. It is served to this machine alone, or with one from elsewhere.',
      );
    ctx.type = 'application/x-x509-ca-cert';
    ctx.set('Content-Disposition', 'attachment; filename="clear-tally-house.crt"');
    ctx.body = root;
  });
}

function symbolOf(content: string): { size: number; dark: string } {
  const { columns, dark } = symbolModules('qrcode', content);
  return { size: columns, dark: dark.map((one) => (one ? '1' : '0')).join('') };
}

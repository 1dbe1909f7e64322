import { createServer } from 'node:net';

/** Whether nobody listens on this port of this machine, at the address or at any. */
export function portIsFree(port, address) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, address, () => probe.close(() => resolve(true)));
  });
}

/**
 * A port nobody listens on, below those a system gives to whoever calls out: what is stopped and started again finds it
 * as it left it.
 */
export async function freePort() {
  for (;;) {
    const port = 10_000 + Math.floor(Math.random() * 20_000);
    if (await portIsFree(port)) return port;
  }
}

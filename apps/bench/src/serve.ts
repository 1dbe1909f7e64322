import { createServer, type Server, type Socket } from 'node:net';
import type { SimulatedDevice } from './device.js';

/** How often a device speaks, ms. */
export const BEAT_MS = 50;
/** A line longer than this is no line of a device. */
const MOST = 4096;

/** A device on a loopback port, speaking plain text lines. Whoever connects is greeted; all hear what it says. */
export function serve(device: SimulatedDevice, port: number): Promise<{ server: Server; port: number; close(): void }> {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    if (device.unplugged) {
      // The cable is out, but the bench drawer has to be able to put it back: only that is heard.
      socket.write('NO CABLE unplugged\n');
    } else socket.write(`${device.hello()}\n`);
    sockets.add(socket);
    let rest = '';
    socket.setEncoding('utf8');
    socket.on('data', (text: string) => {
      const lines = (rest + text).slice(-MOST * 64).split('\n');
      rest = lines.pop()!.slice(0, MOST);
      for (const line of lines) {
        const was = device.unplugged;
        if (was && line.trim() !== 'SIM plug') continue;
        for (const answer of device.hear(line)) socket.write(`${answer}\n`);
        if (was && !device.unplugged) sockets.forEach((one) => one.write(`${device.hello()}\n`));
      }
    });
    socket.on('error', () => sockets.delete(socket));
    socket.on('close', () => sockets.delete(socket));
  });
  const beat = setInterval(() => {
    const lines = device.pass(BEAT_MS);
    if (device.unplugged || lines.length === 0) return;
    sockets.forEach((socket) => socket.write(`${lines.join('\n')}\n`));
  }, BEAT_MS);
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      const address = server.address() as { port: number };
      resolve({
        server,
        port: address.port,
        close: () => {
          clearInterval(beat);
          sockets.forEach((socket) => socket.destroy());
          server.close();
        },
      });
    });
  });
}

import { createServer, type Server, type Socket } from 'node:net';
import split2 from 'split2';
import type { SimulatedDevice } from './device.js';

/** How often a device speaks, ms. */
export const BEAT_MS = 50;
/** A line longer than this is no line of a device. */
const MOST = 4096;
/** What is longer is passed over, and the next line is heard: its types do not know the second word yet. */
const LINES: split2.Options = { maxLength: MOST, ...{ skipOverflow: true } };

/** A device on a loopback port, speaking plain text lines. Whoever connects is greeted; all hear what it says. */
export function serve(device: SimulatedDevice, port: number): Promise<{ server: Server; port: number; close(): void }> {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    if (device.unplugged) {
      // The cable is out, but the bench drawer has to be able to put it back: only that is heard.
      socket.write('NO CABLE unplugged\n');
    } else socket.write(`${device.hello()}\n`);
    sockets.add(socket);
    socket.pipe(split2(/\r?\n/, LINES)).on('data', (line: string) => {
      const was = device.unplugged;
      if (was && line.trim() !== 'SIM plug') return;
      for (const answer of device.hear(line)) socket.write(`${answer}\n`);
      if (was && !device.unplugged) sockets.forEach((one) => one.write(`${device.hello()}\n`));
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

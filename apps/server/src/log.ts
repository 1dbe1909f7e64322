import { join } from 'node:path';
import pino, { type Logger } from 'pino';

/**
 * The server's log: a file that is turned over at 5 MB, five of them at most, and faults at the terminal, too. Without
 * a folder all of it goes to the terminal. What is logged names statement, code and place, never what was typed.
 */
export function openLog(folder: string | undefined, level = process.env['LOG_LEVEL'] ?? 'warn'): Logger {
  if (!folder) return pino({ level });
  return pino(
    { level },
    pino.transport({
      targets: [
        {
          target: 'pino-roll',
          level,
          options: {
            file: join(folder, 'server'),
            extension: '.log',
            size: '5m',
            mkdir: true,
            limit: { count: 4, removeOtherLogFiles: true },
          },
        },
        { target: 'pino/file', level: 'error', options: { destination: 2 } },
      ],
    }) as pino.DestinationStream,
  );
}

import { join } from 'node:path';
import pino, { type Logger } from 'pino';

/** How much of a log is kept: the file that is written and four before it. */
const OLDER_FILES = 4;

/**
 * The server's log: a file that is turned over at 5 MB, five of them at most, and faults at the terminal, too. Without
 * a folder all of it goes to the terminal. What is logged names statement, code and place, never what was typed.
 */
export function openLog(folder: string | undefined, level = process.env['LOG_LEVEL'] ?? 'warn', size = '5m'): Logger {
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
            size,
            mkdir: true,
            limit: { count: OLDER_FILES, removeOtherLogFiles: true },
          },
        },
        { target: 'pino/file', level: 'error', options: { destination: 2 } },
      ],
    }) as pino.DestinationStream,
  );
}

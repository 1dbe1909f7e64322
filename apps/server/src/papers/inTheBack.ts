import Piscina from 'piscina';
import { refused } from '../journal/refused.js';
import type { deliveryNote as DeliveryNote } from './deliveryNote.js';
import type { dossier as Dossier } from './dossier.js';
import type { jarSheet as JarSheet } from './jarSheet.js';
import type { labelSheet as LabelSheet } from './labelSheet.js';
import type { pickSheet as PickSheet } from './pickSheet.js';
import type { recallNotices as RecallNotices, recallReport as RecallReport } from './recallPapers.js';
import type { roundSheet as RoundSheet } from './roundSheet.js';
import type { worksheet as Worksheet } from './worksheet.js';

interface Papers {
  deliveryNote: typeof DeliveryNote;
  dossier: typeof Dossier;
  jarSheet: typeof JarSheet;
  labelSheet: typeof LabelSheet;
  pickSheet: typeof PickSheet;
  recallNotices: typeof RecallNotices;
  recallReport: typeof RecallReport;
  roundSheet: typeof RoundSheet;
  worksheet: typeof Worksheet;
}

/** Beside the sources it is a source, in the bundle a bundle. */
const FILE = import.meta.url.endsWith('.ts')
  ? new URL('./workerOfSources.mjs', import.meta.url)
  : new URL('./papersWorker.mjs', import.meta.url);

const MOST_WAITING = 20;

let pool: Piscina | undefined;

function threads(): Piscina {
  const made = new Piscina({
    filename: FILE.href,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 60_000,
    maxQueue: MOST_WAITING,
  });
  // A thread that dies takes its paper with it, whose asker is told; never the server.
  made.on('error', () => {
    pool = undefined;
  });
  return made;
}

/**
 * Writes a paper in a thread of its own: six hundred labels take seconds, in which everybody else records. The thread
 * is started when the first paper is asked for, and ends when none was for a minute.
 */
async function write<K extends keyof Papers>(name: K, ...args: Parameters<Papers[K]>): Promise<Buffer> {
  pool ??= threads();
  if (pool.queueSize >= MOST_WAITING)
    throw refused('server.busy', 'Many papers are being written at the moment. Try again in a minute.');
  const worker = pool;
  // The function in the thread takes one argument: the list of those the paper takes.
  return Buffer.from((await worker.run(args, { name: `${name}Of` })) as Uint8Array);
}

export const deliveryNote = (...args: Parameters<Papers['deliveryNote']>): Promise<Buffer> =>
  write('deliveryNote', ...args);
export const dossier = (...args: Parameters<Papers['dossier']>): Promise<Buffer> => write('dossier', ...args);
export const pickSheet = (...args: Parameters<Papers['pickSheet']>): Promise<Buffer> => write('pickSheet', ...args);
export const recallNotices = (...args: Parameters<Papers['recallNotices']>): Promise<Buffer> =>
  write('recallNotices', ...args);
export const recallReport = (...args: Parameters<Papers['recallReport']>): Promise<Buffer> =>
  write('recallReport', ...args);
export const jarSheet = (...args: Parameters<Papers['jarSheet']>): Promise<Buffer> => write('jarSheet', ...args);

export const labelSheet = (...args: Parameters<Papers['labelSheet']>): Promise<Buffer> => write('labelSheet', ...args);

export const roundSheet = (...args: Parameters<Papers['roundSheet']>): Promise<Buffer> => write('roundSheet', ...args);

export const worksheet = (...args: Parameters<Papers['worksheet']>): Promise<Buffer> => write('worksheet', ...args);

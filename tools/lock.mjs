import { closeSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { Stop } from './say.mjs';

/** One house runs from a folder at a time: a second one could neither share its port nor end without ending the first one's database. */
export function holdFolder(file, { port }) {
  for (let attempt = 0; attempt < 2; attempt += 1) {
    try {
      const handle = openSync(file, 'wx', 0o600);
      writeSync(handle, JSON.stringify({ pid: process.pid, port }));
      closeSync(handle);
      process.on('exit', () => {
        if (holder(file)?.pid === process.pid) rmSync(file, { force: true });
      });
      return;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      const other = holder(file);
      if (other && lives(other.pid))
        throw new Stop(
          `Clear Tally runs already from this folder, at http://127.0.0.1:${other.port}. Open it there; to start it anew, end that one first (Ctrl-C where it was started).`,
        );
      // Left behind by a power cut.
      rmSync(file, { force: true });
    }
  }
}

function holder(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}

/** Also that it is a program of ours: numbers are given again after a restart of the machine. */
function lives(pid) {
  try {
    return (
      pid !== process.pid &&
      readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs') &&
      !/ [ZX] /.test(readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/\(.*\)/, ''))
    );
  } catch {
    return false;
  }
}

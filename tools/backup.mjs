import { spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statfsSync,
  writeFileSync,
} from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { backupsOf, backupsThere, keptBackups, packBackup, readBackup } from './backup-file.mjs';
import { ensurePackages } from './install.mjs';
import { inRoot } from './paths.mjs';
import { run, say, Stop } from './say.mjs';
import { databaseOf, keepOf, lastHouse } from './which-house.mjs';

// One file with the whole house, beside a running one, too. Old ones go by their age: 7 days, 5 weeks, 12 months.
await run(async () => {
  const { values } = parseArgs({
    options: {
      to: { type: 'string' },
      demo: { type: 'boolean' },
      house: { type: 'boolean' },
      help: { type: 'boolean' },
    },
  });
  if (values.help) {
    say(
      'npm run backup -- [--demo | --house] [--to FOLDER]\n\n  --to  where it is written: a folder, a mounted stick; without it .data/backups\n\nWith a passphrase in CLEAR_TALLY_PASSPHRASE it is encrypted. Lost with it is lost.',
    );
    return;
  }
  ensurePackages();
  const { hasHouse, openDatabase } = await import('./database.mjs');
  const folder = process.env.CLEAR_TALLY_DATA ?? inRoot('.data');
  if (!hasHouse(folder)) throw new Stop(`There is no house in ${folder} yet: npm start makes one.`);
  const which = values.house ? 'own' : values.demo ? 'demo' : lastHouse(folder);
  const into = resolve(values.to ?? backupsOf(folder));
  mkdirSync(into, { recursive: true });
  const cluster = await openDatabase({ folder });
  try {
    const { default: pg } = await import('pg');
    const client = new pg.Client({ connectionString: cluster.ownerUrl(databaseOf(which)) });
    await client.connect().catch(() => {
      throw new Stop(
        `There is no ${which === 'own' ? 'house of your own' : 'demo house'} here yet. Open it once first.`,
      );
    });
    const { rows } = await client.query(
      'select (select name from house) as house, count(*)::int as entries, (select hash from journal order by seq desc limit 1) as end from journal',
    );
    await client.end();
    const [{ house, entries, end }] = rows;
    if (!entries) throw new Stop('Nothing was ever recorded in this house: there is nothing to keep.');
    const free = statfsSync(into);
    const dumped = spawnSync(
      cluster.program('pg_dump'),
      ['-Fc', '-Z', '6', '-d', cluster.ownerUrl(databaseOf(which))],
      {
        maxBuffer: 8 * 2 ** 30,
      },
    );
    if (dumped.status !== 0) throw new Stop(`The database could not be written out:\n${dumped.stderr}`);
    if (free.bavail * free.bsize < dumped.stdout.length * 1.2)
      throw new Stop(
        `${into} has not enough room for ${Math.ceil(dumped.stdout.length / 1e6)} MB. Nothing was written.`,
      );
    const keep = keepOf(folder, which);
    const files = existsSync(keep)
      ? Object.fromEntries(readdirSync(keep).map((name) => [name, readFileSync(join(keep, name)).toString('base64')]))
      : {};
    const at = new Date();
    const stamp = at.toISOString().slice(0, 19).replaceAll(':', '');
    const file = join(into, `clear-tally-${which}-${stamp}.backup`);
    const bytes = packBackup({
      about: { house, which, at: at.toISOString(), entries, end, keep: files },
      dump: dumped.stdout,
      passphrase: process.env.CLEAR_TALLY_PASSPHRASE,
    });
    // Under its name it is whole, or not there.
    writeFileSync(`${file}.part`, bytes, { mode: 0o600 });
    readBackup(readFileSync(`${file}.part`));
    renameSync(`${file}.part`, file);
    const all = backupsThere(into, which);
    const kept = keptBackups(
      all.map((one) => one.at),
      at.getTime(),
    );
    const gone = all.filter((one) => !kept.has(one.at));
    for (const { name } of gone) rmSync(join(into, name), { force: true });
    say(
      `${house}, ${entries} entries, ${(bytes.length / 1e6).toFixed(1)} MB${process.env.CLEAR_TALLY_PASSPHRASE ? ', encrypted' : ''}:\n${file}${gone.length > 0 ? `\n${gone.length} old ${gone.length === 1 ? 'one is' : 'ones are'} gone.` : ''}`,
    );
  } finally {
    if (cluster.startedHere) cluster.stop();
  }
});

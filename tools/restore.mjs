import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { unpackBackup } from './backup-file.mjs';
import { ensurePackages } from './install.mjs';
import { inRoot } from './paths.mjs';
import { run, say, Stop } from './say.mjs';
import { databaseOf, keepOf } from './which-house.mjs';

// A backup comes back into a house where nothing was ever recorded, and the whole of it is looked at.
await run(async () => {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { demo: { type: 'boolean' }, house: { type: 'boolean' }, help: { type: 'boolean' } },
  });
  if (values.help || positionals.length !== 1) {
    say(
      'npm run restore -- FILE [--demo | --house]\n\n  FILE is a backup, or a whole house as JSON (Trace, Records). Into the house it was of, or the one that is said. That house is empty: npm start -- --fresh empties one.\n  An encrypted one asks for its passphrase in CLEAR_TALLY_PASSPHRASE.',
    );
    if (!values.help) process.exitCode = 1;
    return;
  }
  const path = resolve(positionals[0]);
  if (!existsSync(path)) throw new Stop(`There is no file ${path}.`);
  const bytes = readFileSync(path);
  // A backup says of itself what it is, too; the file of a whole house by another word.
  const isHouseFile = bytes.subarray(0, 60).includes('"format":"clear-tally/house"');
  const { head, dump } = isHouseFile
    ? { head: { which: 'own', keep: {} }, dump: null }
    : unpackBackup(bytes, process.env.CLEAR_TALLY_PASSPHRASE);
  ensurePackages();
  const { ensureDatabase } = await import('./postgres.mjs');
  const { openDatabase } = await import('./database.mjs');
  const { buildServer } = await import('./build.mjs');
  await buildServer();
  const folder = process.env.CLEAR_TALLY_DATA ?? inRoot('.data');
  mkdirSync(folder, { recursive: true });
  const which = values.house ? 'own' : values.demo ? 'demo' : head.which;
  const database = databaseOf(which);
  const cluster = await openDatabase({ folder });
  try {
    if ((await entriesIn(cluster, database)) > 0)
      throw new Stop(
        `${which === 'own' ? 'The house of your own' : 'The demo house'} here has entries. A backup comes back into an empty one: npm start -- ${which === 'own' ? '--house' : '--demo'} --fresh empties it, after asking.`,
      );
    await ensureDatabase(cluster, database, { fresh: true });
    if (isHouseFile) takenIn(cluster, database, path);
    else await readBack(cluster, database, { name: basename(path), dump, ensureDatabase });
    const keep = keepOf(folder, which);
    mkdirSync(keep, { recursive: true, mode: 0o700 });
    for (const [name, text] of Object.entries(head.keep))
      writeFileSync(join(keep, basename(name)), Buffer.from(text, 'base64'), { mode: 0o600 });
    if (!isHouseFile)
      say(
        `${head.house}, ${head.entries} entries, of ${head.at.slice(0, 16).replace('T', ' ')}: all of it is looked at now.`,
      );
    const looked = spawnSync(process.execPath, ['--enable-source-maps', inRoot('dist/server/verify.mjs')], {
      stdio: 'inherit',
      env: {
        ...process.env,
        DATABASE_URL: cluster.appUrl(database),
        DATABASE_OWNER_URL: cluster.ownerUrl(database),
        MIGRATIONS: inRoot('dist/server/migrations'),
        MIGRATE_FIRST: 'yes',
        CLEAR_TALLY_KEEP: keep,
      },
    });
    process.exitCode = looked.status ?? 1;
    // Beside the file it came from: this one is known to come back whole.
    if (looked.status === 0) writeFileSync(`${path}.verified`, `${new Date().toISOString()}\n`);
  } finally {
    if (cluster.startedHere) cluster.stop();
  }
});

/** Out of a backup, whole or not at all. */
async function readBack(cluster, database, { name, dump, ensureDatabase }) {
  const work = mkdtempSync(join(tmpdir(), 'clear-tally-'));
  try {
    const file = join(work, name);
    writeFileSync(file, dump, { mode: 0o600 });
    const back = spawnSync(
      cluster.program('pg_restore'),
      ['--no-owner', '--exit-on-error', '-d', cluster.ownerUrl(database), file],
      { encoding: 'utf8' },
    );
    if (back.status !== 0) {
      await ensureDatabase(cluster, database, { fresh: true });
      throw new Stop(`It could not be read back, and nothing of it is there:\n${back.stderr}`);
    }
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** Entry by entry, as each was recorded. */
function takenIn(cluster, database, path) {
  const taken = spawnSync(process.execPath, ['--enable-source-maps', inRoot('dist/server/takeIn.mjs'), path], {
    stdio: 'inherit',
    env: {
      ...process.env,
      DATABASE_URL: cluster.appUrl(database),
      DATABASE_OWNER_URL: cluster.ownerUrl(database),
      MIGRATIONS: inRoot('dist/server/migrations'),
    },
  });
  if (taken.status !== 0) throw new Stop('It did not come in. What is said above is why.');
}

async function entriesIn(cluster, database) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: cluster.ownerUrl(database) });
  try {
    await client.connect();
  } catch {
    return 0;
  }
  try {
    const { rows } = await client.query('select count(*)::int as many from journal');
    return rows[0].many;
  } catch {
    return 0;
  } finally {
    await client.end();
  }
}

import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensurePackages } from './install.mjs';
import { inRoot } from './paths.mjs';
import { run, say, Stop } from './say.mjs';
import { databaseOf, keepOf, lastHouse } from './which-house.mjs';

// Looks at the whole house: whether all that was recorded stands as it was. Works beside a running house, too.
await run(async () => {
  const { values } = parseArgs({
    options: {
      end: { type: 'string' },
      demo: { type: 'boolean' },
      house: { type: 'boolean' },
      help: { type: 'boolean' },
    },
  });
  if (values.help) {
    say(
      'npm run verify -- [--demo | --house] [--end chain-end-1234.json]\n\n  --demo, --house  which house; without either the one that was opened last\n  --end  the newest end of the chain that was kept elsewhere, as the page “Who recorded what” gives it',
    );
    return;
  }
  if (values.end && !existsSync(values.end)) throw new Stop(`There is no file ${values.end}.`);
  ensurePackages();
  const { hasHouse, openDatabase } = await import('./database.mjs');
  const { buildServer } = await import('./build.mjs');
  await buildServer();
  const folder = process.env.CLEAR_TALLY_DATA ?? inRoot('.data');
  if (!hasHouse(folder)) throw new Stop(`There is no house in ${folder} yet: npm start makes one.`);
  const which = values.house ? 'own' : values.demo ? 'demo' : lastHouse(folder);
  const cluster = await openDatabase({ folder });
  const looked = spawnSync(
    process.execPath,
    ['--enable-source-maps', inRoot('dist/server/verify.mjs'), ...(values.end ? [resolve(values.end)] : [])],
    {
      stdio: 'inherit',
      env: {
        ...process.env,
        DATABASE_URL: cluster.appUrl(databaseOf(which)),
        DATABASE_OWNER_URL: cluster.ownerUrl(databaseOf(which)),
        MIGRATIONS: inRoot('dist/server/migrations'),
        CLEAR_TALLY_KEEP: keepOf(folder, which),
      },
    },
  );
  if (cluster.startedHere) cluster.stop();
  process.exit(looked.status ?? 1);
});

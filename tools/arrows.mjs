import { spawnSync } from 'node:child_process';
import { inRoot, ROOT } from './paths.mjs';
import { say } from './say.mjs';

/** A cruiser that does not know its TypeScript skips files and is content: fewer than this is a failure. */
const LEAST_MODULES = 150;

const cruised = spawnSync(
  process.execPath,
  [
    inRoot('node_modules/dependency-cruiser/bin/dependency-cruise.mjs'),
    'packages',
    'apps/server/src',
    'apps/bench/src',
    'apps/web/src',
    '--config',
    '.dependency-cruiser.cjs',
    '--output-type',
    'json',
  ],
  { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28 },
);
const { summary } = JSON.parse(cruised.stdout || '{"summary":null}');
if (!summary) {
  say(cruised.stderr);
  process.exit(1);
}
for (const { rule, from, to } of summary.violations) say(`${rule.severity} ${rule.name}: ${from} -> ${to}`);
say(`${summary.totalCruised} modules, ${summary.error} wrong arrows`);
process.exit(summary.error > 0 || summary.totalCruised < LEAST_MODULES ? 1 : 0);

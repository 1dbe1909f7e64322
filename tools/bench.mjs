import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ensurePackages } from './install.mjs';
import { inRoot, ROOT } from './paths.mjs';
import { run, say } from './say.mjs';

/** Performance is measured here, never in a timed test. */
await run(async () => {
  ensurePackages();
  const { ensureDatabase, openCluster } = await import('./postgres.mjs');
  const { buildWeb } = await import('./build.mjs');
  buildWeb();
  const cluster = await openCluster({ folder: inRoot('.data', 'bench') });
  await ensureDatabase(cluster, 'bench', { fresh: true });
  spawnSync(process.execPath, ['--import', 'tsx', 'apps/server/bench/main.ts'], { cwd: ROOT, stdio: 'inherit', env: { ...process.env, DATABASE_URL: cluster.appUrl('bench'), DATABASE_OWNER_URL: cluster.ownerUrl('bench') } });
  cluster.stop();
  firstLoad();
});

/** Script and style that a browser fetches before a place is shown: what index.html names, and the frame. */
function firstLoad() {
  const folder = inRoot('dist/web/browser');
  const index = readFileSync(join(folder, 'index.html'), 'utf8');
  const named = new Set([...index.matchAll(/(?:src|href)="([^"]+\.(?:js|css))"/g)].map((match) => match[1]));
  const frame = readdirSync(folder).find((name) => name.endsWith('.js') && readFileSync(join(folder, name), 'utf8').includes('ct-code-box'));
  if (frame) named.add(frame);
  const bytes = [...named].reduce((sum, name) => sum + gzipSync(readFileSync(join(folder, name))).length, 0);
  say(`first load: ${(bytes / 1024).toFixed(0)} KB gzip of script and style in ${named.size} files, frame included`);
}

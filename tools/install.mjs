import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { inRoot, ROOT } from './paths.mjs';
import { say, Stop } from './say.mjs';

/** Makes sure of Debian packages: installs them when root, otherwise says the exact command. */
export function ensureDebian(packages, isThere) {
  if (isThere()) return;
  const command = `apt-get install -y ${packages.join(' ')}`;
  if (process.getuid?.() !== 0)
    throw new Stop(`${packages.join(' and ')} are needed and not installed. Run:\n\n  sudo ${command}\n`);
  say(`Installing ${packages.join(', ')} ...`);
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const update = spawnSync('apt-get', ['update'], { stdio: 'pipe', env: environment });
  const install = spawnSync('apt-get', ['install', '-y', '--no-install-recommends', ...packages], {
    stdio: 'pipe',
    env: environment,
  });
  if (install.status !== 0 || !isThere()) {
    throw new Stop(
      `Installing failed. Run by hand and look at what it says:\n\n  apt-get update && ${command}\n\n${String(update.stderr ?? '').trim()}\n${String(install.stderr ?? install.error ?? '').trim()}`,
    );
  }
}

/** `npm ci` when the packages are missing or the lock file has changed since. */
export function ensurePackages() {
  const wanted = createHash('sha256')
    .update(readFileSync(inRoot('package-lock.json')))
    .digest('hex');
  const stamp = inRoot('node_modules', '.installed');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Installing packages (npm ci, some minutes the first time) ...');
  const installed = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--ignore-scripts'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
  });
  if (installed.status !== 0) throw new Stop('npm ci failed; its message stands above.');
  mkdirSync(inRoot('node_modules'), { recursive: true });
  writeFileSync(stamp, wanted);
}

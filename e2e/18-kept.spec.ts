import { expect, test } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { backupDue, keptBackups } from '../tools/backup-file.mjs';
import { RunningHouse } from './runningHouse.js';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const kept = new RunningHouse('e2e-kept');
const back = new RunningHouse('e2e-back');
const backups = join(ROOT, '.data', 'e2e-backups');

const tool = (script: string, args: readonly string[], env: Record<string, string>) =>
  spawnSync(process.execPath, [join(ROOT, 'tools', script), ...args], {
    cwd: ROOT,
    encoding: 'utf8',
    env: { ...process.env, ...env },
  });

test.beforeAll(async () => {
  test.setTimeout(120_000);
  for (const folder of [kept.folder, back.folder, backups]) rmSync(folder, { recursive: true, force: true });
  mkdirSync(backups, { recursive: true });
  await kept.start({ own: true });
});
test.afterAll(async () => {
  await kept.stop();
  await back.stop();
});

test('a house is kept beside its running, comes back elsewhere whole, and a changed backup is refused', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const founded = await page.request.post(`${kept.address}/api/found`, {
    data: {
      house: { name: 'Two Elms', site: 'TE', timeZone: 'Europe/Dublin', decimalMark: 'point' },
      owner: { name: 'Alma Body', initials: 'AB', pin: '7351' },
    },
  });
  expect(founded.status()).toBe(200);
  const secret = { CLEAR_TALLY_PASSPHRASE: 'elms and salt' };
  const made = tool('backup.mjs', ['--house', '--to', backups], { CLEAR_TALLY_DATA: kept.folder, ...secret });
  expect(made.stdout, made.stderr).toContain('Two Elms, 2 entries');
  expect(made.stdout).toContain('encrypted');
  const [name] = readdirSync(backups);
  const file = join(backups, name!);
  const bytes = readFileSync(file);
  expect(bytes.includes('Alma Body')).toBe(false);

  const restore = (path: string, env: Record<string, string> = secret) =>
    tool('restore.mjs', [path], { CLEAR_TALLY_DATA: back.folder, ...env });
  const other = join(backups, 'changed');
  const changed = Buffer.from(bytes);
  changed[changed.length - 9]! ^= 1;
  writeFileSync(other, changed);
  expect(restore(other).stderr).toContain('not as it was written');
  writeFileSync(other, bytes.subarray(0, bytes.length - 100));
  expect(restore(other).stderr).toContain('not as it was written');
  expect(restore(file, { CLEAR_TALLY_PASSPHRASE: 'wrong' }).stderr).toContain('does not open it');

  const whole = restore(file);
  expect(whole.stdout, whole.stderr).toContain('Everything stands as it was recorded.');
  expect(existsSync(`${file}.verified`)).toBe(true);
  expect(restore(file).stderr).toContain('has entries');
  await back.start({ own: true });
  await page.goto(`${back.address}/sign-in`);
  await page.getByRole('radio', { name: 'Alma Body' }).click();
  await page.getByLabel('PIN').fill('7351');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.goto(`${back.address}/the-record`);
  await expect(page.getByRole('region', { name: 'Backups' })).toContainText('There is none yet');
});

test('seven days, five weeks, twelve months stay, and always the newest', () => {
  const day = 86_400_000;
  const now = Date.UTC(2026, 10, 26, 3);
  const nightly = Array.from({ length: 400 }, (_, i) => now - i * day);
  const stay = [...keptBackups(nightly, now)].map((at) => Math.round((now - at) / day)).sort((a, b) => a - b);
  expect(stay.slice(0, 7)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  expect(stay.filter((age) => age < 35).length).toBeLessThanOrEqual(12);
  expect(stay.length).toBeLessThanOrEqual(24);
  expect(stay.at(-1)!).toBeGreaterThan(300);
  expect([...keptBackups([now - 900 * day], now)]).toEqual([now - 900 * day]);
  expect([...keptBackups([], now)]).toEqual([]);
  expect(backupDue(join(backups, 'nowhere'), new Date())).toBe(true);
});

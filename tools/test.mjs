import { spawn } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { browserPath, ensureBrowsers } from './browser.mjs';
import { ensurePackages } from './install.mjs';
import { inRoot, ROOT } from './paths.mjs';
import { run, say } from './say.mjs';

const node = process.execPath;
const bin = (...parts) => inRoot('node_modules', ...parts);

/** Runs a command and collects what it prints; resolves with its status. */
function command(name, args, env = {}) {
  return new Promise((resolve) => {
    const started = Date.now();
    const child = spawn(node, args, {
      cwd: ROOT,
      env: {
        ...process.env,
        NG_CLI_ANALYTICS: 'false',
        NO_COLOR: '1',
        FORCE_COLOR: '0',
        ...env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let text = '';
    child.stdout.on('data', (data) => {
      text += data;
    });
    child.stderr.on('data', (data) => {
      text += data;
    });
    child.on('exit', (status) => {
      say(`${status === 0 ? 'ok  ' : 'FAIL'} ${name} (${((Date.now() - started) / 1000).toFixed(0)} s)`);
      if (status !== 0) say(text.split('\n').slice(-160).join('\n'));
      resolve({ name, status: status ?? 1, text });
    });
  });
}

/** How many tests a part ran, read from its runner's closing line. A part that says nothing ran none. */
const COUNTS = {
  jasmine: (text) => {
    const [, all, failed] = /(\d+) specs?, (\d+) failures?/.exec(text) ?? [];
    return all === undefined ? null : { passed: Number(all) - Number(failed), failed: Number(failed) };
  },
  karma: (text) => {
    const passed = /TOTAL: (\d+) SUCCESS|Executed \d+ of \d+ SUCCESS/.exec(text);
    const executed = [...text.matchAll(/Executed (\d+) of (\d+)(?: \((\d+) FAILED\))?/g)].at(-1);
    if (passed?.[1]) return { passed: Number(passed[1]), failed: 0 };
    return executed
      ? { passed: Number(executed[1]) - Number(executed[3] ?? 0), failed: Number(executed[3] ?? 0) }
      : null;
  },
  playwright: (text) => {
    const count = (word) => Number(new RegExp(`^\\s+(\\d+) ${word}`, 'm').exec(text)?.[1] ?? 0);
    const failed = count('failed') + count('did not run');
    return count('passed') + failed === 0 ? null : { passed: count('passed'), failed };
  },
};

const jasmine = (config) => ['--import', 'tsx', bin('jasmine/bin/jasmine.js'), `--config=${config}`];
/** What a check of promises asks of types is asked of the native compiler, and so are the types themselves. */
const tsc = (project) => [bin('typescript-7/bin/tsc'), '--noEmit', '-p', project];
const oxlint = [bin('oxlint/bin/oxlint'), '--type-aware', '--deny-warnings'];

const ng = bin('@angular/cli/bin/ng.js');
const eslint = [
  bin('eslint/bin/eslint.js'),
  '.',
  '--cache',
  '--cache-location',
  '.cache/eslint',
  '--max-warnings',
  '0',
];
const prettier = [
  bin('prettier/bin/prettier.cjs'),
  '--check',
  '.',
  '--cache',
  '--cache-location',
  '.cache/prettier',
  '--log-level',
  'warn',
];

/** The demo house that the browser tests begin with a copy of; here it costs no core that stands idle. */
const TEMPLATE = ['--import', 'tsx', '--eval', "import('./e2e/template.ts').then((one) => one.default())"];

const forKarma = () => ({ NG_BUILD_TYPE_CHECK: '0', CHROME_BIN: browserPath() });

/** Files of server specs that take a minute or more each go alone; the others in two parts. */
const LONG = ['4-kill', '14-hostile', '13-days'];

function serverParts() {
  const folder = 'apps/server/spec';
  const files = readdirSync(inRoot(folder)).filter((file) => file.endsWith('.spec.ts'));
  const isLong = (file) => LONG.includes(file.replace('.spec.ts', ''));
  const others = files.filter((file) => !isLong(file));
  return [
    ...files.filter(isLong).map((file) => [file.replace('.spec.ts', ''), [`${folder}/${file}`]]),
    ...[0, 1].map((part) => [
      `part ${part + 1}`,
      others.filter((_, i) => i % 2 === part).map((file) => `${folder}/${file}`),
    ]),
  ];
}

await run(async () => {
  ensureBrowsers();
  ensurePackages();
  const { databaseForTests } = await import('./database-for-tests.mjs');
  const { cluster, env } = await databaseForTests();
  const checks = [];
  const counted = [];
  let built = Promise.resolve();
  const check = async (...args) => checks.push(await command(...args));
  const count = async (kind, ...args) => counted.push({ ...(await command(...args)), kind });
  const serverSpecs = (name, files) =>
    count('jasmine', `server: ${name}`, [...jasmine('apps/server/jasmine.json'), ...files], env);
  try {
    // One queue for two cores, the long things first; the browser tests come last and alone: they measure patience.
    const queue = [
      ...serverParts().map(([name, files]) => [`server: ${name}`, () => serverSpecs(name, files)]),
      ['builds', () => (built = check('builds', ['tools/build-all.mjs']))],
      // Their types are checked below, ten times as fast; those of the templates when the interface is built.
      ['web', () => count('karma', 'web', [ng, 'test', 'web', '--watch=false', '--progress=false'], forKarma())],
      ['lint', () => check('lint', eslint)],
      ['format', () => check('format', prettier)],
      ['core', () => count('jasmine', 'core', jasmine('packages/core/jasmine.json'))],
      ['promises', () => check('promises', oxlint)],
      ...['apps/server', 'apps/web/tsconfig.spec.json', 'packages/core', 'packages/contract', 'apps/bench', 'e2e'].map(
        (project) => [`types of ${project}`, () => check(`types of ${project}`, tsc(project))],
      ),
      ['contract', () => count('jasmine', 'contract', jasmine('packages/contract/jasmine.json'))],
      ['bench', () => count('jasmine', 'bench', jasmine('apps/bench/jasmine.json'))],
      ['arrows', () => check('arrows', ['tools/arrows.mjs'])],
      // Exports, files and dependencies that nobody uses.
      ['unused', () => check('unused', [bin('knip/bin/knip.js'), '--no-progress'])],
      ['house of the browser tests', () => built.then(() => check('house of the browser tests', TEMPLATE))],
    ];
    const lane = async () => {
      for (let next = queue.shift(); next; next = queue.shift()) await next[1]();
    };
    await Promise.all([lane(), lane()]);
    await count(
      'playwright',
      'browser',
      [bin('@playwright/test/cli.js'), 'test', '--config', 'e2e/playwright.config.ts'],
      { CLEAR_TALLY_TEMPLATE: 'made' },
    );
  } finally {
    cluster.stop();
  }
  let passed = checks.filter(({ status }) => status === 0).length;
  let failed = checks.length - passed;
  for (const { name, kind, status, text } of counted) {
    const found = COUNTS[kind](text);
    // A runner that ended badly without naming a failed test still failed.
    const bad = Math.max(found?.failed ?? 1, status === 0 ? 0 : 1);
    if (!found) say(`${name} did not say how many tests it ran.`);
    passed += found?.passed ?? 0;
    failed += bad;
  }
  say(`\n${passed} passed, ${failed} failed`);
  process.exitCode = failed === 0 ? 0 : 1;
});

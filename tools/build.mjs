import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { inRoot, ROOT } from './paths.mjs';
import { say, Stop } from './say.mjs';

/** One hash over everything a part is built from. */
function sourceHash(folders) {
  const hash = createHash('sha256');
  const walk = (folder) => {
    for (const item of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      if (item.name === 'node_modules' || item.name === 'dist') continue;
      const path = join(folder, item.name);
      if (item.isDirectory()) walk(path);
      else hash.update(path.slice(ROOT.length)).update(readFileSync(path));
    }
  };
  folders.forEach((folder) => walk(inRoot(folder)));
  for (const how of ['package-lock.json', 'angular.json', 'tools/build.mjs']) hash.update(readFileSync(inRoot(how)));
  return hash.digest('hex');
}

function whenStale(name, folders, build) {
  const stamp = inRoot('.cache', `${name}.built`);
  const now = sourceHash(folders);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now && existsSync(inRoot('dist', name))) return false;
  say(`Building the ${name} ...`);
  build();
  mkdirSync(inRoot('.cache'), { recursive: true });
  writeFileSync(stamp, now);
  return true;
}

/** The server as one bundle with its migrations beside it. */
export async function buildServer() {
  const pending = [];
  whenStale('server', ['packages', 'apps/server'], () => {
    pending.push(bundleServer(inRoot('dist/server')));
    cpSync(inRoot('apps/server/migrations'), inRoot('dist/server/migrations'), { recursive: true });
  });
  await Promise.all(pending);
}

/**
 * Libraries of plain scripts that every start needs go into the bundle: one file is read in a third of the time that
 * their thousand take. What brings files of its own, or is read only when it is asked for, stays outside.
 */
const INSIDE = [
  '@koa/bodyparser',
  '@koa/router',
  'drizzle-orm',
  'koa',
  'koa-compress',
  'koa-helmet',
  'koa-send',
  'pg',
  'qrcode',
  'rate-limiter-flexible',
  'uuid',
  'zod',
];

/** The server's programs, each as one file. */
export async function bundleServer(outdir) {
  const { build } = await import('esbuild');
  const { dependencies } = JSON.parse(readFileSync(inRoot('package.json'), 'utf8'));
  const outside = Object.keys(dependencies).filter((one) => !INSIDE.includes(one));
  mkdirSync(outdir, { recursive: true });
  await build({
    entryPoints: {
      main: inRoot('apps/server/src/main.ts'),
      verify: inRoot('apps/server/src/verify.ts'),
      takeIn: inRoot('apps/server/src/takeIn.ts'),
      papersWorker: inRoot('apps/server/src/papers/worker.ts'),
    },
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external: outside.flatMap((one) => [one, `${one}/*`]),
    // Some of them are written for `require`.
    banner: {
      js: "import { createRequire as requireOf } from 'node:module'; const require = requireOf(import.meta.url);",
    },
    alias: {
      '@clear-tally/core': inRoot('packages/core/src/index.ts'),
      '@clear-tally/contract': inRoot('packages/contract/src/index.ts'),
    },
    sourcemap: true,
    sourcesContent: false,
    logLevel: 'warning',
  });
}

/** The simulated bench. */
export async function buildBench() {
  const { build } = await import('esbuild');
  const pending = [];
  whenStale('bench', ['packages/core', 'apps/bench'], () =>
    pending.push(
      build({
        entryPoints: [inRoot('apps/bench/src/main.ts')],
        outfile: inRoot('dist/bench/main.mjs'),
        bundle: true,
        platform: 'node',
        format: 'esm',
        target: 'node20',
        packages: 'external',
        alias: { '@clear-tally/core': inRoot('packages/core/src/index.ts') },
        sourcemap: true,
        logLevel: 'warning',
      }),
    ),
  );
  await Promise.all(pending);
}

/** The interface. */
export function buildWeb() {
  whenStale('web', ['packages', 'apps/web'], () => {
    const built = spawnSync(
      process.execPath,
      [inRoot('node_modules/@angular/cli/bin/ng.js'), 'build', 'web', '--progress=false'],
      {
        cwd: ROOT,
        encoding: 'utf8',
        env: { ...process.env, NG_CLI_ANALYTICS: 'false', NG_BUILD_OPTIMIZE_CHUNKS: '1' },
      },
    );
    if (built.status !== 0) throw new Stop(`The interface does not build:\n${built.stdout}\n${built.stderr}`);
    packed(inRoot('dist/web/browser'));
  });
}

/** Beside each file of words its packed form: packed once here, not anew for every tablet that opens a page. */
function packed(folder) {
  for (const name of readdirSync(folder).filter((one) => /\.(js|css|html|svg)$/.test(one))) {
    const bytes = readFileSync(join(folder, name));
    if (bytes.length > 1024) writeFileSync(join(folder, `${name}.gz`), gzipSync(bytes, { level: 9 }));
  }
}

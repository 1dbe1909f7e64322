import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, renameSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { ensurePackages } from './install.mjs';
import { holdFolder } from './lock.mjs';
import { inRoot } from './paths.mjs';
import { portIsFree } from './ports.mjs';
import { run, say, Stop } from './say.mjs';
import { backupDue, backupsOf } from './backup-file.mjs';
import { databaseOf, GO_OVER, keepOf, lastHouse, otherHouse, rememberHouse } from './which-house.mjs';

await run(async () => {
  const { values } = parseArgs({
    options: {
      demo: { type: 'boolean' },
      house: { type: 'boolean' },
      fresh: { type: 'boolean' },
      yes: { type: 'boolean' },
      port: { type: 'string', default: process.env.PORT ?? '4280' },
      address: { type: 'string' },
      host: { type: 'string' },
      'host-port': { type: 'string' },
      cert: { type: 'string' },
      key: { type: 'string' },
      proxy: { type: 'boolean' },
      bench: { type: 'boolean' },
      'as-built': { type: 'boolean' },
      help: { type: 'boolean' },
    },
  });
  if (values.help) {
    say(
      'npm start -- [--demo | --house] [--port 4280] [--fresh [--yes]] [--host 0.0.0.0 [--host-port 4281] [--cert FILE --key FILE]]\n         [--address https://house.example [--proxy]]\n\n  --demo   the demo house; --house  the house of your own. Without either: the one that was opened last\n  --port   where the interface is served, on 127.0.0.1\n  --fresh  empties the house that is opened first, after asking; --yes answers it\n  --host     serves other devices of the network too, encrypted: 0.0.0.0, or a name or an address of this machine\n  --host-port  at which port; 4281, or the one after --port\n  --cert, --key  a certificate from elsewhere, in PEM form; without them the house makes its own and renews it\n  --address  under which other machines reach this house: it stands on labels and in calendars\n  --proxy    a proxy before it says where each request comes from\n  --bench    the simulated scales, meter, printer and scanner in the house of your own too: to try, for what they show was measured by nothing\n  --as-built  starts what was built last, and builds nothing\n\nReal devices take the place of the simulated ones by CLEAR_TALLY_DEVICES, see docs/bench-protocol.md.',
    );
    return;
  }
  const port = Number(values.port);
  if (!(Number.isInteger(port) && port > 0 && port < 65_536))
    throw new Stop(`“${values.port}” is no port. Give a number from 1 to 65535.`);
  const network = readNetwork(values, port);
  const address = values.address === undefined ? undefined : readAddress(values.address);
  const folder = process.env.CLEAR_TALLY_DATA ?? inRoot('.data');
  mkdirSync(folder, { recursive: true });
  if (values.demo && values.house) throw new Stop('--demo and --house are two houses. Say one of them.');
  let which = values.house ? 'own' : values.demo ? 'demo' : lastHouse(folder);
  holdFolder(join(folder, 'start.lock'), { port });
  if (!(await portIsFree(port, '127.0.0.1')))
    throw new Stop(
      `Port ${port} is taken by another program, or Clear Tally runs already. Choose another:\n\n  npm start -- --port ${port + 1}\n`,
    );
  if (values.fresh && !values.yes) await askToEmpty(which);
  ensurePackages();
  const { ensureDatabase } = await import('./postgres.mjs');
  const { openDatabase } = await import('./database.mjs');
  const { buildBench, buildServer, buildWeb } = await import('./build.mjs');
  if (!values['as-built']) {
    await buildServer();
    await buildBench();
    buildWeb();
  }
  const cluster = await openDatabase({ folder });
  let server = null;
  let bench = null;
  let stopping = false;
  let greeted = false;
  let watch;
  const stop = (status) => {
    if (stopping) return;
    stopping = true;
    clearInterval(watch);
    const end = () => {
      if (cluster.startedHere) cluster.stop();
      process.exit(status);
    };
    bench?.kill('SIGTERM');
    if (!server || server.exitCode !== null || server.signalCode !== null) return end();
    server.once('exit', end);
    server.kill('SIGTERM');
    setTimeout(() => server.kill('SIGKILL'), 15_000).unref();
  };
  process.on('SIGINT', () => stop(0));
  process.on('SIGTERM', () => stop(0));
  process.on('SIGHUP', () => stop(0));
  await ensureDatabase(cluster, databaseOf(which), { fresh: values.fresh });
  if (values.fresh) setAside(keepOf(folder, which));
  rememberHouse(folder, which);
  // A database that dies is started again at its port; nothing recorded is lost with it.
  watch = setInterval(() => {
    if (stopping || cluster.runs()) return;
    say(
      `The database has ended by itself; ${cluster.again() ? 'it runs again' : `it does not start: look at ${join(cluster.data, 'server.log')}`}.`,
    );
  }, 2000);
  let simulated = null;
  // What a simulated scale shows was weighed by nothing: in a book that is kept for the law it stands only where asked for.
  const devicesOf = async () => {
    if (process.env.CLEAR_TALLY_DEVICES !== undefined) return process.env.CLEAR_TALLY_DEVICES;
    if (which === 'own' && !values.bench) return '[]';
    if (!simulated) ({ bench, devices: simulated } = await startBench());
    return simulated;
  };
  const serve = async () => {
    const devices = await devicesOf();
    server = spawn(process.execPath, ['--enable-source-maps', inRoot('dist/server/main.mjs')], {
      // A process group of its own: Ctrl-C reaches us first, and we end it in order.
      detached: true,
      stdio: ['ignore', 'pipe', 'inherit'],
      env: {
        ...process.env,
        CLEAR_TALLY_DEVICES: devices,
        PORT: String(port),
        DATABASE_URL: cluster.appUrl(databaseOf(which)),
        DATABASE_OWNER_URL: cluster.ownerUrl(databaseOf(which)),
        CLEAR_TALLY_HOUSE: which,
        WEB_ROOT: inRoot('dist/web/browser'),
        NODE_ENV: 'production',
        CLEAR_TALLY_KEEP: keepOf(folder, which),
        CLEAR_TALLY_BACKUPS: backupsOf(folder),
        CLEAR_TALLY_LOGS: join(folder, 'logs'),
        CLEAR_TALLY_HOST: network?.host ?? '',
        CLEAR_TALLY_HOST_PORT: String(network?.port ?? ''),
        CLEAR_TALLY_CERT: network?.cert ?? '',
        CLEAR_TALLY_KEY: network?.key ?? '',
        CLEAR_TALLY_TLS: join(folder, 'certificate'),
        CLEAR_TALLY_ADDRESS: address ?? '',
        CLEAR_TALLY_PROXY: values.proxy ? 'yes' : '',
      },
    });
    server.stdout.on('data', (data) => {
      const text = String(data);
      if (text.includes('listening')) {
        if (!greeted) void greet(port, network);
        greeted = true;
      } else process.stdout.write(text);
    });
    server.on('exit', (code) => {
      if (stopping) return;
      if (code !== GO_OVER) return stop(code ?? 1);
      which = otherHouse(which);
      rememberHouse(folder, which);
      say(which === 'own' ? 'The house of your own is opened.' : 'The demo house is opened.');
      void ensureDatabase(cluster, databaseOf(which))
        .then(serve)
        .catch((error) => {
          say(String(error));
          stop(1);
        });
    });
  };
  await serve();
  // A house of one's own is kept every night by itself; the demo house is made anew.
  const nightly = setInterval(() => {
    if (!stopping && which === 'own' && backupDue(backupsOf(folder), new Date())) keepHouse();
  }, 15 * 60_000);
  nightly.unref();
});

/** In a process of its own, beside the running house. */
function keepHouse() {
  const child = spawn(process.execPath, [inRoot('tools/backup.mjs'), '--house'], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  child.stderr.on('data', (data) => say(`The backup of tonight: ${String(data).trim()}`));
}

/** What other devices are served at; null: this machine alone. */
function readNetwork(values, port) {
  if ((values.cert === undefined) !== (values.key === undefined))
    throw new Stop('A certificate and its key come together: --cert FILE --key FILE.');
  if (values.host === undefined) {
    if (values.cert || values['host-port'])
      throw new Stop('--cert, --key and --host-port say how other devices are served: say --host 0.0.0.0 with them.');
    return null;
  }
  if (!/^[A-Za-z0-9][A-Za-z0-9.:-]*$/.test(values.host))
    throw new Stop(`“${values.host}” is no name or address of this machine. 0.0.0.0 takes all of its addresses.`);
  const at = Number(values['host-port'] ?? port + 1);
  if (!(Number.isInteger(at) && at > 0 && at < 65_536) || at === port)
    throw new Stop(
      `“${values['host-port']}” is no port for other devices. Give a number from 1 to 65535 other than ${port}.`,
    );
  for (const file of [values.cert, values.key])
    if (file !== undefined && !existsSync(file)) throw new Stop(`There is no file ${file}.`);
  return {
    host: values.host,
    port: at,
    cert: values.cert && resolve(values.cert),
    key: values.key && resolve(values.key),
  };
}

function readAddress(text) {
  const url = URL.canParse(text) ? new URL(text) : null;
  if (!url || !['http:', 'https:'].includes(url.protocol) || url.pathname !== '/')
    throw new Stop(
      `“${text}” is no address of a house. It reads like https://house.example or http://192.168.1.20:4280.`,
    );
  return url.origin;
}

/** The ends of the chain of a house that was emptied belong to that house. */
function setAside(keep) {
  if (existsSync(join(keep, 'chain-ends.jsonl')))
    renameSync(keep, `${keep}-until-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}`);
}

/** The simulated scales, printer and scanner, in a process of their own on free loopback ports. */
function startBench() {
  return new Promise((resolve, reject) => {
    const bench = spawn(process.execPath, ['--enable-source-maps', inRoot('dist/bench/main.mjs')], {
      detached: true,
      stdio: ['ignore', 'pipe', 'inherit'],
      env: process.env,
    });
    bench.once('exit', (code) => reject(new Stop(`The simulated bench ended at once, with ${code}.`)));
    bench.stdout.on('data', (data) => {
      const devices = /^bench (\[.*\])$/m.exec(String(data))?.[1];
      if (devices) resolve({ bench, devices });
    });
  });
}

async function greet(port, network) {
  const address = `http://127.0.0.1:${port}`;
  const { house, people, demoPins } = await (await fetch(`${address}/api/sign-in`)).json();
  say(`\nClear Tally is ready at ${address}\n`);
  if (demoPins) {
    say(`The demo house, ${house}, is all made up. Sign in with a name and its PIN:`);
    for (const { name, pin } of demoPins) say(`  ${name.padEnd(20)} ${pin}`);
  }
  if (!house) say('No house is here yet: open the page, and found yours.');
  else if (!demoPins) say(`${house}: ${people.length} ${people.length === 1 ? 'person signs' : 'people sign'} in.`);
  if (network)
    say(
      `\nOther devices of this network reach it over an encrypted line at port ${network.port}: Office, Other devices shows\nthe address, a code to scan, and how a tablet is told to trust it.`,
    );
  say('\nCtrl-C stops everything.');
}

async function askToEmpty(which) {
  if (!process.stdin.isTTY)
    throw new Stop(
      '--fresh deletes every record of this house and asks first. Without a terminal, say it twice: --fresh --yes',
    );
  const terminal = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await terminal.question(
    `This deletes every record of ${which === 'own' ? 'the house of your own' : 'the demo house'} here. Type “empty” to go on: `,
  );
  terminal.close();
  if (answer.trim() !== 'empty') throw new Stop('Nothing was changed.');
}

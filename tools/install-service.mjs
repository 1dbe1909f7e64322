import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensurePackages } from './install.mjs';
import { inRoot, ROOT } from './paths.mjs';
import { run, say, Stop } from './say.mjs';

const UNIT = '/etc/systemd/system/clear-tally.service';

/**
 * A service that starts the house with this machine, as a user of its own with a folder of its own. `--print` shows the
 * unit and changes nothing.
 */
await run(async () => {
  const { values } = parseArgs({
    options: {
      user: { type: 'string', default: 'clear-tally' },
      data: { type: 'string', default: '/var/lib/clear-tally' },
      port: { type: 'string', default: '4280' },
      host: { type: 'string' },
      print: { type: 'boolean' },
      help: { type: 'boolean' },
    },
  });
  if (values.help) {
    say(
      'node tools/install-service.mjs [--host 0.0.0.0] [--port 4280] [--user clear-tally] [--data /var/lib/clear-tally] [--print]\n\n  --print  shows the unit and changes nothing\n\nWith DATABASE_URL set, the service uses that PostgreSQL.',
    );
    return;
  }
  for (const [name, text] of [
    ['user', values.user],
    ['data', values.data],
    ['host', values.host ?? 'x'],
    ['port', values.port],
  ])
    if (!/^[\w./:-]+$/.test(text)) throw new Stop(`“${text}” cannot be a --${name} of a service.`);
  if (!/^\d{1,5}$/.test(values.port)) throw new Stop(`“${values.port}” is no port.`);
  const unit = unitOf({ ...values, database: Boolean(process.env.DATABASE_URL) });
  if (values.print) return say(unit);
  if (process.getuid?.() !== 0)
    throw new Stop('A service is installed as root:\n\n  sudo node tools/install-service.mjs\n');
  if (!existsSync('/run/systemd/system'))
    throw new Stop(
      'This machine is not run by systemd. `node tools/install-service.mjs --print` shows what has to be started, as whom and where.',
    );
  ensurePackages();
  const { buildBench, buildServer, buildWeb } = await import('./build.mjs');
  await buildServer();
  await buildBench();
  buildWeb();
  if (spawnSync('id', [values.user]).status !== 0)
    does('useradd', ['--system', '--home-dir', values.data, '--shell', '/usr/sbin/nologin', values.user]);
  mkdirSync(values.data, { recursive: true });
  does('chown', [`${values.user}:`, values.data]);
  chmodSync(values.data, 0o700);
  readableBy(values.user);
  if (process.env.DATABASE_URL) {
    // Its password stands in a file that root and the service alone can read.
    const file = join(values.data, 'service.env');
    writeFileSync(file, `DATABASE_URL=${process.env.DATABASE_URL}\n`, { mode: 0o600 });
    does('chown', [`${values.user}:`, file]);
  }
  writeFileSync(UNIT, unit);
  does('systemctl', ['daemon-reload']);
  does('systemctl', ['enable', '--now', 'clear-tally']);
  say(`The house starts with this machine now, as the user “${values.user}”. Its data lie in ${values.data}.

  systemctl status clear-tally        how it does
  journalctl -u clear-tally           what it says
  systemctl disable --now clear-tally ends it; the data stay

A new version: systemctl stop clear-tally, bring the new files here, run this again.`);
});

/** The unit of systemd. A power cut, a fault and a reboot end in the same way: it is started again. */
function unitOf({ user, data, port, host, database }) {
  return `[Unit]
Description=Clear Tally, the record of a fermentation house
After=network-online.target
Wants=network-online.target

[Service]
Type=simple
User=${user}
WorkingDirectory=${ROOT}
Environment=CLEAR_TALLY_DATA=${data}
Environment=NODE_ENV=production
${database ? `EnvironmentFile=${data}/service.env\n` : ''}ExecStart=${process.execPath} ${inRoot('tools/start.mjs')} --house --as-built --port ${port}${host ? ` --host ${host}` : ''}
Restart=always
RestartSec=5
KillSignal=SIGTERM
KillMode=mixed
TimeoutStopSec=40
NoNewPrivileges=yes
PrivateTmp=yes
ProtectSystem=full
ProtectHome=read-only
ReadWritePaths=${data}

[Install]
WantedBy=multi-user.target
`;
}

function does(name, args) {
  const done = spawnSync(name, args, { encoding: 'utf8' });
  if (done.status !== 0)
    throw new Stop(`“${name} ${args.join(' ')}” did not work: ${(done.stderr || String(done.error)).trim()}`);
}

/** Its user has to read this folder, and those above it. */
function readableBy(user) {
  const seen = spawnSync('runuser', [
    '-u',
    user,
    '--',
    process.execPath,
    '-e',
    `require('fs').readFileSync('${inRoot('package.json')}')`,
  ]);
  if (seen.status !== 0)
    throw new Stop(
      `The user “${user}” cannot read ${ROOT}. Bring this folder to /opt/clear-tally, readable by everybody, and run this there.`,
    );
}

import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { test } from '@playwright/test';
import { freePort } from '../tools/ports.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

/** Clear Tally as a person starts it, with data of its own, that can be stopped and started again. */
export class RunningHouse {
  private child: ChildProcess | null = null;
  private port = 0;

  constructor(private readonly name: string) {}

  /** Where its data lie. */
  get folder(): string {
    return join(ROOT, '.data', this.name);
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(
    options: {
      fresh?: boolean;
      asBuilt?: boolean;
      own?: boolean;
      args?: readonly string[];
      env?: Record<string, string>;
    } = {},
  ): Promise<void> {
    const isNew = this.port === 0;
    this.port ||= await freePort();
    try {
      await this.begin(options);
    } catch (error) {
      // Between finding a free port and listening on it somebody else may have taken it.
      if (!isNew || !String(error).includes('EADDRINUSE')) throw error;
      this.port = await freePort();
      await this.begin(options);
    }
  }

  private async begin(options: Parameters<RunningHouse['start']>[0] = {}): Promise<void> {
    const child = spawn(
      process.execPath,
      [
        'tools/start.mjs',
        '--port',
        String(this.port),
        ...(options.fresh ? ['--fresh', '--yes'] : []),
        ...(options.own ? ['--house'] : []),
        ...(options.args ?? []),
        ...((options.asBuilt ?? true) ? ['--as-built'] : []),
      ],
      {
        cwd: ROOT,
        stdio: ['ignore', 'pipe', 'pipe'],
        env: {
          ...process.env,
          CLEAR_TALLY_DATA: this.folder,
          CLEAR_TALLY_DEMO_ROUND: 'open',
          CLEAR_TALLY_DEMO: 'short',
          ...options.env,
        },
      },
    );
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      let said = '';
      const hear = (data: Buffer): void => {
        said += String(data);
        if (said.includes('is ready at')) resolve();
      };
      child.stdout!.on('data', hear);
      child.stderr!.on('data', hear);
      child.on('exit', () => reject(new Error(`it did not start:\n${said}`)));
    });
  }

  async stop(): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    await gone;
  }
}

/** The demo house as it is made, stopped: every file of tests begins with a copy of it. */
export const TEMPLATE = new RunningHouse('e2e-template');

/**
 * A demo house of one file of tests alone, untouched when its tests begin, stopped after them: its last eleven weeks, or
 * the whole of it.
 */
export function houseOf(name: string, { whole = false }: { whole?: boolean } = {}): RunningHouse {
  const house = new RunningHouse(`e2e-${name}`);
  test.beforeAll(async () => {
    test.setTimeout(300_000);
    rmSync(house.folder, { recursive: true, force: true });
    // Where the database's user cannot enter this checkout the data lie elsewhere: then each house is made by itself.
    const copy = !whole && existsSync(join(TEMPLATE.folder, 'cluster'));
    if (copy) await copied(TEMPLATE.folder, house.folder);
    await house.start({ fresh: !copy, env: whole ? { CLEAR_TALLY_DEMO: 'whole' } : {} });
  });
  test.afterAll(() => house.stop());
  return house;
}

/** With its owners: as root, the database's files belong to the database's own user. */
function copied(from: string, to: string): Promise<void> {
  return new Promise((resolve, reject) => {
    spawn('cp', ['-a', from, to], { stdio: 'inherit' }).on('exit', (status) =>
      status === 0 ? resolve() : reject(new Error(`${from} could not be copied to ${to}`)),
    );
  });
}

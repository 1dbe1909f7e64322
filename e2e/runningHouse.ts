import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { test } from '@playwright/test';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

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

  async start(options: { fresh?: boolean } = {}): Promise<void> {
    this.port ||= await freePort();
    const child = spawn(
      process.execPath,
      ['tools/start.mjs', '--port', String(this.port), ...(options.fresh ? ['--fresh', '--yes'] : [])],
      {
        cwd: ROOT,
        stdio: ['ignore', 'pipe', 'pipe'],
        env: { ...process.env, CLEAR_TALLY_DATA: this.folder },
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

/** The house the browser tests share, started before the tests of the file that asks for it and stopped after them. */
export function houseOfTheTests(): RunningHouse {
  const house = new RunningHouse('e2e');
  test.beforeAll(async () => {
    test.setTimeout(300_000);
    await house.start();
  });
  test.afterAll(() => house.stop());
  return house;
}

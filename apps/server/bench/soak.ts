import { v7 } from 'uuid';

// Fifty people read and eight record, as in a busy house, for some minutes: what each of them waits.
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const [address, personId, pin] = process.argv.slice(2) as [string, string, string];
const minutes = Number(process.env['MINUTES'] ?? 10);
const [READERS, RECORDERS] = [50, 8];
/** Between two looks of one reader, and two entries of one recorder. */
const [LOOKS_EVERY, RECORDS_EVERY] = [2000, 1000];
const signIn = await fetch(`${address}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId, pin }),
});
const headers = {
  'content-type': 'application/json',
  cookie: signIn.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; '),
};
const { vessels } = (await (await fetch(`${address}/api/floor`, { headers })).json()) as {
  vessels: { lotId: string; code: string }[];
};
const { lots: runs } = (await (await fetch(`${address}/api/lots?kind=run`, { headers })).json()) as {
  lots: { code: string }[];
};
const times = new Map<string, number[]>();
const errors = new Map<string, number>();
const until = Date.now() + minutes * 60_000;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms * (0.5 + Math.random())));

async function timed(name: string, path: string, body?: unknown): Promise<void> {
  const started = performance.now();
  try {
    const reply = await fetch(address + path, {
      headers,
      ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
    });
    await reply.arrayBuffer();
    if (!reply.ok) errors.set(`${name} ${reply.status}`, (errors.get(`${name} ${reply.status}`) ?? 0) + 1);
  } catch (error) {
    errors.set(`${name} ${String(error)}`, (errors.get(`${name} ${String(error)}`) ?? 0) + 1);
  }
  const list = times.get(name) ?? times.set(name, []).get(name)!;
  list.push(performance.now() - started);
}
const one = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)]!;

/** What people record through a day, about as often: mostly looks and timers, now and then a figure. */
function entry(lotId: string): [string, object] {
  const dice = Math.random();
  if (dice < 0.06) return ['ph.read', { lotId, ph: 3.7, sample: 'blended', confirmedJump: true }];
  if (dice < 0.12) return ['temperature.read', { lotId, celsius: 14.2 }];
  if (dice < 0.5) return ['check.make', { lotId, what: 'look', words: null, quiet: true }];
  if (dice < 0.7) return ['label.print', { lotIds: [lotId], copies: 1, printer: null }];
  return ['timer.start', { timerId: v7(), batchId: null, step: null, words: 'Look at the salt', minutes: 0.1 }];
}

async function reader(): Promise<void> {
  while (Date.now() < until) {
    await pause(LOOKS_EVERY);
    const dice = Math.random();
    if (dice < 0.4) await timed('floor', '/api/floor');
    else if (dice < 0.7) await timed('trace', `/api/trace/${one(runs).code}`);
    else if (dice < 0.85) await timed('shelf', '/api/shelf');
    else if (dice < 0.95) await timed('stock', '/api/stock');
    else await timed('packable', '/api/packable');
  }
}
async function recorder(): Promise<void> {
  while (Date.now() < until) {
    await pause(RECORDS_EVERY);
    const [kind, body] = entry(one(vessels).lotId);
    await timed('record', '/api/entries', {
      entries: [{ id: v7(), kind, happenedAt: new Date().toISOString(), by: personId, device: 'soak', body }],
    });
  }
}
await Promise.all([...Array.from({ length: READERS }, reader), ...Array.from({ length: RECORDERS }, recorder)]);
for (const [name, list] of times) {
  list.sort((a, b) => a - b);
  const at = (share: number): string => list[Math.min(list.length - 1, Math.floor(list.length * share))]!.toFixed(0);
  say(`SOAK ${name}: ${list.length} times, median ${at(0.5)} ms, 95 % ${at(0.95)} ms, worst ${at(1)} ms`);
}
say(`SOAK errors: ${errors.size === 0 ? 'none' : [...errors].map(([name, count]) => `${count} × ${name}`).join(', ')}`);

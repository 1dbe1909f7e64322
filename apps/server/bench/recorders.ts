import { v7 } from 'uuid';

// Eight people record at once, each as soon as the last is answered: in a process of their own, as tablets are.
const [address, personId, cookie, ...fillIds] = process.argv.slice(2) as [string, string, string, ...string[]];
const [CLIENTS, EACH] = [8, 150];
const headers = { 'content-type': 'application/json', cookie };
let vessel = 0;

async function record(): Promise<void> {
  const body = { lotId: fillIds[(vessel += 1) % fillIds.length]!, ph: 3.7, sample: 'blended' };
  const entry = {
    id: v7(),
    kind: 'ph.read',
    happenedAt: new Date().toISOString(),
    by: personId,
    device: 'bench',
    body,
  };
  const reply = await fetch(`${address}/api/entries`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ entries: [entry] }),
  });
  if (!reply.ok) throw new Error(await reply.text());
  await reply.arrayBuffer();
}
async function client(): Promise<void> {
  for (let count = 0; count < EACH; count += 1) await record();
}
const started = performance.now();
await Promise.all(Array.from({ length: CLIENTS }, client));
const perSecond = (CLIENTS * EACH) / ((performance.now() - started) / 1000);
process.stdout.write(`recording, 8 clients: ${perSecond.toFixed(0)} entries/s\n`);

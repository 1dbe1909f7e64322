export {};

/** Sixty-four connections guess a PIN, as fast as they are answered, from forty addresses: in a process of their own. */
const [address, personId, seconds] = process.argv.slice(2) as [string, string, string];
const until = performance.now() + Number(seconds) * 1000;
let guesses = 0;

async function guess(from: number): Promise<void> {
  while (performance.now() < until) {
    const reply = await fetch(`${address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-forwarded-for': `10.0.0.${from}` },
      body: JSON.stringify({ personId, pin: String(1000 + ((guesses += 1) % 9000)) }),
    });
    await reply.arrayBuffer();
  }
}

await Promise.all(Array.from({ length: 64 }, (_, i) => guess(i % 40)));
process.stdout.write(
  `guesses of a PIN, 64 connections: ${(guesses / Number(seconds)).toFixed(0)} a second, all refused\n`,
);

import { BatchQueue } from '../src/journal/batchQueue.js';

describe('writers that wait together', () => {
  const sizes: number[] = [];
  const queue = new BatchQueue<number, number>(
    async (inputs) => {
      sizes.push(inputs.length);
      await new Promise((resolve) => setTimeout(resolve, 5));
      if (inputs.some((input) => input < 0)) throw new Error(`refused ${inputs.find((input) => input < 0)}`);
      if (inputs.includes(99)) throw new Error('gone');
      return inputs.map((input) => input * 2);
    },
    {
      isOnesFault: (error) => String(error).includes('refused'),
      mostWaiting: 40,
      tooMany: () => new Error('too many'),
    },
  );

  /** The first is worked on when the others come. */
  const asked = async (inputs: readonly number[]): Promise<Promise<number>[]> => {
    const first = queue.add(inputs[0]!);
    await new Promise((resolve) => setTimeout(resolve, 2));
    return [first, ...inputs.slice(1).map((n) => queue.add(n))];
  };
  const together = async (inputs: readonly number[]) => Promise.all(await asked(inputs));
  const settled = async (inputs: readonly number[]) => Promise.allSettled(await asked(inputs));

  it('share one piece of work, and each gets its own answer', async () => {
    expect(await together([1, 2, 3, 4])).toEqual([2, 4, 6, 8]);
    expect(sizes).withContext('the first had begun').toEqual([1, 3]);
    sizes.length = 0;
    expect(await Promise.all([1, 2, 3, 4].map((n) => queue.add(n)))).toEqual([2, 4, 6, 8]);
    expect(sizes).withContext('asked in the same breath').toEqual([4]);
  });
  it('nobody pays for another’s mistake', async () => {
    const answers = await Promise.allSettled([1, -5, 3].map((n) => queue.add(n)));
    expect(answers.map((answer) => (answer.status === 'fulfilled' ? answer.value : String(answer.reason)))).toEqual([
      2,
      'Error: refused -5',
      6,
    ]);
  });
  it('a database that is gone is asked once, not once for each that waits', async () => {
    sizes.length = 0;
    const answers = await settled([1, 99, 3, 4]);
    expect(answers.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'rejected', 'rejected']);
    expect(sizes).toEqual([1, 3]);
  });
  it('more than fit are turned away at once, and the others are answered', async () => {
    const answers = await Promise.allSettled(Array.from({ length: 60 }, (_, n) => queue.add(n)));
    const away = answers.filter((answer) => answer.status === 'rejected' && String(answer.reason).includes('too many'));
    expect(away.length).toBeGreaterThan(10);
    expect(answers.filter(({ status }) => status === 'fulfilled').length).toBe(60 - away.length);
  });
  it('goes on after a refusal', async () => expect(await queue.add(7)).toBe(14));
});

interface Waiting<I, O> {
  readonly input: I;
  readonly resolve: (output: O) => void;
  readonly reject: (error: unknown) => void;
}

/** More would make the first wait too long for the last. */
const MOST_TOGETHER = 16;

/**
 * Runs work for inputs that wait at the same time together, and one after the other when they do not. When
 * work together fails, each input is worked alone and gets its own answer.
 */
export class BatchQueue<I, O> {
  private readonly waiting: Waiting<I, O>[] = [];
  private running = false;

  constructor(private readonly work: (inputs: readonly I[]) => Promise<O[]>) {}

  add(input: I): Promise<O> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ input, resolve, reject });
      void this.drain();
    });
  }

  private async drain(): Promise<void> {
    if (this.running) return;
    this.running = true;
    while (this.waiting.length > 0) {
      const together = this.waiting.splice(0, MOST_TOGETHER);
      if (together.length > 1 && (await this.attempt(together).then(() => true, () => false))) continue;
      for (const one of together) await this.attempt([one]).catch(one.reject);
    }
    this.running = false;
  }

  private async attempt(together: readonly Waiting<I, O>[]): Promise<void> {
    const outputs = await this.work(together.map(({ input }) => input));
    together.forEach(({ resolve }, index) => resolve(outputs[index]!));
  }
}

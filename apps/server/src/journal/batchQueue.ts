interface Waiting<I, O> {
  readonly input: I;
  readonly resolve: (output: O) => void;
  readonly reject: (error: unknown) => void;
}

export interface QueueRules {
  /** Whether one input alone may be to blame: then each is worked alone and gets its own answer. Otherwise all fail together. */
  readonly isOnesFault: (error: unknown) => boolean;
  /** More that wait than this are turned away with `tooMany`. */
  readonly mostWaiting: number;
  readonly tooMany: () => Error;
}

/** More would make the first wait too long for the last. */
const MOST_TOGETHER = 16;

/** Runs work for inputs that wait at the same time together, and one after the other when they do not. */
export class BatchQueue<I, O> {
  private readonly waiting: Waiting<I, O>[] = [];
  private running = false;

  constructor(
    private readonly work: (inputs: readonly I[]) => Promise<O[]>,
    private readonly rules: QueueRules,
  ) {}

  add(input: I): Promise<O> {
    if (this.waiting.length >= this.rules.mostWaiting) return Promise.reject(this.rules.tooMany());
    return new Promise((resolve, reject) => {
      this.waiting.push({ input, resolve, reject });
      void this.drain();
    });
  }

  private async drain(): Promise<void> {
    if (this.running) return;
    this.running = true;
    // Whoever asks in the same breath goes along.
    await new Promise((resolve) => setImmediate(resolve));
    while (this.waiting.length > 0) await this.workOn(this.waiting.splice(0, MOST_TOGETHER));
    this.running = false;
  }

  private async workOn(together: readonly Waiting<I, O>[]): Promise<void> {
    try {
      const outputs = await this.work(together.map(({ input }) => input));
      together.forEach(({ resolve }, index) => resolve(outputs[index]!));
    } catch (error) {
      // A database that is gone is gone for each of them: asked one by one, the last would wait for all the others.
      if (together.length === 1 || !this.rules.isOnesFault(error)) together.forEach(({ reject }) => reject(error));
      else for (const one of together) await this.workOn([one]);
    }
  }
}

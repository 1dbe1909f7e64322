import type { VerificationReply } from '@clear-tally/contract';
import type { ChainEnd } from './chainEnds.js';
import { verifyHouse, type VerifyInput } from './verifyHouse.js';

/** The look at the whole house that an owner starts from a page: one at a time, in the background. */
export class Verification {
  private state: VerificationReply = {
    state: 'never',
    words: null,
    startedAt: null,
    finishedAt: null,
    entries: null,
    photos: null,
    ends: null,
    newestEnd: null,
    faults: [],
  };

  constructor(
    private readonly input: Omit<VerifyInput, 'brought' | 'onProgress'>,
    private readonly onFault: (error: unknown) => void,
  ) {}

  now(): VerificationReply {
    return this.state;
  }

  start(at: Date, brought: ChainEnd | null, clock: () => Date): VerificationReply {
    if (this.state.state === 'running') return this.state;
    this.state = {
      state: 'running',
      words: 'begins',
      startedAt: at.toISOString(),
      finishedAt: null,
      entries: null,
      photos: null,
      ends: null,
      newestEnd: null,
      faults: [],
    };
    void verifyHouse({
      ...this.input,
      brought,
      onProgress: (words) => {
        this.state = { ...this.state, words };
      },
    }).then(
      (verified) => {
        this.state = {
          ...this.state,
          ...verified,
          faults: [...verified.faults],
          state: 'done',
          words: null,
          finishedAt: clock().toISOString(),
        };
      },
      (error: unknown) => {
        this.onFault(error);
        this.state = {
          ...this.state,
          state: 'failed',
          words: 'It could not be looked at to the end. The server’s log says why; try again.',
          finishedAt: clock().toISOString(),
        };
      },
    );
    return this.state;
  }
}

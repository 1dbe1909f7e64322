import type { MakingStage } from '@clear-tally/contract';

/** What a batch on the bench waits for, in words. */
export const STAGE_WORDS: Readonly<Record<MakingStage, string>> = {
  forProduce: 'waiting for its produce',
  forSalt: 'waiting for its salt',
  toBeFilled: 'salted, waiting to be filled',
  partlyFilled: 'partly filled',
  toBeClosed: 'filled, to be closed',
};

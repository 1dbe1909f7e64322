import {
  BRINE_AT_PACKING_WORDS,
  CHECK_KINDS,
  FINDINGS,
  PLACES,
  STATE_WORDS,
  STORAGE_WORDS,
  VERDICT_WORDS,
} from '@clear-tally/core';
import { readOut } from '@clear-tally/contract';

const ENUM_WORDS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  finding: Object.fromEntries(FINDINGS.map(({ key, name }) => [key, name])),
  place: PLACES,
  verdict: VERDICT_WORDS,
  state: STATE_WORDS,
  brine: BRINE_AT_PACKING_WORDS,
  storage: STORAGE_WORDS,
  what: CHECK_KINDS,
  sample: { blended: 'blended sample', brine: 'brine only' },
};

export const optionWords = (field: string, option: string): string => ENUM_WORDS[field]?.[option] || readOut(option);

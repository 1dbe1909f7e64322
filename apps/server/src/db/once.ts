import type { Reader } from './database.js';

const answers = new WeakMap<Reader, Map<string, Promise<unknown>>>();

/**
 * A reader for one question somebody asks. What each part of its answer needs (the house, its rules, the names of its
 * rooms) is read for it once, and so is the same in every part.
 */
export function forOneQuestion(reader: Reader): Reader {
  const one = Object.create(reader) as Reader;
  answers.set(one, new Map());
  return one;
}

/** Reads `what` once for a question. Any other reader reads each time: between two of its reads something is written. */
export function once<T>(reader: Reader, what: string, read: () => Promise<T>): Promise<T> {
  const known = answers.get(reader);
  if (!known) return read();
  const before = known.get(what) as Promise<T> | undefined;
  if (before) return before;
  const answer = read();
  known.set(what, answer);
  return answer;
}

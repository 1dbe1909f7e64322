import { entriesRequest, type Entry, unlike } from '@clear-tally/contract';
import type { WireProblem } from '../api/api';

/** What stands against entries by their schemas, as the server would say it; null where nothing does. */
export function wrongIn(entries: readonly Entry[]): WireProblem | null {
  const read = entriesRequest.safeParse({ entries });
  if (read.success) return null;
  const { detail, field } = unlike(read.error);
  const code = 'shape.invalid';
  return { type: `/problems/${code}`, title: code, status: 400, code, detail, field };
}

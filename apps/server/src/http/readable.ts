import { unfit } from '@clear-tally/core';
import type { Context, Next } from 'koa';
import { refused } from '../journal/refused.js';

/**
 * Every address and every body is looked at once, before any route: text that cannot be decoded, NUL and other control
 * characters, half a character, figures that are none. Lists and codes may then be taken as they are.
 */
export async function readable(ctx: Context, next: Next): Promise<void> {
  if (!ctx.acceptsEncodings('gzip', 'deflate', 'identity'))
    throw refused(
      'request.notAcceptable',
      'Answers of this house come as they are or compressed with gzip; this request accepts neither.',
    );
  const address = decoded(ctx.url);
  const bad = unfit(address, ['The address']) ?? unfit(ctx.request.body ?? null);
  if (!bad) return next();
  const entry = /^entries\.(\d+)\./.exec(bad.path);
  const refusal = refused(bad.code, `${bad.message}.`, { field: bad.path.replace(/^entries\.\d+\.(body\.)?/, '') });
  if (entry) refusal.entry = Number(entry[1]);
  throw bad.path === 'The address' ? refused('request.unreadable', `${bad.message}.`) : refusal;
}

function decoded(url: string): string {
  try {
    return decodeURIComponent(url.replace(/\+/g, ' '));
  } catch {
    throw refused(
      'request.unreadable',
      'This address holds signs that are no text in UTF-8. Nothing was read or changed.',
    );
  }
}

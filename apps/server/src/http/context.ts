import type { DefaultContext, DefaultState, ParameterizedContext } from 'koa';
import type { RouterContext } from '@koa/router';
import type { Person } from '@clear-tally/contract';
import type { Database } from '../db/database.js';
import type { LiveNotes } from '../db/live.js';
import type { Bench } from '../devices/bench.js';
import { personOf } from '../session/session.js';
import { refused } from '../record/refused.js';

export interface Deps {
  readonly db: Database;
  readonly now: () => Date;
  readonly live: LiveNotes;
  /** Devices of the bench, where this server has any. */
  readonly bench?: Bench;
}

export const COOKIE = 'ct_session';
export type Ctx = RouterContext | ParameterizedContext<DefaultState, DefaultContext>;

/** The person signed in, or a refusal. */
export async function signedIn(ctx: Ctx, deps: Deps): Promise<Person> {
  const person = await personOf(deps.db, ctx.cookies.get(COOKIE), deps.now());
  if (!person) throw refused('who.signIn', 'Nobody is signed in here, or the sign-in has ended. Sign in; what you typed is kept.');
  return person;
}

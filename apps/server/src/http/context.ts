import type { Person } from '@clear-tally/contract';
import type { RouterContext } from '@koa/router';
import type { DefaultContext, DefaultState, ParameterizedContext } from 'koa';
import type { Database, Reader } from '../db/database.js';
import type { LiveNotes } from '../db/live.js';
import type { Network } from '../network/network.js';
import type { Bench } from '../devices/bench.js';
import { refused } from '../journal/refused.js';
import type { ChainEnds } from '../journal/verify/chainEnds.js';
import type { Verification } from '../journal/verify/verification.js';
import { readAddress } from '../lots/house.js';
import type { SignInLimits } from '../session/limits.js';
import { noteLook } from '../session/looks.js';
import { personOf } from '../session/session.js';

export interface Deps {
  readonly db: Database;
  /** What answers questions is asked with this: it cannot write. */
  readonly reader: Reader;
  readonly now: () => Date;
  readonly live: LiveNotes;
  readonly limits: SignInLimits;
  /** The look at the whole house, where this server may make a scratch database. */
  readonly verification?: Verification;
  /** The ends of the chain outside the database, where this server has a folder for them. */
  readonly ends?: ChainEnds;
  /** Where this house is reached as the start command was told: it goes before the house's own setting. */
  readonly address?: string;
  /** Where backups lie, and of which house this is; without a start command nobody knows. */
  readonly backups?: { readonly folder: string; readonly which: 'own' | 'demo' };
  /** Ends this server, so that the start command opens the other house. */
  readonly goOver?: () => void;
  /** The encrypted line for other devices, where the start command opened one. */
  readonly network?: Network;
  /** Devices of the bench, where this server has any. */
  readonly bench?: Bench;
}

export const COOKIE = 'ct_session';

export const DEVICE_COOKIE = 'ct_device';

export type Ctx = RouterContext | ParameterizedContext<DefaultState, DefaultContext>;

/** The person signed in, or a refusal. */
export async function signedIn(ctx: Ctx, deps: Deps): Promise<Person> {
  const person = await personOf(deps.db, ctx.cookies.get(COOKIE), deps.now());
  if (!person)
    throw refused('who.signIn', 'Nobody is signed in here, or the sign-in has ended. Sign in; what you typed is kept.');
  if (person.role === 'inspector' && ctx.method === 'GET') await noteLook(deps.db, person.id, ctx.path, deps.now());
  return person;
}

/** "https://house.example", by the start command or by the house's settings; null: this machine alone. */
export async function addressOf(deps: Pick<Deps, 'db' | 'address'>): Promise<string | null> {
  return deps.address ?? readAddress(deps.db);
}

/** The house's own address, never what a request says it is: it stands on labels and in calendars. */
export async function houseAddress(ctx: Ctx, deps: Deps): Promise<string> {
  return (await addressOf(deps)) ?? deps.network?.addresses()[0] ?? `http://127.0.0.1:${ctx.req.socket.localPort}`;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);

/** Where a request comes from; `local`: this machine itself, with nothing in between. */
export function origin(ctx: Ctx): { address: string; local: boolean } {
  const forwarded = ctx.get('x-forwarded-for') !== '' || ctx.get('forwarded') !== '';
  return { address: ctx.ip, local: !forwarded && LOOPBACK.has(ctx.req.socket.remoteAddress ?? '') };
}

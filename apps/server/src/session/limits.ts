import { gt, like, sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { type Connection, type Database } from '../db/database.js';
import { rateLimit } from '../db/schema/house.js';
import { refused } from '../journal/refused.js';

/** A limit: so many wrong tries in so many seconds, then none until the span is over. */
interface Limit {
  readonly prefix: string;
  readonly points: number;
  readonly seconds: number;
  readonly of: 'personHere' | 'person' | 'address' | 'house';
}

/**
 * How often a PIN may be wrong. A person is locked for long only at the address the tries came from: nobody can keep
 * somebody else out from elsewhere for more than a minute. Of one person at one address twenty a day: ten thousand
 * PINs of four figures would take over a year.
 */
export const LIMITS: readonly Limit[] = [
  { prefix: 'here', points: 5, seconds: 5 * 60, of: 'personHere' },
  { prefix: 'day', points: 20, seconds: 24 * 3600, of: 'personHere' },
  { prefix: 'person', points: 15, seconds: 60, of: 'person' },
  { prefix: 'address', points: 30, seconds: 60, of: 'address' },
  { prefix: 'house', points: 120, seconds: 60, of: 'house' },
];

/** Days that this many guesses at one PIN take from one address, by the limits alone. */
export function daysToGuess(guesses: number): number {
  const perDay = Math.min(
    ...LIMITS.filter(({ of }) => of === 'personHere').map(({ points, seconds }) => (points * 86_400) / seconds),
  );
  return guesses / perDay;
}

export interface Try {
  readonly personId: string;
  /** Where it comes from: an address, or a device that has signed in as this person before. */
  readonly address: string;
  readonly known: boolean;
}

export interface Lock {
  readonly personId: string;
  readonly until: string;
  readonly here: boolean;
}

/**
 * Counts tries at signing in, in the database, so that several servers count together. Each try is counted by one
 * statement before anything else is done with it, and given back when it was right: nothing is cleared while it runs.
 */
export class SignInLimits {
  private readonly limiters: readonly (Limit & { readonly limiter: RateLimiterPostgres })[];
  /** Addresses, and the house, that were found closed for the rest of a minute: a flood does not ask the database again. */
  private readonly closed = new Map<string, number>();

  constructor(
    private readonly db: Database,
    pool: Connection['pool'],
  ) {
    this.limiters = LIMITS.map((limit) => ({
      ...limit,
      limiter: new RateLimiterPostgres({
        storeClient: pool,
        storeType: 'pool',
        tableName: 'rate_limit',
        tableCreated: true,
        keyPrefix: limit.prefix,
        points: limit.points,
        duration: limit.seconds,
        blockDuration: 0,
        clearExpiredByTimeout: false,
      }),
    }));
  }

  /** @throws {Refused} too many wrong tries: until when */
  async count(one: Try): Promise<void> {
    this.refuseClosed(one);
    for (const limit of this.applying(one)) {
      const key = keyOf(limit.of, one);
      try {
        await limit.limiter.consume(key);
      } catch (error) {
        if (!(error instanceof RateLimiterRes)) throw error;
        if (!limit.of.startsWith('person')) this.close(`${limit.prefix}:${key}`, error.msBeforeNext);
        throw tooOften(limit, error.msBeforeNext);
      }
    }
  }

  /** @throws {Refused} the address or the house was found closed, and is still */
  private refuseClosed(one: Try): void {
    for (const limit of this.applying(one)) {
      const left = (this.closed.get(`${limit.prefix}:${keyOf(limit.of, one)}`) ?? 0) - Date.now();
      if (left > 0) throw tooOften(limit, left);
    }
  }

  private close(key: string, ms: number): void {
    const now = Date.now();
    if (this.closed.size >= MOST_CLOSED)
      for (const [old, until] of this.closed) if (until < now) this.closed.delete(old);
    if (this.closed.size < MOST_CLOSED) this.closed.set(key, now + ms);
  }

  /** It was right: this try is given back. What others tried meanwhile stays counted. */
  async giveBack(one: Try): Promise<void> {
    for (const { limiter, of } of this.applying(one)) await limiter.reward(keyOf(of, one));
    await this.db.delete(rateLimit).where(sql`${rateLimit.expire} < ${Date.now() - 3_600_000}`);
  }

  /** People who cannot sign in somewhere now. */
  async locks(now: Date): Promise<Lock[]> {
    const found = await this.db.select().from(rateLimit).where(gt(rateLimit.expire, now.getTime()));
    return found.flatMap(({ key, points, expire }) => {
      const limit = this.limiters.find(({ prefix }) => key.startsWith(`${prefix}:`));
      const [, personId] = key.split(':');
      return limit && personId && limit.of.startsWith('person') && points >= limit.points
        ? [{ personId, until: new Date(Number(expire)).toISOString(), here: limit.of === 'personHere' }]
        : [];
    });
  }

  /** An owner ends the locks of a person, everywhere. */
  async clear(personId: string): Promise<void> {
    for (const { prefix, of } of this.limiters)
      if (of.startsWith('person')) await this.db.delete(rateLimit).where(like(rateLimit.key, `${prefix}:${personId}%`));
  }

  /** A device that knows the person, or the machine itself, is held up by nobody elsewhere. */
  private applying({ known }: Try) {
    return this.limiters.filter(({ of }) => of === 'personHere' || of === 'address' || !known);
  }
}

/** Addresses remembered as closed; more of them ask the database as ever. */
const MOST_CLOSED = 10_000;

function tooOften({ of, seconds }: Limit, msLeft: number): Error {
  const alone = of === 'personHere';
  return refused(
    alone ? 'who.locked' : 'who.tooOften',
    `${alone ? 'Too many wrong PINs for this person here' : 'Too many wrong PINs at this house'}. Try again ${inWords(msLeft)}${alone && seconds > 3600 ? '; an owner can end this lock under “Who comes in”' : ''}.`,
    {
      field: 'pin',
      facts: { until: new Date(Date.now() + msLeft).toISOString(), seconds: Math.ceil(msLeft / 1000) },
    },
  );
}

const short = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 24);

function keyOf(of: Limit['of'], { personId, address }: Try): string {
  switch (of) {
    case 'personHere':
      return `${personId}:${short(address)}`;
    case 'person':
      return personId;
    case 'address':
      return short(address);
    case 'house':
      return 'all';
  }
}

function inWords(ms: number): string {
  const minutes = Math.ceil(ms / 60_000);
  return minutes <= 1 ? 'in a minute' : minutes < 90 ? `in ${minutes} minutes` : `in ${Math.ceil(minutes / 60)} hours`;
}

import type { BodyOf, Entry, EntryKind, Recorded } from '@clear-tally/contract';
import type { Database } from '../db/database.js';
import { type Actor, recordEntries } from '../journal/record.js';
import { Seeded } from './seeded.js';

/** Plans after which the database first looks at what has come; then whenever there are twice as many. */
const FIRST_LOOK = 150;

interface Planned {
  readonly at: Date;
  readonly order: number;
  readonly run: () => Promise<void>;
}

/**
 * Writes a house's past through the product's own entries, in the order things happened. What happens is
 * planned first and recorded by time, so that every entry finds the house as it stood then.
 */
export class Diary {
  readonly random: Seeded;
  private readonly plans: Planned[] = [];
  private who!: Actor;

  constructor(
    readonly db: Database,
    private readonly today: Date,
    seed: number,
    /** This morning's round was walked already. */
    readonly roundWalked = false,
  ) {
    this.random = new Seeded(seed);
  }

  /** A moment some days ago at a clock time, never later than now. */
  moment(daysAgo: number, hour: number, minute = 0): Date {
    const at = new Date(this.today);
    at.setUTCDate(at.getUTCDate() - daysAgo);
    at.setUTCHours(hour, minute, 0, 0);
    return new Date(Math.min(at.getTime(), this.today.getTime() - 60_000));
  }

  /** A calendar date some days from today, also one still to come. */
  day(fromToday: number): string {
    return new Date(this.today.getTime() + fromToday * 86_400_000).toISOString().slice(0, 10);
  }

  id(at: Date = this.today): string {
    return this.random.uuid(at);
  }

  signAs(actor: Actor): void {
    this.who = actor;
  }

  /** Records at once, for the founding. */
  async record<K extends EntryKind>(kind: K, body: BodyOf<K>, at: Date, actor: Actor = this.who): Promise<Recorded> {
    const entry = {
      id: this.id(at),
      kind,
      happenedAt: at.toISOString(),
      by: actor.id,
      device: 'demo',
      body,
    } as unknown as Entry;
    const [recorded] = await recordEntries(this.db, { entries: [entry], actor, now: at });
    return recorded!;
  }

  /** Records several at once, as a round does. */
  async recordAll(entries: readonly { kind: EntryKind; body: object }[], at: Date, actor: Actor): Promise<void> {
    const signed = entries.map(
      ({ kind, body }) =>
        ({
          id: this.id(at),
          kind,
          happenedAt: at.toISOString(),
          by: actor.id,
          device: 'demo',
          body,
        }) as unknown as Entry,
    );
    if (signed.length > 0) await recordEntries(this.db, { entries: signed, actor, now: at });
  }

  /** Something to be recorded when its time comes. */
  plan(at: Date, run: () => Promise<void>): void {
    this.plans.push({ at, order: this.plans.length, run });
  }

  /**
   * Lives all of it. A house that grows in seconds is asked as if it were empty until the database has looked at it:
   * `look` has it look, now and then, as it does by itself in a house that grows by the day.
   */
  async live(look?: () => Promise<unknown>): Promise<void> {
    this.plans.sort((a, b) => a.at.getTime() - b.at.getTime() || a.order - b.order);
    let next = FIRST_LOOK;
    for (const [index, plan] of this.plans.entries()) {
      if (index >= next) {
        await look?.();
        next = index * 2;
      }
      await plan.run();
    }
  }
}

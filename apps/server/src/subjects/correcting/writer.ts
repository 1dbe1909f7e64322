import type { Entry, EntryKind } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { asItHappened, Falls, type Lenience } from '../../journal/asItHappened.js';
import type { Anew, Handler, HandlerResult, Recording } from '../../journal/handler.js';
import { Refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { savepoint } from '../../journal/savepoint.js';
import type { Written } from '../../lots/written.js';
import { inTheWay, refuseBefore } from './standsInTheWay.js';

/** The correction in hand. */
export type Correcting = Recording<'entry.correct'>;

/** What an entry should have said. */
export interface Instead {
  readonly kind: EntryKind;
  readonly body: Entry['body'];
  readonly happenedAt: string;
}

/** Says whose entry it is that rows are changed by from now on. */
export const setWriter = (tx: Transaction, seq: number) =>
  tx.execute(sql`select set_config('clear_tally.seq', ${String(seq)}, true)`);

/** Writes entries anew under one correction. */
export class Writer {
  readonly fell: string[] = [];

  constructor(
    private readonly hand: Correcting,
    private readonly aside: Anew['aside'],
  ) {}

  /** The right one is asked what its kind is asked, but for holds: what is held today was taken then. */
  async right(of: Written, right: Instead): Promise<HandlerResult> {
    try {
      const result = await this.write(of, right, 'holds');
      if (!kindOf(right.kind).reachesLater)
        await refuseBefore(this.hand.tx, result.lots ?? [], new Date(right.happenedAt));
      return result;
    } catch (error) {
      if (error instanceof Refused)
        throw new Refused({
          ...error.refusal,
          field: `instead.body${error.refusal.field ? `.${error.refusal.field}` : ''}`,
        });
      throw error;
    }
  }

  /** What rests on it was done as it was done. */
  async again(one: Written): Promise<void> {
    try {
      await this.write(one, one.entry, 'all');
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Falls)) throw error;
      const said = this.named(error.message);
      if (!(error instanceof Falls) && !kindOf(one.entry.kind).falls) throw await inTheWay(this.hand.tx, one, said);
      this.fell.push(`${kindOf(one.entry.kind).words}: ${said}`);
    }
  }

  /** Lots laid aside have no code meanwhile: words name them by the one they had. */
  private named(words: string): string {
    return [...this.aside].reduce((text, [id, { code }]) => text.replaceAll(`~${id}`, code), words);
  }

  private async write(
    of: Written,
    { kind, body, happenedAt }: Pick<Entry, 'kind' | 'body' | 'happenedAt'>,
    how: Lenience,
  ): Promise<HandlerResult> {
    const { tx, entry, seq } = this.hand;
    await setWriter(tx, of.seq);
    const recording = {
      seq: of.seq,
      at: new Date(happenedAt),
      recordedAt: this.hand.recordedAt,
      isOwner: of.role === 'owner' || this.hand.isOwner,
      entry: { ...of.entry, kind, body, happenedAt } as Entry,
      body,
      anew: { entryId: entry.id, seq, facts: of.facts, aside: this.aside },
    };
    const handler = kindOf(kind).record as Handler<EntryKind>;
    // A handler may have written before it refused or let its word fall: nothing of it stays.
    return savepoint(tx, async (inner) => {
      const result = await asItHappened(inner, { how, seq: of.seq }, () =>
        handler({ ...recording, tx: inner } as unknown as Recording<EntryKind>),
      );
      if (result.writes) await inner.execute(result.writes);
      return result;
    });
  }
}

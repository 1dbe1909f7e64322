import { Component, computed, input, output, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { pickList, type PickFrom } from '@clear-tally/core';
import type { JarsReply, OrdersReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { calendarDay } from '../../ui/dates';
import { Nothing } from '../../ui/nothing';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { DayField } from '../../ui/day-field';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { freeOf, type InCrate } from './crate';

type Order = OrdersReply['orders'][number];

/** What an order puts into the crate. */
export interface Picked {
  readonly orderId: string;
  readonly code: string;
  readonly customerId: string;
  readonly jars: readonly { readonly runLotId: string; readonly first: number; readonly last: number }[];
  readonly lacks: number;
}

/** Orders that wait, each with its pick list: place by place, the oldest first; and what is not there. */
@Component({
  selector: 'ct-orders',
  imports: [Nothing, Choice, CountInput, DayField, FormField, RecordButton, Refusal, TextField, TypedBeforeNote],
  templateUrl: './orders.html',
  styleUrl: './orders.less',
})
export class Orders {
  readonly stock = input.required<JarsReply['runs']>();
  readonly crate = input.required<readonly InCrate[]>();
  readonly customers = input.required<readonly { readonly id: string; readonly label: string }[]>();
  /** The order whose jars are in the crate. */
  readonly answered = input<string | null>(null);
  readonly picked = output<Picked>();
  protected readonly calendarDay = calendarDay;
  protected readonly rights = injectRights();
  protected readonly read = shown<OrdersReply>(signal('/api/orders'));
  protected readonly taking = signal(false);
  protected readonly form = recordingForm('order.take', {
    fields: {
      customerId: null as string | null,
      wantedOn: '',
      lines: [] as readonly { readonly product: string | null; readonly count: number | null }[],
      note: '',
    },
    recorded: () => {
      this.form.values.customerId.set(null);
      this.form.values.wantedOn.set('');
      this.form.values.lines.set([]);
      this.form.values.note.set('');
      this.taking.set(false);
    },
  });
  protected readonly closing = recordingForm('order.close', {
    fields: { orderId: '', reason: '' },
    recorded: () => {
      this.closing.values.orderId.set('');
      this.closing.values.reason.set('');
    },
  });
  protected readonly products = computed(() =>
    (this.read.data()?.products ?? []).map(({ formulaId, name, sizeMl }) => ({
      id: `${formulaId} ${sizeMl}`,
      label: `${name}, ${sizeMl} mL`,
    })),
  );

  /** What may leave of each run and is not in the crate. */
  private readonly from = computed((): PickFrom[] =>
    this.stock()
      .filter(({ refusal }) => refusal === null)
      .map((run) => ({
        runLotId: run.lotId,
        formulaId: run.formulaId,
        packedAt: Date.parse(run.packedAt),
        stretches: freeOf(run, this.crate()).flatMap((free) =>
          run.stretches.flatMap(({ first, last, sizeMl, where, kept }) => {
            const [from, to] = [Math.max(first, free.first), Math.min(last, free.last)];
            return kept === null && from <= to ? [{ first: from, last: to, sizeMl, where }] : [];
          }),
        ),
      })),
  );
  protected readonly orders = computed(() =>
    (this.read.data()?.orders ?? []).map((order) => {
      const list = pickList(order.lines, this.from());
      return {
        order,
        ...list,
        lacks: list.missing.reduce((sum, { lacks }) => sum + lacks, 0),
        words: list.picks.map((pick) => ({
          ...pick,
          run: this.stock().find(({ lotId }) => lotId === pick.runLotId)?.code ?? '',
        })),
      };
    }),
  );

  protected addLine(): void {
    this.form.values.lines.set([...this.form.values.lines(), { product: null, count: null }]);
  }

  protected change(index: number, change: { product?: string | null; count?: number | null }): void {
    this.form.values.lines.set(
      this.form.values.lines().map((line, i) => (i === index ? { ...line, ...change } : line)),
    );
  }

  protected readonly ready = computed(() => this.form.values.lines().filter(({ product, count }) => product && count));

  protected take(): void {
    const customerId = this.form.values.customerId();
    if (!customerId || this.ready().length === 0) return;
    this.form.record(
      this.form.entry('order.take', {
        orderId: newId(),
        customerId,
        wantedOn: this.form.values.wantedOn() || null,
        lines: this.ready().map(({ product, count }) => {
          const [formulaId, sizeMl] = product!.split(' ');
          return { formulaId: formulaId!, sizeMl: Number(sizeMl), count: count! };
        }),
        note: this.form.values.note().trim() || null,
      }),
    );
  }

  protected fill(
    order: Order,
    picks: readonly { runLotId: string; first: number; last: number }[],
    lacks: number,
  ): void {
    this.picked.emit({
      orderId: order.orderId,
      code: order.code,
      customerId: order.customerId,
      jars: picks.map(({ runLotId, first, last }) => ({ runLotId, first, last })),
      lacks,
    });
  }

  protected close(orderId: string): void {
    const reason = this.closing.values.reason().trim();
    if (reason) this.closing.record(this.closing.entry('order.close', { orderId, reason }));
  }
}

import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { EntryReply, MakeReply } from '@clear-tally/contract';
import { formatWeighed } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TypedBeforeNote } from '../../ui/typed-before';

/** A mass that was weighed with its bowl: the empty bowl is weighed later, and taken off what stands in the book. */
@Component({
  selector: 'ct-bowl-off',
  imports: [FormField, QuantityInput, RecordButton, Refusal, TypedBeforeNote],
  template: `
    <form class="row" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <ct-quantity
        [label]="'The empty bowl of ' + row().lotCode"
        what="the bowl"
        [formField]="form.fields.bowl"
        [refusal]="form.problemAt('instead', 'grams', 'trimmedGrams')"
      />
      <button
        [ctRecord]="form"
        [needs]="[
          !entry() && 'what stands in the book; it is being read',
          !bowl() && 'what the bowl weighs',
          net() !== null && net()! <= 0 && 'a bowl lighter than the mass',
        ]"
      >
        {{ net() === null ? 'Take it off' : mass(row().grams) + ' less the bowl: ' + mass(net()!) }}
      </button>
      <button type="button" (click)="done.emit()">Close</button>
    </form>
    <ct-refusal [message]="form.problem() ?? unread()?.detail" />
  `,
})
export class BowlOff {
  readonly row = input.required<MakeReply['ingredients'][number]>();
  readonly done = output();
  private readonly read = shown<EntryReply>(computed(() => `/api/entries/${this.row().entryId}`));
  protected readonly entry = this.read.data;
  protected readonly unread = this.read.problem;
  protected readonly form = recordingForm('entry.correct', {
    fields: { bowl: null as number | null },
    about: computed(() => `bowl of ${this.row().entryId}`),
    recorded: () => this.done.emit(),
  });
  protected readonly bowl = this.form.values.bowl;
  protected readonly net = computed(() => (this.bowl() ? this.row().grams - this.bowl()! : null));
  protected readonly mass = formatWeighed;

  /** The wrong line stays, the right one beside it: a correction like any other, of its mass and its tare. */
  protected record(): void {
    const [entry, bowl, net] = [this.entry(), this.bowl(), this.net()];
    if (!entry || !bowl || net === null || net <= 0) return;
    const mass = entry.kind === 'produce.weigh' ? 'trimmedGrams' : 'grams';
    this.form.record(
      this.form.entry('entry.correct', {
        corrects: entry.entryId,
        reason: `the bowl was on it: ${formatWeighed(bowl)}`,
        instead: {
          kind: entry.kind,
          happenedAt: entry.happenedAt,
          // Off what was weighed then: some of it may have gone back to stock since. A tare of before stays part of it.
          body: {
            ...entry.body,
            [mass]: Number(entry.body[mass]) - bowl,
            tareGrams: Number(entry.body['tareGrams'] ?? 0) + bowl,
          },
        },
      }),
    );
  }
}

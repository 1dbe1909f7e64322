import { Component, computed, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import type { Loss } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';

const LOSSES: [Loss, string][] = [
  ['drip', 'drip'],
  ['overflow', 'overflow'],
  ['evaporation', 'evaporation'],
  ['sample', 'sample or tasting'],
  ['spill', 'spill'],
  ['residue', 'stayed in bowls'],
  ['spoiled', 'spoiled'],
  ['thrownOut', 'thrown out'],
];

/** What stands there by weighing, or a loss with its reason. */
@Component({
  selector: 'ct-count-form',
  imports: [Choices, Choice, QuantityInput, Refusal, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="form.typed" />
        <ct-choices
          label="What to record"
          [options]="[
            ['count', 'Weighed on hand'],
            ['loss', 'A loss'],
          ]"
          [value]="what()"
          (picked)="what.set($event)"
        />
        @if (what() === 'loss') {
          <ct-choice label="Where it went" [options]="sinks" [formField]="form.fields.sink" />
        }
        <ct-quantity
          [label]="what() === 'count' ? 'Stands there' : 'Gone'"
          [unit]="what() === 'count' ? 'kg' : 'g'"
          [planned]="what() === 'count' ? onHand() : null"
          [zero]="what() === 'count'"
          [formField]="form.fields.grams"
          [refusal]="form.problemAt('grams')"
        />
        <div class="row">
          <button
            class="go"
            [ctRecord]="form"
            [needs]="[grams() === null && 'how much', what() !== 'count' && sink() === null && 'where it went']"
          >
            Record</button
          ><button type="button" (click)="open.set(false)">Leave it</button>
        </div>
        <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
      </form>
    } @else {
      <button type="button" (click)="open.set(true)">Weigh or write off …</button>
    }
  `,
})
export class CountForm {
  readonly lotId = input.required<string>();
  /** What stands there by the book, grams: a count a thousand times off it is asked about. */
  readonly onHand = input<number | null>(null);
  protected readonly open = signal(false);
  protected readonly what = signal<'count' | 'loss'>('count');
  protected readonly form = recordingForm('count', {
    fields: { grams: null as number | null, sink: null as string | null },
    about: this.lotId,
    recorded: () => {
      this.open.set(false);
      this.grams.set(null);
    },
  });
  protected readonly sink = this.form.values.sink;
  protected readonly grams = this.form.values.grams;
  protected readonly sinks = LOSSES.map(([id, label]) => ({ id, label }));
  protected readonly ready = computed(() => this.grams() !== null && (this.what() === 'count' || this.sink() !== null));

  protected record(): void {
    if (!this.ready()) return;
    const body = { lotId: this.lotId(), grams: this.grams()! };
    this.form.record(
      this.what() === 'count'
        ? this.form.entry('lot.count', { ...body, byDifference: 'gas' })
        : this.form.entry('loss.record', { ...body, sink: this.sink() as Loss, note: null }),
    );
  }
}

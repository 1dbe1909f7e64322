import { Component, computed, input, signal } from '@angular/core';
import type { Sink } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';

const LOSSES: [Sink, string][] = [
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
  imports: [Choice, QuantityInput, Refusal],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <div class="choices" role="group" aria-label="What to record">
          <button type="button" [attr.aria-pressed]="what() === 'count'" (click)="what.set('count')">
            Weighed on hand
          </button>
          <button type="button" [attr.aria-pressed]="what() === 'loss'" (click)="what.set('loss')">A loss</button>
        </div>
        @if (what() === 'loss') {
          <ct-choice label="Where it went" [options]="sinks" [(chosen)]="sink" />
        }
        <ct-quantity
          [label]="what() === 'count' ? 'Stands there' : 'Gone'"
          unit="kg"
          [zero]="what() === 'count'"
          [(grams)]="grams"
          [refusal]="form.problemAt('grams')"
          (edited)="form.edited()"
        />
        <div class="row">
          <button class="go" [disabled]="!ready() || form.saving()">Record</button
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
  protected readonly open = signal(false);
  protected readonly what = signal<'count' | 'loss'>('count');
  protected readonly sink = signal<string | null>(null);
  protected readonly grams = signal<number | null>(null);
  protected readonly sinks = LOSSES.map(([id, label]) => ({ id, label }));
  protected readonly form = recordingForm('count', () => {
    this.open.set(false);
    this.grams.set(null);
  });
  protected readonly ready = computed(() => this.grams() !== null && (this.what() === 'count' || this.sink() !== null));

  protected record(): void {
    if (!this.ready()) return;
    const body = { lotId: this.lotId(), grams: this.grams()! };
    this.form.record(
      this.what() === 'count'
        ? this.form.entry('lot.count', { ...body, byDifference: 'gas' })
        : this.form.entry('loss.record', { ...body, sink: this.sink() as Sink, note: null }),
    );
  }
}

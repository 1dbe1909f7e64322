import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { formatGrams, formatPercent } from '@clear-tally/core';
import type { FinishReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';

/** What sieve, jug and blades keep, by weight: else it is missing at the tally. */
@Component({
  selector: 'ct-loss-form',
  imports: [FormField, QuantityInput, RecordButton, Refusal],
  template: `
    <form class="row rule" (submit)="$event.preventDefault(); record()">
      <ct-quantity
        label="Kept by sieve, jug and blades"
        what="what is gone"
        [formField]="form.fields.grams"
        [refusal]="form.problemAt('grams')"
      />
      <button [ctRecord]="form" [needs]="[!form.values.grams() && 'how much']">
        Write off {{ form.values.grams() ? mass(form.values.grams()!) : '' }}
      </button>
      <p class="soft">{{ says() }}</p>
      <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
    </form>
  `,
  styles: 'form { align-items: end; padding-top: 12px; } p { flex: 1; min-width: 200px; padding-bottom: 12px; }',
})
export class LossForm {
  readonly finish = input.required<FinishReply>();
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly form = recordingForm('loss.record', {
    fields: { grams: null as number | null },
    about: computed(() => this.finish().lotId),
    recorded: () => this.form.values.grams.set(null),
  });
  protected readonly says = computed(() => {
    const { lostGrams, usual, parts } = this.finish();
    const all = parts.reduce((sum, { grams }) => sum + grams, 0);
    const now = lostGrams > 0 ? `So far ${formatGrams(lostGrams)}, ${formatPercent(lostGrams / all, 1)}. ` : '';
    return usual.lost
      ? `${now}This house: ${formatPercent(usual.lost.from, 1)} to ${formatPercent(usual.lost.to, 1)}.`
      : `${now}None of this house yet.`;
  });

  protected record(): void {
    const grams = this.form.values.grams();
    if (grams)
      this.form.record(
        this.form.entry('loss.record', {
          lotId: this.finish().lotId,
          grams,
          sink: 'residue',
          note: 'kept by sieve, jug and blades',
        }),
      );
  }
}

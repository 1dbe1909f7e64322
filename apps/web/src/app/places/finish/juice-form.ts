import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { formatGrams } from '@clear-tally/core';
import type { FinishReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';

/** What comes off beside the product becomes a lot of its own: juice, brine for the kitchen, pieces. */
@Component({
  selector: 'ct-juice-form',
  imports: [FormField, QuantityInput, RecordButton, Refusal, Select, TextField, TypedBeforeNote],
  template: `
    <form class="row" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      @if (from().length > 1) {
        <ct-select
          label="Off"
          [options]="vessels()"
          [value]="fromLotId()"
          (valueChange)="form.values.fromLotId.set($event)"
        />
      }
      <ct-text label="Called" [placeholder]="proposed()" [formField]="form.fields.name" />
      <ct-quantity
        label="Weighed"
        unit="kg"
        what="it"
        [planned]="onHand()"
        [gramsPerMl]="1.02"
        [formField]="form.fields.grams"
        [refusal]="form.problemAt('grams')"
      />
      <button [ctRecord]="form" [needs]="[!fromLotId() && 'off which vessel', !form.values.grams() && 'how much']">
        Make {{ form.values.grams() ? mass(form.values.grams()!) : '' }} a lot of its own
      </button>
      <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
    </form>
    @for (one of finish().byProducts; track one.lotId) {
      <p class="note">
        <b class="figure">{{ one.code }}</b> {{ one.name }}, <b class="figure">{{ mass(one.grams) }}</b>
      </p>
    }
  `,
  styles: ':host { display: grid; gap: 10px; } form { align-items: end; } ct-text { min-width: 220px; }',
})
export class JuiceForm {
  readonly finish = input.required<FinishReply>();
  readonly from = input.required<readonly { lotId: string; code: string; onHandGrams: number }[]>();
  readonly as = input.required<'juice' | 'pieces'>();
  readonly proposed = input.required<string>();
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly form = recordingForm('finish.byProduct', {
    fields: { name: '', fromLotId: '', grams: null as number | null },
    about: computed(() => this.finish().lotId),
    recorded: () => {
      this.form.values.grams.set(null);
      this.form.values.name.set('');
    },
  });
  protected readonly vessels = computed(() =>
    this.from().map(({ lotId, code, onHandGrams }) => [lotId, `${code}, ${formatGrams(onHandGrams)}`] as const),
  );
  protected readonly fromLotId = computed(
    () => this.form.values.fromLotId() || (this.from().length === 1 ? this.from()[0]!.lotId : ''),
  );

  protected readonly onHand = computed(
    () => this.from().find(({ lotId }) => lotId === this.fromLotId())?.onHandGrams ?? null,
  );

  protected record(): void {
    const grams = this.form.values.grams();
    if (this.fromLotId() && grams)
      this.form.record(
        this.form.entry('finish.byProduct', {
          lotId: newId(),
          fromLotId: this.fromLotId(),
          as: this.as(),
          name: this.form.values.name().trim() || this.proposed(),
          grams,
        }),
      );
  }
}

import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { formatGrams, formatPercent } from '@clear-tally/core';
import type { FinishReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TypedBeforeNote } from '../../ui/typed-before';

/** Dried by weight; its water activity decides where it may stand. */
@Component({
  selector: 'ct-dry-step',
  imports: [FigureInput, FormField, QuantityInput, RecordButton, Refusal, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      @if (finish().dried; as last) {
        <p class="note">
          Dried at {{ last.celsius }} °C for {{ last.hours }} h to <b class="figure">{{ mass(last.leftGrams) }}</b>{{
            last.waterActivity === null ? ', water activity not measured' : ', water activity ' + last.waterActivity
          }}.
        </p>
      }
      <div class="row">
        <ct-figure label="Temperature" kind="celsius" [least]="20" [most]="120" [formField]="form.fields.celsius" />
        <ct-figure label="Time" unit="h" [least]="0.1" [most]="500" [formField]="form.fields.hours" />
        <ct-quantity
          label="It weighs now"
          what="what is dried"
          [formField]="form.fields.leftGrams"
          [refusal]="form.problemAt('leftGrams')"
        />
        <ct-figure
          label="Water activity"
          [least]="0.05"
          [most]="1"
          say="empty: not measured"
          [formField]="form.fields.waterActivity"
        />
      </div>
      <p [class.watch]="form.values.waterActivity() === null">
        {{
          form.values.waterActivity() === null
            ? 'Without a water activity nobody knows what grows in it: it stays cold.'
            : 'Its water activity is kept with the meter’s figure; local rules say what it must be.'
        }}
        {{ says() }}
      </p>
      <button
        class="go"
        [ctRecord]="form"
        [needs]="[
          form.values.celsius() === null && 'the temperature',
          form.values.hours() === null && 'the hours',
          !form.values.leftGrams() && 'what it weighs now',
        ]"
      >
        Record {{ form.values.leftGrams() ? mass(form.values.leftGrams()!) : '' }} dried
      </button>
      <ct-refusal [message]="form.problemAt('leftGrams') ? null : form.problem()" />
    </form>
  `,
})
export class DryStep {
  readonly finish = input.required<FinishReply>();
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly form = recordingForm('finish.dry', {
    fields: {
      celsius: null as number | null,
      hours: null as number | null,
      leftGrams: null as number | null,
      waterActivity: null as number | null,
    },
    about: computed(() => this.finish().lotId),
    recorded: () => {
      for (const field of ['celsius', 'hours', 'leftGrams', 'waterActivity'] as const)
        this.form.values[field].set(null);
    },
  });
  protected readonly says = computed(() => {
    const left = this.form.values.leftGrams();
    const { onHandGrams } = this.finish();
    return left && left < onHandGrams
      ? `${formatGrams(onHandGrams - left)} of water goes, ${formatPercent(1 - left / onHandGrams, 0)}.`
      : '';
  });

  protected record(): void {
    const v = this.form.values;
    const [celsius, hours, leftGrams] = [v.celsius(), v.hours(), v.leftGrams()];
    if (celsius !== null && hours !== null && leftGrams)
      this.form.record(
        this.form.entry('finish.dry', {
          finishLotId: this.finish().lotId,
          celsius,
          hours,
          leftGrams,
          waterActivity: v.waterActivity(),
        }),
      );
  }
}

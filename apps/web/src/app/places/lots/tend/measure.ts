import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { TypedBeforeNote } from '../../../ui/typed-before';
import { titratableAcidity } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { FigureInput } from '../../../ui/figure-input';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';

/** Measured salt of the water phase, and titratable acidity. */
@Component({
  selector: 'ct-measure',
  imports: [FigureInput, Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    <form class="row" (submit)="$event.preventDefault(); recordSalt()">
      <ct-typed-before [typed]="form.typed" />
      <ct-figure
        label="Salt, measured"
        kind="percent"
        [least]="0"
        [most]="0.3"
        [formField]="form.fields.salt"
      /><ct-text
        style="width: 220px"
        label="With what"
        placeholder="refractometer, strips"
        [formField]="form.fields.how"
      />
      <button [ctRecord]="form" [needs]="[salt() === null && 'the salt']">Record the salt</button>
    </form>
    <form class="row" (submit)="$event.preventDefault(); recordAcid()">
      <ct-figure
        label="Lye used"
        unit="mL"
        [least]="0.01"
        [most]="500"
        [formField]="form.fields.millilitres"
      /><ct-figure
        label="Its strength"
        unit="N"
        [least]="0.001"
        [most]="2"
        [formField]="form.fields.normality"
      /><ct-figure label="Sample" kind="grams" [least]="0.1" [most]="1000" [formField]="form.fields.sample" />
      <button [ctRecord]="form" [needs]="[percent() === null && 'the lye and the sample']">
        Record {{ percent() === null ? 'the acidity' : percent()!.toFixed(2) + ' % lactic acid' }}
      </button>
    </form>
    <p class="soft small">
      Titrated to pH 8.2. mL × N × 0.09008 × 100 / g of sample{{
        percent() === null
          ? ''
          : ' = ' +
            millilitres() +
            ' × ' +
            normality() +
            ' × 0.09008 × 100 / ' +
            sample() +
            ' = ' +
            percent()!.toFixed(3) +
            ' %'
      }}. Goggles and gloves: lye burns.
    </p>
    <ct-refusal [message]="form.problem()" />
  `,
  styles: ':host { display: grid; gap: 12px; }',
})
export class Measure {
  readonly lotId = input.required<string>();
  protected readonly form = recordingForm('measure', {
    fields: {
      salt: null as number | null,
      millilitres: null as number | null,
      normality: 0.1 as number | null,
      sample: null as number | null,
      how: '',
    },
    about: this.lotId,
    recorded: () => {
      this.salt.set(null);
      this.millilitres.set(null);
      this.sample.set(null);
    },
  });
  protected readonly salt = this.form.values.salt;
  protected readonly how = this.form.values.how;
  protected readonly millilitres = this.form.values.millilitres;
  protected readonly normality = this.form.values.normality;
  protected readonly sample = this.form.values.sample;
  protected readonly percent = computed(() => {
    const [millilitres, normality, sampleGrams] = [this.millilitres(), this.normality(), this.sample()];
    return millilitres && normality && sampleGrams ? titratableAcidity({ millilitres, normality, sampleGrams }) : null;
  });

  protected recordSalt(): void {
    const salt = this.salt();
    if (salt !== null)
      this.form.record(
        this.form.entry('check.make', {
          lotId: this.lotId(),
          what: 'salt',
          words: null,
          quiet: true,
          figure: salt,
          note: this.how().trim() || null,
        }),
      );
  }

  protected recordAcid(): void {
    if (this.percent() !== null)
      this.form.record(
        this.form.entry('acid.titrate', {
          lotId: this.lotId(),
          millilitres: this.millilitres()!,
          normality: this.normality()!,
          sampleGrams: this.sample()!,
        }),
      );
  }
}

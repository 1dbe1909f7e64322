import { Component, computed, input, signal } from '@angular/core';
import { titratableAcidity } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { FigureInput } from '../../../ui/figure-input';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';

/** Measured salt of the water phase, and titratable acidity. */
@Component({
  selector: 'ct-measure',
  imports: [FigureInput, Refusal, TextField],
  template: `
    <form class="row" (submit)="$event.preventDefault(); recordSalt()">
      <ct-figure label="Salt, measured" kind="percent" [least]="0" [most]="0.3" [(value)]="salt" /><ct-text
        style="width: 220px"
        label="With what"
        placeholder="refractometer, strips"
        [value]="how()"
        (valueChange)="how.set($event)"
      />
      <button [disabled]="salt() === null || form.saving()">Record the salt</button>
    </form>
    <form class="row" (submit)="$event.preventDefault(); recordAcid()">
      <ct-figure label="Lye used" unit="mL" [least]="0.01" [most]="500" [(value)]="millilitres" /><ct-figure
        label="Its strength"
        unit="N"
        [least]="0.001"
        [most]="2"
        [(value)]="normality"
      /><ct-figure label="Sample" kind="grams" [least]="0.1" [most]="1000" [(value)]="sample" />
      <button [disabled]="percent() === null || form.saving()">
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
  protected readonly salt = signal<number | null>(null);
  protected readonly how = signal('');
  protected readonly millilitres = signal<number | null>(null);
  protected readonly normality = signal<number | null>(0.1);
  protected readonly sample = signal<number | null>(null);
  protected readonly form = recordingForm('measure', () => {
    this.salt.set(null);
    this.millilitres.set(null);
    this.sample.set(null);
  });
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

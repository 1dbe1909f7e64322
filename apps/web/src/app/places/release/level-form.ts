import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { jarCode, readJarCode } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';

/** Bottles that settled for a day: topped up from one of their own run, and closed for good. */
@Component({
  selector: 'ct-level-form',
  imports: [FormField, RecordButton, Refusal, TextField],
  template: `
    <form class="stack rule" (submit)="$event.preventDefault()">
      <h2>Level and close</h2>
      <p class="soft small">
        They have settled. Top them up from a bottle of this run and no other, wipe, put the inserts in, close them.
      </p>
      <ct-text
        label="Topped up from jar"
        placeholder="number or code; empty: none needed"
        [problem]="problem()"
        [formField]="form.fields.bottle"
      />
      <div class="row">
        <button
          type="button"
          class="go"
          [ctRecord]="form"
          [needs]="[problem() && 'a jar of this run']"
          (click)="record(true)"
        >
          All levelled and closed
        </button>
        <button type="button" [ctRecord]="form" [needs]="[problem() && 'a jar of this run']" (click)="record(false)">
          Levelled only
        </button>
      </div>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
})
export class LevelForm {
  readonly runLotId = input.required<string>();
  readonly code = input.required<string>();
  protected readonly form = recordingForm('run.level', {
    fields: { bottle: '' },
    about: this.runLotId,
    recorded: () => this.form.values.bottle.set(''),
  });
  /** The serial typed alone, or read off its label; of another run it is none of these. */
  private readonly serial = computed((): number | 'none' | 'other' => {
    const text = this.form.values.bottle().trim();
    if (text === '') return 'none';
    if (/^\d{1,5}$/.test(text)) return Number(text);
    const read = readJarCode(text);
    return read?.ok && jarCode(this.code(), read.value.serial).text === read.value.text ? read.value.serial : 'other';
  });
  protected readonly problem = computed(() =>
    this.serial() === 'other'
      ? `“${this.form.values.bottle().trim()}” was given; a jar of ${this.code()} is accepted: nothing else goes into its bottles.`
      : null,
  );

  protected record(capped: boolean): void {
    const serial = this.serial();
    if (serial === 'other') return;
    this.form.record(
      this.form.entry('run.level', {
        runLotId: this.runLotId(),
        bottle: serial === 'none' ? null : serial,
        capped,
        note: null,
      }),
    );
  }
}

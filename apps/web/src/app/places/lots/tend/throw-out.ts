import { Component, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { TypedBeforeNote } from '../../../ui/typed-before';
import { formatGrams } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';

/** All of it goes out, with a record of what, how much and why. */
@Component({
  selector: 'ct-throw-out',
  imports: [Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <p class="grave">
        All {{ mass(grams()) }} of {{ code() }} go out, and the vessel is free for cleaning. This cannot be taken back.
      </p>
      <ct-text label="Cause" placeholder="mould, too late, broken glass" [formField]="form.fields.cause" /><ct-text
        label="Note"
        [formField]="form.fields.note"
      />
      <div>
        <button class="stern" [ctRecord]="form" [needs]="[!cause().trim() && 'the cause']">
          Throw out {{ mass(grams()) }}
        </button>
      </div>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
})
export class ThrowOut {
  readonly lotId = input.required<string>();
  readonly code = input.required<string>();
  readonly grams = input.required<number>();
  protected readonly form = recordingForm('throw out', {
    fields: { cause: '', note: '' },
    about: this.lotId,
  });
  protected readonly cause = this.form.values.cause;
  protected readonly note = this.form.values.note;
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected record(): void {
    if (this.cause().trim())
      this.form.record(
        this.form.entry('vessel.throwOut', {
          lotId: this.lotId(),
          cause: this.cause().trim(),
          note: this.note().trim() || null,
        }),
      );
  }
}

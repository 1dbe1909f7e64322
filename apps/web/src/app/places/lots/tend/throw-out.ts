import { Component, input, signal } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';

/** All of it goes out, with a record of what, how much and why. */
@Component({
  selector: 'ct-throw-out',
  imports: [Refusal, TextField],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <p class="grave">
        All {{ mass(grams()) }} of {{ code() }} go out, and the vessel is free for cleaning. This cannot be taken back.
      </p>
      <ct-text
        label="Cause"
        placeholder="mould, too late, broken glass"
        [value]="cause()"
        (valueChange)="cause.set($event)"
      /><ct-text label="Note" [value]="note()" (valueChange)="note.set($event)" />
      <div>
        <button class="stern" [disabled]="!cause().trim() || form.saving()">Throw out {{ mass(grams()) }}</button>
      </div>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
})
export class ThrowOut {
  readonly lotId = input.required<string>();
  readonly code = input.required<string>();
  readonly grams = input.required<number>();
  protected readonly cause = signal('');
  protected readonly note = signal('');
  protected readonly form = recordingForm('throw out');
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

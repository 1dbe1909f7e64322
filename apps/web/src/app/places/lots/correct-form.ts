import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import { parseMass, parsePh, parseTemperature } from '@clear-tally/core';
import type { BodyOf, BookLine } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';

/** Puts a figure right at its line. Both stay visible. */
@Component({
  selector: 'ct-correct-form',
  imports: [Refusal, RouterLink, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <div class="row">
        <ct-text label="The right figure" [formField]="form.fields.typed" [problem]="message()" />
        <ct-text style="flex: 1" label="Reason" [formField]="form.fields.reason" placeholder="digits swapped" />
        <button
          class="go"
          [ctRecord]="form"
          [needs]="[value() === null && 'the right figure', !reason().trim() && 'the reason']"
        >
          Correct {{ line().figure }}
        </button>
        <button type="button" (click)="done.emit()">Leave it</button>
        <a [routerLink]="['/correct', line().entryId]">More than the figure was wrong</a>
      </div>
      <ct-refusal [message]="message() ?? form.problem()" />
    </form>
  `,
})
export class CorrectForm {
  readonly line = input.required<BookLine>();
  readonly done = output();
  private readonly house = injectHouse();
  protected readonly form = recordingForm('entry.correct', {
    fields: { typed: '', reason: '' },
    about: computed(() => this.line().entryId),
    recorded: () => this.done.emit(),
  });
  protected readonly typed = this.form.values.typed;
  protected readonly reason = this.form.values.reason;

  private readonly parsed = computed(() => {
    const text = this.typed();
    const decimalMark = this.house.house()?.decimalMark;
    if (text.trim() === '') return null;
    switch (this.line().kind) {
      case 'ph.read':
        return parsePh({ text, decimalMark });
      case 'temperature.read':
        return parseTemperature({ text, decimalMark });
      default:
        return parseMass({ text, defaultUnit: 'g', decimalMark, what: 'salt' });
    }
  });
  protected readonly value = computed(() => {
    const parsed = this.parsed();
    return parsed?.ok ? parsed.value : null;
  });
  protected readonly message = computed(() => {
    const parsed = this.parsed();
    return parsed && !parsed.ok ? parsed.refusal.message : null;
  });

  protected record(): void {
    const value = this.value();
    if (value === null || !this.reason().trim()) return;
    this.form.record(
      this.form.entry('entry.correct', {
        corrects: this.line().entryId,
        reason: this.reason().trim(),
        right: this.right(value),
      }),
    );
  }

  private right(value: number): BodyOf<'entry.correct'>['right'] {
    const { kind, sample } = this.line();
    if (kind === 'ph.read') return { kind, ph: value, sample: sample ?? 'blended' };
    return kind === 'temperature.read' ? { kind, celsius: value } : { kind: 'salt.weigh', grams: value };
  }
}

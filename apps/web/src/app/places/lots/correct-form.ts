import { Component, computed, input, output, signal } from '@angular/core';
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
  imports: [Refusal, RouterLink, TextField],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <div class="row">
        <ct-text
          label="The right figure"
          [value]="typed()"
          (valueChange)="typed.set($event); form.edited()"
          [problem]="message()"
        />
        <ct-text style="flex: 1" label="Reason" [(value)]="reason" placeholder="digits swapped" />
        <button class="go" [disabled]="value() === null || !reason().trim() || form.saving()">
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
  protected readonly typed = signal('');
  protected readonly reason = signal('');
  protected readonly form = recordingForm('entry.correct', () => this.done.emit());

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

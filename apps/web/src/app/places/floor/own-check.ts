import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { FloorVessel } from '@clear-tally/contract';
import { asksWords, besideUsual, parseNumber } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectDecimalMark } from '../../state/house';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';

type Check = FloorVessel['checks'][number];

/** A check in the house's own words that wants a figure or words; a figure outside what is usual asks what was done. */
@Component({
  selector: 'ct-own-check',
  imports: [FormField, RecordButton, Refusal, TextField, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <div class="row">
        @if (asks(); as a) {
          @if (a.kind === 'figure') {
            <ct-text
              class="asked"
              [label]="check().name"
              [figures]="true"
              [unit]="a.unit ?? ''"
              [placeholder]="usual()"
              [problem]="problem()"
              [formField]="form.fields.figure"
            />
          }
          @if (a.kind === 'words' || beside()) {
            <ct-text
              [label]="a.kind === 'words' ? check().name + ', in words' : 'What was done about it'"
              [formField]="form.fields.note"
            />
          }
        }
        <button [ctRecord]="form" [needs]="needs()">Record</button>
      </div>
      @if (beside(); as where) {
        <p class="watch small">
          That is {{ where }} what is usual here: {{ usual() }}. Read it again; if it is so, say what was done.
        </p>
      }
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
  styles: '.asked { width: 190px; } .row { align-items: end; }',
})
export class OwnCheck {
  readonly lotId = input.required<string>();
  readonly check = input.required<Check>();
  readonly recorded = output();
  private readonly mark = injectDecimalMark();
  protected readonly form = recordingForm('own check', {
    fields: { figure: '', note: '' },
    about: computed(() => `${this.lotId()} ${this.check().key}`),
    recorded: () => {
      this.form.values.figure.set('');
      this.form.values.note.set('');
      this.recorded.emit();
    },
  });
  protected readonly asks = computed(() => this.check().asks);
  protected readonly usual = computed(() => {
    const asks = this.asks();
    return asks?.kind === 'figure' ? asksWords(asks).replace(/^a figure(?: in [^,]*)?(?:, )?/, '') : '';
  });
  private readonly parsed = computed(() => {
    const text = this.form.values.figure().trim();
    return text === '' ? null : parseNumber({ text, decimalMark: this.mark() });
  });
  protected readonly problem = computed(() => {
    const parsed = this.parsed();
    return parsed && !parsed.ok ? parsed.refusal.message : null;
  });
  private readonly figure = computed(() => {
    const parsed = this.parsed();
    return parsed?.ok ? parsed.value : null;
  });
  protected readonly beside = computed(() => besideUsual(this.asks(), this.figure()));
  protected readonly needs = computed(() => {
    const noted = this.form.values.note().trim() !== '';
    return this.asks()?.kind === 'words'
      ? [!noted && 'what was seen']
      : [this.figure() === null && 'its figure', this.beside() !== null && !noted && 'what was done'];
  });

  protected record(): void {
    if (this.needs().some(Boolean)) return;
    const { what, words } = this.check();
    const note = this.form.values.note().trim() || null;
    this.form.record(
      this.form.entry('check.make', {
        lotId: this.lotId(),
        what,
        words,
        quiet: this.beside() === null,
        figure: this.asks()?.kind === 'figure' ? this.figure() : null,
        note,
      }),
    );
  }
}

import { Component, input, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { dayProblem, formatGrams } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';

/** Brine taken off a live vessel and kept cold, to start others: a lot of its own, with its generation and its last day. */
@Component({
  selector: 'ct-keep-brine',
  imports: [DayField, QuantityInput, Refusal, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); keep()">
        <ct-typed-before [typed]="form.typed" />
        <h2>Keep brine</h2>
        <ct-quantity
          label="Brine taken off"
          what="brine"
          [gramsPerMl]="1.02"
          [formField]="form.fields.grams"
          [refusal]="form.problemAt('grams')"
        />
        <ct-day label="Good until, cold" [formField]="form.fields.until" />
        <p class="soft small">Without a date: as many days as the house keeps brine. Its allergens go with it.</p>
        <div class="row">
          <button
            [ctRecord]="form"
            [needs]="[!grams() && 'how much', wrongDay(until()) && 'a day as use-by that can be read']"
          >
            Keep {{ grams() ? mass(grams()!) : '' }}</button
          ><button type="button" (click)="open.set(false)">Not now</button>
        </div>
        <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
      </form>
    } @else {
      <p><button type="button" (click)="open.set(true)">Keep brine of it</button></p>
      @if (said(); as words) {
        <p class="note" role="status">{{ words }}</p>
      }
    }
  `,
})
export class KeepBrine {
  readonly lotId = input.required<string>();
  private readonly field = viewChild(QuantityInput);
  protected readonly open = signal(false);
  protected readonly form = recordingForm('brine.keep', {
    fields: { grams: null as number | null, until: '' },
    about: this.lotId,
    recorded: ([recorded]) => {
      const facts = recorded?.facts ?? {};
      this.said.set(
        `Kept as ${String(facts['code'])}, generation ${String(facts['generation'])}, use by ${String(facts['useBy'])}.`,
      );
      this.field()?.clear();
      this.open.set(false);
    },
  });
  protected readonly grams = this.form.values.grams;
  protected readonly until = this.form.values.until;
  protected readonly said = signal<string | null>(null);
  protected readonly wrongDay = (day: string): boolean => dayProblem(day) !== null;
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected keep(): void {
    if (this.grams())
      this.form.record(
        this.form.entry('brine.keep', {
          lotId: newId(),
          fillLotId: this.lotId(),
          grams: this.grams()!,
          useBy: this.until() || null,
        }),
      );
  }
}

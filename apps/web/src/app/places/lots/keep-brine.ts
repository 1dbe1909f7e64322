import { Component, input, signal, viewChild } from '@angular/core';
import { dayProblem, formatGrams } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';

/** Brine taken off a live vessel and kept cold, to start others: a lot of its own, with its generation and its last day. */
@Component({
  selector: 'ct-keep-brine',
  imports: [DayField, QuantityInput, Refusal],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); keep()">
        <h2>Keep brine</h2>
        <ct-quantity
          label="Brine taken off"
          what="brine"
          [gramsPerMl]="1.02"
          [(grams)]="grams"
          [refusal]="form.problemAt('grams')"
          (edited)="form.edited()"
        />
        <ct-day label="Good until, cold" [(value)]="until" />
        <p class="soft small">Without a date: as many days as the house keeps brine. Its allergens go with it.</p>
        <div class="row">
          <button [disabled]="!grams() || wrongDay(until()) || form.saving()">
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
  protected readonly grams = signal<number | null>(null);
  protected readonly until = signal('');
  protected readonly said = signal<string | null>(null);
  protected readonly form = recordingForm('brine.keep', ([recorded]) => {
    const facts = recorded?.facts ?? {};
    this.said.set(
      `Kept as ${String(facts['code'])}, generation ${String(facts['generation'])}, good until ${String(facts['useBy'])}.`,
    );
    this.field()?.clear();
    this.open.set(false);
  });
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

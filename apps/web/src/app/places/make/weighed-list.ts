import { Component, input, signal } from '@angular/core';
import { dayProblem, formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';

/** What is weighed in so far, with its lots. */
@Component({
  selector: 'ct-weighed-list',
  imports: [DayField, QuantityInput, Refusal],
  template: `
    @if (rows().length > 0) {
      <table class="book">
        <thead>
          <tr>
            <th>Weighed in</th>
            <th>Lot</th>
            <th class="right">Mass</th>
            <th>Supplier’s lot</th>
            <th>When</th>
            <th>By</th>
            @if (batchId()) {
              <th></th>
            }
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.entryId) {
            <tr>
              <td>{{ row.materialName }}</td>
              <td class="figure">{{ row.lotCode }}</td>
              <td class="right figure">{{ mass(row.grams) }}</td>
              <td class="figure">{{ row.supplierLotCode }}</td>
              <td class="figure">{{ house.dates().time(row.at) }}</td>
              <td class="figure">{{ row.by }}</td>
              @if (batchId()) {
                <td class="right">
                  <button type="button" class="plain small" (click)="open(row.entryId)">Some back to stock</button>
                </td>
              }
            </tr>
            @if (row.entryId === opened()) {
              <tr>
                <td colspan="7">
                  <form class="row" (submit)="$event.preventDefault(); giveBack()">
                    <ct-quantity
                      [label]="'Of ' + row.lotCode + ' back to stock'"
                      what="what goes back"
                      [(grams)]="grams"
                      [refusal]="form.problemAt('grams')"
                      (edited)="form.edited()"
                    />
                    <ct-day label="Cut, it keeps until" [(value)]="until" />
                    <button [disabled]="!grams() || wrongDay(until()) || form.saving()">Put back</button
                    ><button type="button" (click)="opened.set(null)">Close</button>
                  </form>
                  <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
                </td>
              </tr>
            }
          }
        </tbody>
      </table>
    }
  `,
})
export class WeighedList {
  readonly rows = input.required<MakeReply['ingredients']>();
  /** The batch whose bowls they are in, while something can still go back. */
  readonly batchId = input<string | null>(null);
  protected readonly house = injectHouse();
  protected readonly opened = signal<string | null>(null);
  protected readonly grams = signal<number | null>(null);
  protected readonly until = signal('');
  protected readonly form = recordingForm('remainder.return', () => this.opened.set(null));
  protected readonly wrongDay = (day: string): boolean => dayProblem(day) !== null;
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected open(entryId: string): void {
    this.grams.set(null);
    this.until.set('');
    this.form.edited();
    this.opened.set(entryId);
  }

  protected giveBack(): void {
    const [batchId, of, grams] = [this.batchId(), this.opened(), this.grams()];
    if (batchId && of && grams)
      this.form.record(this.form.entry('remainder.return', { batchId, of, grams, keepsUntil: this.until() || null }));
  }
}

import { computed, Component, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { dayProblem, formatWeighed } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';
import { BowlOff } from './bowl-off';

/** What is weighed in so far, with its lots. */
@Component({
  selector: 'ct-weighed-list',
  imports: [BowlOff, DayField, QuantityInput, Refusal, FormField, RecordButton, TypedBeforeNote],
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
            @if (onScales()) {
              <th>On</th>
            }
            @if (batchId() || mayTakeOff()) {
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
              @if (onScales()) {
                <td class="figure">{{ row.scale }}</td>
              }
              @if (batchId() || mayTakeOff()) {
                <td class="right">
                  @if (!row.together) {
                    <button type="button" class="plain small" (click)="bowlOf.set(row.entryId)">Bowl off</button>
                  }
                  @if (batchId()) {
                    <button type="button" class="plain small" (click)="open(row.entryId)">Some back to stock</button>
                  }
                </td>
              }
            </tr>
            @if (row.entryId === bowlOf()) {
              <tr>
                <td colspan="8"><ct-bowl-off [row]="row" (done)="bowlOf.set(null)" /></td>
              </tr>
            }
            @if (row.entryId === opened()) {
              <tr>
                <td colspan="8">
                  <form class="row" (submit)="$event.preventDefault(); giveBack()">
                    <ct-typed-before [typed]="form.typed" />
                    <ct-quantity
                      [label]="'Of ' + row.lotCode + ' back to stock'"
                      what="what goes back"
                      [formField]="form.fields.grams"
                      [refusal]="form.problemAt('grams')"
                    />
                    <ct-day label="Cut, it keeps until" [formField]="form.fields.until" />
                    <button
                      [ctRecord]="form"
                      [needs]="[!grams() && 'how much', wrongDay(until()) && 'a day as use-by that can be read']"
                    >
                      Put back</button
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
  /** Nothing goes back, and a bowl that was weighed with it can still be taken off. */
  readonly mayTakeOff = input(false);
  protected readonly house = injectHouse();
  protected readonly opened = signal<string | null>(null);
  protected readonly form = recordingForm('remainder.return', {
    fields: { grams: null as number | null, until: '' },
    about: computed(() => this.opened()),
    recorded: () => this.opened.set(null),
  });
  protected readonly grams = this.form.values.grams;
  protected readonly until = this.form.values.until;
  protected readonly wrongDay = (day: string): boolean => dayProblem(day) !== null;
  protected readonly mass = formatWeighed;
  /** Whose bowl is to be taken off. */
  protected readonly bowlOf = signal<string | null>(null);
  protected readonly onScales = computed(() => this.rows().some(({ scale }) => scale !== null));

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

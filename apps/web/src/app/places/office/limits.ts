import { Component, computed, signal } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import { ACID_BY, type AcidByKey } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { FigureInput } from '../../ui/figure-input';
import { Refusal } from '../../ui/refusal';

/** Hours to pH 4.6, row by row: a house may shorten them, never lengthen them. */
@Component({
  selector: 'ct-limits',
  imports: [FigureInput, Refusal, RecordButton],
  template: `
    <section class="rule stack">
      <h2>Hours to pH 4.6, blended</h2>
      <div class="row">
        @for (row of rows(); track row.key) {
          <ct-figure
            [label]="row.words"
            unit="h"
            [least]="row.least"
            [most]="row.hours"
            [value]="row.now"
            (valueChange)="set(row.key, $event)"
          />
        }
      </div>
      <p class="soft small">
        By the mean temperature; with a logger also 1,600 degree-hours above 4 °C, whichever is earlier. Shorter is the
        house’s own care; longer is not accepted.
      </p>
      @if (rights.isOwner()) {
        <div>
          <button type="button" [ctRecord]="form" [needs]="[!changed() && 'a change']" (click)="keep()">
            Keep these hours
          </button>
        </div>
      }
      <ct-refusal [message]="form.problem()" />
    </section>
  `,
})
export class Limits {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly typed = signal<Partial<Record<AcidByKey, number | null>>>({});
  protected readonly form = recordingForm('limits', () => this.typed.set({}));
  protected readonly rows = computed(() =>
    ACID_BY.map(({ key, hours, words }) => ({
      key,
      hours,
      words,
      least: key === 'above20' || key === 'above15' ? 12 : 24,
      now: this.typed()[key] ?? this.house.house()?.settings.acidByHours[key] ?? hours,
    })),
  );
  protected readonly changed = computed(() => Object.values(this.typed()).some((value) => value !== null));

  protected set(key: AcidByKey, value: number | null): void {
    this.typed.update((typed) => ({ ...typed, [key]: value }));
  }

  protected keep(): void {
    this.form.record(
      this.form.entry('house.set', { acidByHours: Object.fromEntries(this.rows().map(({ key, now }) => [key, now])) }),
    );
  }
}

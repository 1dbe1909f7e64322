import { Component, computed, input, model } from '@angular/core';
import { dayProblem, EARLIEST_DAY, LATEST_DAY } from '@clear-tally/core';

let made = 0;

/** A calendar day with its label. A year of two figures is a year of two figures: the field says so at once. */
@Component({
  selector: 'ct-day',
  template: `
    <label [for]="id">{{ label() }}</label>
    <input
      [id]="id"
      type="date"
      [min]="earliest"
      [max]="latest() ?? last"
      [class.wrong]="problem()"
      [attr.aria-invalid]="problem() ? true : null"
      [attr.aria-describedby]="id + '-say'"
      [value]="value()"
      (input)="typed($event)"
    />
    <span class="say small beet" [id]="id + '-say'" aria-live="polite">{{ problem() }}</span>
  `,
  styles:
    ':host { display: block; min-width: 0; } .say { display: block; max-width: 62ch; padding-top: 4px; } .say:empty { display: none; }',
})
export class DayField {
  readonly label = input.required<string>();
  /** Nothing after this day. */
  readonly latest = input<string>();
  readonly value = model('');
  protected readonly id = `day-${(made += 1)}`;
  protected readonly earliest = EARLIEST_DAY;
  protected readonly last = LATEST_DAY;
  protected readonly problem = computed(() => dayProblem(this.value(), this.latest()));

  protected typed(event: Event): void {
    this.value.set((event.target as HTMLInputElement).value);
  }
}

import { Component, computed, input, output, signal } from '@angular/core';
import {
  EMPTY_WINDOW,
  type FormulaWindow,
  MONTHS,
  windowConditionWords,
  windowDaysWords,
  windowFault,
} from '@clear-tally/core';
import { Choices } from '../../../ui/choices';
import { CountInput } from '../../../ui/count-input';
import { FigureInput } from '../../../ui/figure-input';
import { Select } from '../../../ui/select';

const STARTERS = [
  [null, 'either'],
  [true, 'with a starter'],
  [false, 'without'],
] as const;

/** Days of a window, with the words of their fields. */
const DAYS = [
  ['tasteDay', 'First tasting, day'],
  ['fromDay', 'Ready from day'],
  ['toDay', 'Latest, day'],
  ['counterDays', 'Days out, then cold'],
  ['bestFromDay', 'Best from, days chilled'],
  ['bestUntilDay', 'Best until, days chilled'],
] as const;

/** Ready windows in sentences, and a line to add one: of which lots it is, and what it says. Each may be empty. */
@Component({
  selector: 'ct-windows-editor',
  imports: [Choices, CountInput, FigureInput, Select],
  template: `
    <div class="stack">
      <ul>
        @for (one of windows(); track $index) {
          <li>
            <span
              ><b>{{ conditions(one) }}:</b> {{ says(one) }}</span
            ><button type="button" class="plain" (click)="drop($index)">Remove</button>
          </li>
        } @empty {
          <li class="soft">None: it goes by its rule above, or by its usual days.</li>
        }
      </ul>
      <div class="row">
        <ct-choices
          shown
          label="Begun"
          [options]="starters"
          [value]="of().starter"
          (picked)="set({ starter: $event })"
        />
        <ct-figure
          label="from"
          unit="°C"
          [least]="-2"
          [most]="45"
          [value]="coolest()"
          (valueChange)="coolest.set($event)"
        /><ct-figure
          label="to"
          unit="°C"
          [least]="-2"
          [most]="45"
          [value]="warmest()"
          (valueChange)="warmest.set($event)"
        />
        <ct-select
          label="Filled from"
          [options]="months"
          empty="any month"
          [value]="first()"
          (valueChange)="first.set($event)"
        />
        @if (first()) {
          <ct-select
            label="to"
            [options]="months"
            empty="that month"
            [value]="last()"
            (valueChange)="last.set($event)"
          />
        }
        @if (variants().length > 0) {
          <ct-select
            label="Variant"
            [options]="variants()"
            empty="any"
            [value]="of().variant"
            (valueChange)="set({ variant: $event || null })"
          />
        }
      </div>
      <div class="days">
        @for (day of days; track day[0]) {
          <ct-count [label]="day[1]" [value]="of()[day[0]]" (valueChange)="setDay(day[0], $event)" />
        }
      </div>
      <div class="row">
        <button type="button" [disabled]="!!fault() || windows().length >= most" (click)="add()">Add the window</button>
        @if (begun() && fault(); as why) {
          <p class="mustard">{{ why }}</p>
        }
      </div>
    </div>
  `,
  styles: `
    li {
      display: flex;
      gap: 14px;
      justify-content: space-between;
      border-bottom: 1px solid var(--hair);
      padding: 4px 0;
      align-items: center;
    }
    .days {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
      gap: 10px 12px;
    }
    .mustard {
      align-self: center;
    }
  `,
})
export class WindowsEditor {
  readonly windows = input.required<readonly FormulaWindow[]>();
  readonly variants = input<readonly string[]>([]);
  readonly windowsChange = output<FormulaWindow[]>();

  protected readonly most = 12;
  protected readonly starters = STARTERS;
  protected readonly days = DAYS;
  protected readonly months = MONTHS.map((words, index) => ({ key: String(index + 1), words }));
  protected readonly conditions = windowConditionWords;
  protected readonly says = windowDaysWords;
  protected readonly of = signal<FormulaWindow>(EMPTY_WINDOW);
  protected readonly coolest = signal<number | null>(null);
  protected readonly warmest = signal<number | null>(null);
  protected readonly first = signal('');
  protected readonly last = signal('');
  protected readonly whole = computed((): FormulaWindow => {
    const [least, most] = [this.coolest(), this.warmest()];
    const from = Number(this.first());
    return {
      ...this.of(),
      celsius: least === null && most === null ? null : { least: least ?? -2, most: most ?? 45 },
      months: from ? { from, to: Number(this.last()) || from } : null,
    };
  });
  protected readonly begun = computed(() => JSON.stringify(this.whole()) !== JSON.stringify(EMPTY_WINDOW));
  protected readonly fault = computed(() => windowFault(this.whole()));

  protected set(over: Partial<FormulaWindow>): void {
    this.of.update((of) => ({ ...of, ...over }));
  }

  protected setDay(key: (typeof DAYS)[number][0], day: number | null): void {
    this.set({ [key]: day });
  }

  protected add(): void {
    this.windowsChange.emit([...this.windows(), this.whole()]);
    this.of.set(EMPTY_WINDOW);
    for (const field of [this.coolest, this.warmest]) field.set(null);
    for (const field of [this.first, this.last]) field.set('');
  }

  protected drop(index: number): void {
    this.windowsChange.emit(this.windows().filter((_, at) => at !== index));
  }
}

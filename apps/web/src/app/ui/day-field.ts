import { OverlayModule } from '@angular/cdk/overlay';
import { Component, computed, inject, input, model, signal, ViewEncapsulation } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzDatePickerModule } from 'ng-zorro-antd/date-picker';
import { NzInputModule } from 'ng-zorro-antd/input';
import { dayProblem, readDay } from '@clear-tally/core';
import { House } from '../state/house';
import { calendarDay } from './dates';
import { Panel } from './panel';

let made = 0;
const two = (part: number): string => String(part).padStart(2, '0');
const isoOf = (at: Date): string => `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;

/**
 * A calendar day with its label, typed as people write it or picked from a calendar. It says what it understood; a year
 * of two figures is asked about at once, and so is what could be two days. `value` is "2026-11-29", or what was typed
 * while that is no day.
 */
@Component({
  selector: 'ct-day',
  imports: [FormsModule, NzDatePickerModule, NzInputModule, OverlayModule, Panel],
  encapsulation: ViewEncapsulation.None,
  template: `
    <label [for]="id" [id]="id + '-of'">{{ label() }}</label>
    <span class="ct-day-box" cdkOverlayOrigin #origin="cdkOverlayOrigin" [class.wrong]="problem()">
      <input
        #field
        nz-input
        class="words"
        [id]="id"
        type="text"
        autocomplete="off"
        placeholder="29 Nov 2026"
        [class.wrong]="problem()"
        [attr.aria-invalid]="problem() ? true : null"
        [attr.aria-describedby]="id + '-say'"
        [value]="text()"
        (input)="typed(field.value)"
      />
      <button
        type="button"
        aria-label="Pick from a calendar"
        [attr.aria-describedby]="id + '-of'"
        [attr.aria-expanded]="open()"
        (click)="open.set(!open())"
      >
        <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
          <path d="M2 5h16v13H2zM2 9h16M6 2v4M14 2v4" fill="none" stroke="currentColor" stroke-width="2" />
        </svg>
      </button>
    </span>
    <span class="ct-day-say small" [class.beet]="problem()" [id]="id + '-say'" aria-live="polite">{{
      problem() ?? understood()
    }}</span>
    <ct-panel look="ct-day-calendar" [label]="label()" [origin]="origin" [open]="open()" (closed)="open.set(false)">
      @if (open()) {
        <nz-date-picker
          nzInline
          [nzShowToday]="false"
          [ngModel]="picked()"
          [nzDisabledDate]="tooLate"
          (ngModelChange)="pick($event)"
        />
      }
    </ct-panel>
  `,
  styleUrl: './day-field.less',
})
export class DayField {
  readonly label = input.required<string>();
  /** Nothing after this day. */
  readonly latest = input<string>();
  readonly value = model('');
  protected readonly id = `day-${(made += 1)}`;
  protected readonly open = signal(false);
  private readonly own = signal<string | null>(null);
  private readonly house = inject(House, { optional: true });
  /** “Today” is the house's, wherever the tablet believes to be. */
  private readonly read = (text: string): ReturnType<typeof readDay> =>
    readDay({ text, today: this.house?.dates().today() ?? isoOf(new Date()) });
  /** As it was typed; a day from outside as the house writes it. */
  protected readonly text = computed(() => {
    const [own, value] = [this.own(), this.value()];
    if (own !== null && (this.read(own).day ?? own.trim()) === value) return own;
    return value === '' ? '' : this.isDay(value) ? calendarDay(value) : value;
  });
  protected readonly problem = computed(() => {
    const value = this.value();
    if (value === '') return null;
    if (this.own() !== null && !this.isDay(value)) return this.read(value).problem ?? dayProblem(value, this.latest());
    return dayProblem(value, this.latest());
  });
  protected readonly understood = computed(() => {
    const value = this.value();
    const written = this.isDay(value) ? calendarDay(value) : '';
    return written === '' || this.problem() || this.text().trim().toLowerCase() === written.toLowerCase()
      ? ''
      : `= ${written}`;
  });
  protected readonly picked = computed(() => {
    const value = this.value();
    return this.isDay(value) && dayProblem(value) === null ? new Date(`${value}T12:00:00`) : null;
  });
  protected readonly tooLate = (at: Date): boolean => dayProblem(isoOf(at), this.latest()) !== null;

  protected typed(text: string): void {
    this.own.set(text);
    this.value.set(this.read(text).day ?? text.trim());
  }

  protected pick(at: Date | null): void {
    this.open.set(false);
    if (!at) return;
    this.own.set(null);
    this.value.set(isoOf(at));
  }

  private isDay(text: string): boolean {
    return /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));
  }
}

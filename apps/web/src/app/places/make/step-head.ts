import { Component, computed, inject, input } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import { Store } from '@ngrx/store';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { sessionFeature } from '../../state/session';
import { clockWords, Timers } from '../../state/timers';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import type { SheetOf, SheetStep } from './sheet-of';

/** Head of a step: what it is, what the formula says to it, what to put on, its timer, and its beginning. */
@Component({
  selector: 'ct-step-head',
  imports: [Mark, Refusal, RecordButton],
  template: `
    @let s = step();
    <div class="head">
      <h1>{{ s.name }}</h1>
      <span class="soft"
        >step {{ number() }} of {{ batch().steps.length }}{{ s.irreversible ? ', cannot be taken back' : '' }}</span
      >
      @if (working(); as words) {
        <span class="at">{{ words }}</span>
      }
      @if (mayBegin()) {
        <button type="button" (click)="begin()" [ctRecord]="form">Begin</button>
      }
    </div>
    @for (words of sayings(); track $index) {
      <p class="words">{{ words }}</p>
    }
    @for (caution of s.cautions; track caution.words) {
      <p class="watch">
        <ct-mark kind="watch">
          @if (caution.wear) {
            <b>Put on first. </b>
          }
          {{ caution.words }}</ct-mark
        >
      </p>
    }
    @if (s.minutes !== null || own().length > 0) {
      <div class="row timers">
        @if (mayWork() && s.minutes !== null && s.state !== 'done' && s.state !== 'skipped') {
          <button type="button" (click)="start(s.minutes)">Start {{ s.minutes }} min</button>
        }
        @for (timer of own(); track timer.timerId) {
          <span class="timer figure" [class.over]="timer.secondsLeft <= 0"
            ><b>{{ clock(timer.secondsLeft) }}</b> of {{ timer.minutes }} min
            @if (mayWork()) {
              <button type="button" class="plain" (click)="timers.stop(timer.timerId)">Stop</button>
            }
          </span>
        }
      </div>
    }
    <ct-refusal [message]="form.problem()" />
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      align-items: center;
    }
    .at {
      margin-left: auto;
      color: var(--brine);
      font-weight: 600;
    }
    .at + button,
    h1 + span + button {
      margin-left: auto;
    }
    .at + button {
      margin-left: 0;
    }
    .words {
      font-size: 20px;
      max-width: 62ch;
    }
    .timer {
      font-size: 20px;
      display: inline-flex;
      gap: 10px;
      align-items: center;
      min-height: 48px;
    }
    .timer b {
      font-size: 28px;
    }
    .over {
      color: var(--mustard);
    }
    button.plain {
      font-size: 17px;
    }
  `,
})
export class StepHead {
  readonly batch = input.required<SheetOf>();
  readonly step = input.required<SheetStep>();
  protected readonly timers = inject(Timers);
  private readonly house = injectHouse();
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  protected readonly form = recordingForm('step.begin');
  protected readonly clock = clockWords;

  /** What the name says already is not said again. */
  protected readonly sayings = computed(() =>
    this.step().words.filter((words) => words.replace(/[.;:]$/, '') !== this.step().name),
  );
  protected readonly number = computed(() => this.batch().steps.findIndex((one) => one.key === this.step().key) + 1);
  protected readonly own = computed(() =>
    this.timers.running().filter((timer) => timer.batchId === this.batch().batchId && timer.step === this.step().key),
  );
  protected readonly working = computed(() => {
    const { state, begunBy, by, at, labourMinutes } = this.step();
    const time = (iso: string): string => this.house.dates().time(iso);
    if (state === 'skipped') return `skipped by ${by}, ${time(at!)}`;
    if (state === 'done' && by) return `done by ${by}, ${time(at!)}${labourMinutes ? `, ${labourMinutes} min` : ''}`;
    return begunBy.length > 0 ? begunBy.map((one) => `${one.by} since ${time(one.at)}`).join(', ') : '';
  });
  protected readonly mayWork = computed(() => this.batch().closedAt === null && this.person()?.role !== 'inspector');
  protected readonly mayBegin = computed(() => {
    const { by, begunBy } = this.step();
    return this.mayWork() && by === null && !begunBy.some((one) => one.by === this.person()?.initials);
  });

  protected begin(): void {
    this.form.record(this.form.entry('step.begin', { batchId: this.batch().batchId, step: this.step().key }));
  }

  protected start(minutes: number): void {
    this.timers.start({ batchId: this.batch().batchId, step: this.step().key, words: this.step().name, minutes });
  }
}

import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { firstOf } from '@clear-tally/core';
import { Store } from '@ngrx/store';
import type { TimersReply } from '@clear-tally/contract';
import { newId, recordingForm } from './form';
import { sessionFeature } from './session';
import { shown } from './shown';
import { ticking } from './clock';

export interface RunningTimer {
  readonly timerId: string;
  readonly words: string;
  readonly batchId: string | null;
  readonly batchCode: string | null;
  /** Started on the sheet of a finish. */
  readonly finish: boolean;
  readonly step: string | null;
  /** Seconds left; below nought it is over. */
  readonly secondsLeft: number;
  readonly minutes: number;
}

/** The timers of the house. They run on the server; here they are shown, and ring. */
@Injectable()
export class Timers {
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  private readonly read = shown<TimersReply>(computed(() => (this.person() ? '/api/timers' : null)));
  private readonly now = ticking();
  private readonly form = recordingForm('timer');
  readonly problem = this.form.problem;
  /** How far this tablet's clock is from the server's, ms. */
  private readonly skew = signal(0);

  readonly running = computed((): RunningTimer[] =>
    (this.read.data()?.timers ?? []).map((timer) => ({
      timerId: timer.timerId,
      words: timer.words,
      batchId: timer.batchId,
      batchCode: timer.batchCode,
      finish: timer.finish,
      step: timer.step,
      minutes: timer.minutes,
      secondsLeft: Math.round((Date.parse(timer.endsAt) - this.now() - this.skew()) / 1000),
    })),
  );
  readonly over = computed(() => this.running().filter((timer) => timer.secondsLeft <= 0));

  constructor() {
    effect(() => {
      const reply = this.read.data();
      if (reply) this.skew.set(Date.parse(reply.now) - Date.now());
    });
  }

  start(input: { batchId: string | null; step: string | null; words: string; minutes: number }): void {
    this.form.record(this.form.entry('timer.start', { timerId: newId(), ...input, words: firstOf(input.words, 80) }));
  }

  stop(timerId: string): void {
    this.form.record(this.form.entry('timer.stop', { timerId }));
  }
}

/** Where a timer was started: the run sheet of its batch, or the sheet of a finish. */
export const timerLink = (timer: RunningTimer): (string | null)[] =>
  timer.finish ? ['/finish', timer.batchCode] : ['/make', timer.batchId];

/** 400 as 06:40; below nought with a sign. */
export function clockWords(seconds: number): string {
  const whole = Math.abs(seconds);
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60];
  const two = (figure: number): string => String(figure).padStart(2, '0');
  return `${seconds < 0 ? '+' : ''}${hours > 0 ? `${hours}:` : ''}${two(minutes)}:${two(whole % 60)}`;
}

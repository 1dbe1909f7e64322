import { Component, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { injectRights } from '../state/person';
import { clockWords, timerLink, Timers } from '../state/timers';
import { Ringing } from './ringing';

/** Timers that are over ring on every page, in sight and sound, until somebody stops them. */
@Component({
  selector: 'ct-bell',
  imports: [RouterLink],
  template: `
    @for (timer of timers.over(); track timer.timerId) {
      <div class="over" role="alert">
        <b>{{ timer.words }}</b>
        @if (timer.batchId) {
          <a [routerLink]="link(timer)" [queryParams]="{ step: timer.step }">{{ timer.batchCode }}</a>
        }
        <span class="figure" aria-hidden="true">{{ words(timer.secondsLeft) }}</span>
        @if (rights.mayRecord()) {
          <button type="button" class="go" (click)="timers.stop(timer.timerId)">Stop it</button>
        }
        @if (!quiet()) {
          <button type="button" (click)="quiet.set(true)">Quiet</button>
        }
      </div>
    }
    @if (timers.over().length > 0 && timers.problem(); as said) {
      <p class="watch">{{ said }}</p>
    }
  `,
  styles:
    '.over { display: flex; gap: 16px; align-items: center; padding: 6px 16px; background: var(--mustard-wash); border: 2px solid var(--mustard); font-size: 20px; } .figure { margin-left: auto; font-weight: 700; }',
})
export class Bell {
  protected readonly timers = inject(Timers);
  protected readonly rights = injectRights();
  private readonly ringing = inject(Ringing);
  protected readonly quiet = signal(false);
  protected readonly words = clockWords;
  protected readonly link = timerLink;

  constructor() {
    effect((onCleanup) => {
      const rings = this.timers.over().length > 0;
      if (!rings) this.quiet.set(false);
      if (!rings || this.quiet()) return;
      onCleanup(this.ringing.start());
    });
  }
}

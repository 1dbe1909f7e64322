import { Component, computed, inject, input, output } from '@angular/core';
import { type HeatLimits, UNDISTURBED_HOURS } from '@clear-tally/core';
import { clockWords, Timers } from '../../state/timers';

interface Wait {
  readonly words: string;
  readonly starts: string;
  readonly minutes: number;
  /** Begins the log. */
  readonly boils?: boolean;
}

/** What is waited for while a load is heated, in its order: each starts with one tap and rings on every page. */
@Component({
  selector: 'ct-heat-timers',
  template: `
    <ol class="waits" aria-label="What is waited for">
      @for (wait of waits(); track wait.words) {
        <li>
          @if (runningOf(wait); as timer) {
            <span
              ><b class="figure">{{ clock(timer.secondsLeft) }}</b> {{ wait.starts }}</span
            >
            <button type="button" class="plain" (click)="timers.stop(timer.timerId)">Stop it</button>
          } @else {
            <button type="button" (click)="start(wait)">{{ wait.starts }}: {{ span(wait.minutes) }}</button>
          }
        </li>
      }
    </ol>
  `,
  styles: `
    .waits {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 14px;
      padding: 0;
      margin: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 10px;
      align-items: center;
    }
  `,
})
export class HeatTimers {
  readonly limits = input.required<HeatLimits>();
  readonly code = input.required<string>();
  readonly jars = input.required<string>();
  /** The moment of the full boil, or of the heat: where a log begins that counts minutes. */
  readonly began = output<Date>();
  protected readonly timers = inject(Timers);
  protected readonly clock = clockWords;

  protected readonly waits = computed((): Wait[] => {
    const of = this.limits();
    const bath = of.method === 'waterBath';
    const found: (Wait | null)[] = [
      { words: 'held', starts: bath ? 'Full boil' : `At ${of.processC} °C`, minutes: of.minutes, boils: true },
      of.turnedSeconds ? { words: 'turned', starts: 'Turned', minutes: of.turnedSeconds / 60 } : null,
      bath && of.restMinutes ? { words: 'rest', starts: 'Heat off, at rest', minutes: of.restMinutes } : null,
      { words: 'seals', starts: 'Lifted, left alone', minutes: UNDISTURBED_HOURS * 60 },
    ];
    return found.flatMap((wait) => (wait ? [{ ...wait, words: `${this.code()} ${this.jars()}: ${wait.starts}` }] : []));
  });

  protected runningOf = (wait: Wait) => this.timers.running().find(({ words }) => words === wait.words);
  protected span = (minutes: number): string =>
    minutes >= 120 ? `${minutes / 60} h` : minutes < 1 || minutes % 1 !== 0 ? `${minutes * 60} s` : `${minutes} min`;

  protected start(wait: Wait): void {
    if (wait.boils) this.began.emit(new Date());
    this.timers.start({ batchId: null, step: null, words: wait.words, minutes: wait.minutes });
  }
}

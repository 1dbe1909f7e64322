import { Component, computed, effect, inject, input, output, untracked } from '@angular/core';
import { injectHouse } from '../../state/house';
import { KettleLog, POINT_EVERY_MS } from '../../state/kettle-log';

/** The probe in the kettle: what it says, and its log taken down a point at a time. Nothing is shown where none speaks. */
@Component({
  selector: 'ct-kettle-line',
  template: `
    @if (kettle.celsius() !== null || mine()) {
      <div class="row">
        <span
          >{{ kettle.name() ?? 'The probe' }}
          @if (kettle.celsius() !== null) {
            <b class="figure">{{ kettle.celsius()!.toFixed(1) }} °C</b>
          } @else {
            <b class="beet">is silent: nothing is taken down</b>
          }
        </span>
        @if (mine()) {
          <button type="button" (click)="kettle.stop()">Stop taking it down</button>
          <span class="soft small">a point every {{ seconds }} s, on whatever page you are</span>
        } @else {
          <button type="button" (click)="kettle.start(of())">Take its log down</button>
          @if (kettle.running()) {
            <span class="soft small">ends the log of another run</span>
          }
        }
      </div>
    }
  `,
})
export class KettleLine {
  readonly of = input.required<string>();
  /** Lines of the log since the last ones. */
  readonly lines = output<string[]>();
  protected readonly kettle = inject(KettleLog);
  private readonly house = injectHouse();
  protected readonly seconds = POINT_EVERY_MS / 1000;
  protected readonly mine = computed(() => this.kettle.isOf(this.of()));
  private readonly clock = computed(() => {
    const timeZone = this.house.house()?.timeZone ?? 'UTC';
    return new Intl.DateTimeFormat('en-GB', { timeZone, timeStyle: 'medium', hourCycle: 'h23' });
  });

  constructor() {
    effect(() => {
      const clock = this.clock();
      const lines = this.kettle.lines(this.of(), (at) => clock.format(at));
      if (lines.length === 0) return;
      untracked(() => {
        this.kettle.taken(this.of());
        this.lines.emit(lines);
      });
    });
  }
}

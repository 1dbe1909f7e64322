import { Component, computed, input } from '@angular/core';
import type { WatchReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';

/** Which of its formula's windows a vessel goes by, and why; when it goes to the cold and is at its best. */
@Component({
  selector: 'ct-window-words',
  template: `
    @let w = window();
    <p class="small soft">
      {{ w.why }}{{ w.says ? ': ' + w.says : '' }}.
      @if (w.coldOn !== null) {
        To the cold on <b>{{ day(w.coldOn) }}</b>.
      }
      @if (best(); as words) {
        {{ words }}
      }
    </p>
  `,
})
export class WindowWords {
  readonly window = input.required<WatchReply['window']>();
  private readonly house = injectHouse();
  protected readonly best = computed(() => {
    const of = this.window().best;
    if (!of) return null;
    const [from, until] = [of.from, of.until].map((at) => (at === null ? null : this.day(at)));
    const span = [from && `from ${from}`, until && `until ${until}`].filter(Boolean).join(' ');
    return `At its best ${span}${of.chilled ? '' : ', if it goes to the cold then'}.`;
  });
  protected readonly day = (at: number): string => this.house.dates().day(new Date(at).toISOString());
}

import { Component, input } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { TallyReply } from '@clear-tally/contract';
import { Mark } from './mark';

/** The tally of a lot, ruled off when it closes. */
@Component({
  selector: 'ct-tally',
  imports: [Mark],
  template: `
    @let t = tally();
    <dl>
      <dt>In</dt>
      <dd class="figure">{{ mass(t.inGrams) }}</dd>
      <dt>Out to other lots</dt>
      <dd class="figure">{{ mass(t.outGrams) }}</dd>
      <dt>Losses weighed</dt>
      <dd class="figure">{{ mass(t.lossGrams) }}</dd>
      @if (t.byDifference; as taken) {
        @if (taken.grams > 0) {
          <dt>{{ taken.sink }}, by difference</dt>
          <dd class="figure">{{ mass(taken.grams) }}</dd>
        }
      }
      <dt>{{ onHandWords() }}</dt>
      <dd class="figure">{{ mass(t.onHandGrams) }}</dd>
      <dt class="last">
        @if (t.clear) {
          <ct-mark kind="clear"><b>Clear</b></ct-mark>
        } @else {
          <ct-mark kind="watch"><b>Not clear</b></ct-mark>
        }
      </dt>
      <dd class="figure last" [class.ruled]="t.clear" [class.beet]="!t.clear">{{ mass(t.unexplainedGrams) }}</dd>
    </dl>
    <p class="small soft">
      Within ± {{ mass(t.toleranceGrams) }}.
      @if (t.likelySlip) {
        <span class="beet"> Likely: {{ t.likelySlip }}.</span>
      }
    </p>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 1fr auto;
    }
    dt,
    dd {
      margin: 0;
      padding: 8px 4px;
      border-bottom: 1px solid var(--hair);
      text-transform: none;
    }
    dd {
      text-align: right;
    }
    .last {
      border-bottom: 0;
    }
    .ruled {
      border-bottom: 5px double var(--ink);
    }
  `,
})
export class TallyView {
  readonly tally = input.required<TallyReply>();
  readonly onHandWords = input('On hand');
  protected readonly mass = (grams: number): string => formatGrams(grams);
}

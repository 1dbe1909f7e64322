import { Component, input } from '@angular/core';
import type { Working } from '@clear-tally/core';

/** How a number came about: the rule, the figures put in, where each comes from. */
@Component({
  selector: 'ct-working',
  template: `
    @if (working(); as w) {
      <p class="line">{{ w.rule }}</p>
      <p class="line figure">{{ w.figures }}</p>
      <p class="answer">
        = <b class="figure">{{ w.answer }}</b>
      </p>
      <dl>
        @for (source of w.sources; track source.what) {
          <dt class="figure">{{ source.what }}</dt>
          <dd>{{ source.from }}</dd>
        }
      </dl>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    .line {
      background: #edf1ef;
      border-left: 4px solid var(--brine);
      padding: 8px 12px;
      white-space: normal;
    }
    .answer {
      font-size: 19px;
    }
    dl {
      display: grid;
      grid-template-columns: minmax(110px, auto) 1fr;
      gap: 4px 12px;
      font-size: 15px;
    }
    dt {
      color: var(--soft);
      white-space: normal;
    }
    dd {
      margin: 0;
    }
  `,
})
export class WorkingShower {
  readonly working = input<Working | null>(null);
}

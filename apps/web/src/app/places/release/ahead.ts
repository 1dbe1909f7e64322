import { Component, computed, input } from '@angular/core';
import type { AheadReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';

/** The list a release is signed on, as these vessels stand before anything is packed: met, open with its way on, or seen later. */
@Component({
  selector: 'ct-ahead',
  imports: [Mark],
  template: `
    @if (read.data(); as r) {
      <details>
        <summary>
          For its release:
          @if (open().length > 0) {
            <b class="mustard">{{ open().length }} open</b>, {{ met().length }} met, {{ later().length }} seen after
            packing
          } @else {
            {{ met().length }} met, {{ later().length }} seen after packing
          }
        </summary>
        <ul>
          @for (row of r.conditions; track row.key) {
            <li>
              <ct-mark [kind]="row.state === 'met' ? 'met' : row.state === 'open' ? 'due' : 'later'"
                ><span class="visually-hidden">{{ row.state }}: </span>{{ row.words }}<br /><span class="soft small">{{
                  row.now
                }}</span>
                @if (row.wayOn) {
                  <small class="mustard">{{ row.wayOn }}</small>
                }
              </ct-mark>
            </li>
          }
        </ul>
      </details>
    }
  `,
  styles: `
    ul {
      display: grid;
      gap: 8px;
    }
    ct-mark {
      line-height: 1.3;
    }
    small {
      display: block;
    }
    summary {
      cursor: pointer;
      min-height: 48px;
      padding: 12px 0;
    }
  `,
})
export class Ahead {
  /** Vessels or finishes it would be packed from. */
  readonly lots = input.required<readonly string[]>();
  private readonly path = computed(() =>
    this.lots().length > 0 ? `/api/release-ahead?lots=${[...this.lots()].sort().join(',')}` : null,
  );
  protected readonly read = shown<AheadReply>(this.path);
  private readonly by = (state: string) =>
    computed(() => (this.read.data()?.conditions ?? []).filter((one) => one.state === state));
  protected readonly open = this.by('open');
  protected readonly met = this.by('met');
  protected readonly later = this.by('later');
}

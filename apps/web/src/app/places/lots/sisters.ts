import { Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { WatchReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { Mark } from '../../ui/mark';

/** The vessels of a batch side by side: the odd one is seen at once. */
@Component({
  selector: 'ct-sisters',
  imports: [Mark, RouterLink],
  template: `
    <h2>Vessels of this batch</h2>
    <table class="book">
      <thead>
        <tr>
          <th>Vessel</th>
          <th class="right">pH</th>
          <th>read</th>
          <th class="right">°C</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (one of sisters(); track one.code) {
          <tr [class.here]="one.code === code()">
            <td>
              <a [routerLink]="['/lots', one.code]">{{ one.vesselTag }}</a>
            </td>
            <td class="right figure">{{ one.ph === null ? '–' : one.ph.toFixed(2) }}</td>
            <td class="soft small">
              {{ one.at === null ? '' : house.dates().moment(iso(one.at))
              }}{{ one.ph === null || one.counts ? '' : ', does not count' }}
            </td>
            <td class="right figure">{{ one.celsius === null ? '–' : one.celsius.toFixed(1) }}</td>
            <td>
              @if (one.hold) {
                <ct-mark kind="hold">on hold</ct-mark>
              } @else if (one.odd) {
                <ct-mark kind="watch">stands apart</ct-mark>
              } @else if (one.closed) {
                <span class="soft">emptied</span>
              }
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
})
export class Sisters {
  readonly sisters = input.required<WatchReply['sisters']>();
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly iso = (at: number): string => new Date(at).toISOString();
}

import { Component, input } from '@angular/core';
import type { WatchReply } from '@clear-tally/contract';

/** Pictures by day, side by side. */
@Component({
  selector: 'ct-pictures',
  template: `<h2>Pictures by day</h2>
    <ul>
      @for (one of pictures(); track one.photo + one.at) {
        <li>
          <a [href]="'/api/photos/' + one.photo" target="_blank" rel="noopener"
            ><img [src]="'/api/photos/' + one.photo" [alt]="'Day ' + one.day + ': ' + one.words" /></a
          ><span class="small"
            ><b>day {{ one.day }}</b> {{ one.words }}</span
          >
        </li>
      }
    </ul>`,
  styles:
    'ul { display: flex; gap: 12px; overflow-x: auto; } li { display: grid; width: 150px; flex: none; gap: 4px; } img { width: 150px; height: 112px; object-fit: cover; border: 1px solid var(--hair); }',
})
export class Pictures {
  readonly pictures = input.required<WatchReply['pictures']>();
}

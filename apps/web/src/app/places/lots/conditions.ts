import { Component, input } from '@angular/core';
import type { WatchReply } from '@clear-tally/contract';
import { Mark, type MarkKind } from '../../ui/mark';

const MARKS: Record<WatchReply['conditions'][number]['state'], MarkKind> = {
  met: 'met',
  open: 'due',
  watch: 'watch',
  hold: 'hold',
};

/** Every condition of a vessel, met or not met, with what stands there now. */
@Component({
  selector: 'ct-conditions',
  imports: [Mark],
  template: `<ul>
    @for (one of conditions(); track one.words) {
      <li>
        <ct-mark [kind]="marks[one.state]"
          ><span class="visually-hidden">{{ one.state === 'met' ? 'met: ' : 'not met: ' }}</span
          >{{ one.words }}<br /><span class="soft small">{{ one.now }}</span></ct-mark
        >
      </li>
    }
  </ul>`,
  styles: 'ul { display: grid; gap: 8px; } ct-mark { line-height: 1.3; }',
})
export class Conditions {
  readonly conditions = input.required<WatchReply['conditions']>();
  protected readonly marks = MARKS;
}

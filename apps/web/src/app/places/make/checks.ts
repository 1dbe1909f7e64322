import { Component, input, model } from '@angular/core';
import type { SheetStepReply } from '@clear-tally/contract';
import { Tick } from '../../ui/tick';

/** What is looked at, one tick each, large enough for a glove. */
@Component({
  selector: 'ct-checks',
  imports: [Tick],
  template: `
    <ul>
      @for (check of checks(); track check.key) {
        <li>
          <ct-tick [value]="checked().includes(check.key)" (valueChange)="turn(check.key)"
            ><span>{{ check.words }}</span></ct-tick
          >
        </li>
      }
    </ul>
  `,
  styles:
    'label { display: flex; gap: 14px; align-items: center; min-height: 50px; margin: 0; font-size: 19px; font-weight: 500; color: var(--ink); cursor: pointer; } li { border-bottom: 1px solid var(--hair); } input { width: 28px; height: 28px; accent-color: var(--brine); flex: none; }',
})
export class Checks {
  readonly checks = input.required<SheetStepReply['checks']>();
  readonly checked = model<readonly string[]>([]);

  protected turn(key: string): void {
    this.checked.update((now) => (now.includes(key) ? now.filter((one) => one !== key) : [...now, key]));
  }
}

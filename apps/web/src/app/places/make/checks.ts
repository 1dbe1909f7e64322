import { Component, computed, input, model } from '@angular/core';
import type { SheetStepReply } from '@clear-tally/contract';
import { Tick } from '../../ui/tick';

/** What is looked at, one tick each, large enough for a glove; or all that is left with one, when all of it is so. */
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
    @if (left().length > 1) {
      <button type="button" (click)="tickAll()">
        {{ left().length === checks().length ? 'All ' + left().length : 'The other ' + left().length }} are so
      </button>
    }
  `,
  styles:
    'label { display: flex; gap: 14px; align-items: center; min-height: 50px; margin: 0; font-size: 19px; font-weight: 500; color: var(--ink); cursor: pointer; } li { border-bottom: 1px solid var(--hair); } input { width: 28px; height: 28px; accent-color: var(--brine); flex: none; } button { margin-top: 10px; }',
})
export class Checks {
  readonly checks = input.required<SheetStepReply['checks']>();
  readonly checked = model<readonly string[]>([]);
  protected readonly left = computed(() => this.checks().filter(({ key }) => !this.checked().includes(key)));

  protected turn(key: string): void {
    this.checked.update((now) => (now.includes(key) ? now.filter((one) => one !== key) : [...now, key]));
  }

  protected tickAll(): void {
    this.checked.update((now) => [...now, ...this.left().map(({ key }) => key)]);
  }
}

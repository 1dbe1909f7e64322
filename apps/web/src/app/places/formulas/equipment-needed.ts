import { Component, computed, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { EquipmentReply, FormulaReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Mark, type MarkKind } from '../../ui/mark';

type Needed = NonNullable<FormulaReply['equipment']>[number];

/** What a batch is made with, seen before it starts: what is due of it, out of use, or in no register. */
@Component({
  selector: 'ct-equipment-needed',
  imports: [Mark, RouterLink],
  template: `
    <h2>Made with</h2>
    <ul>
      @for (one of pieces(); track one.words) {
        <li>
          <ct-mark [kind]="one.mark">{{ one.words }}</ct-mark>
        </li>
      }
    </ul>
    @if (troubled()) {
      <p class="small"><a routerLink="/equipment">Look at it on Equipment</a> before you begin.</p>
    }
  `,
  styles: 'ul { display: flex; flex-wrap: wrap; gap: 4px 22px; }',
})
export class EquipmentNeeded {
  readonly needs = input.required<readonly Needed[]>();
  private readonly read = shown<EquipmentReply>(signal('/api/equipment'));
  protected readonly pieces = computed(() => {
    const all = this.read.data()?.equipment;
    return this.needs().map(({ tag, words }): { words: string; mark: MarkKind } => {
      const of = tag === null ? undefined : all?.find((one) => one.tag === tag);
      if (!of)
        return {
          words: tag !== null && all ? `${words}, not in the register` : words,
          mark: tag !== null && all ? 'watch' : 'later',
        };
      const name = `${of.tag}, ${of.name}`;
      if (!of.inUse) return { words: `${name}: out of use`, mark: 'late' };
      if (of.due === 'failed') return { words: `${name}: not in order when it was looked at last`, mark: 'late' };
      return of.due ? { words: `${name}: to be looked at first`, mark: 'watch' } : { words: name, mark: 'met' };
    });
  });
  protected readonly troubled = computed(() => this.pieces().some(({ mark }) => mark === 'late' || mark === 'watch'));
}

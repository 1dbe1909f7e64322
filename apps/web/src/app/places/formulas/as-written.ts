import { Component, computed, input } from '@angular/core';
import type { FormulaReply } from '@clear-tally/contract';
import { formulaWords } from './formulaWords';

/** How a line says that nothing was written there. */
const NOTHING: ReadonlySet<string> = new Set(['none', 'none named', 'not given']);

/** Its heading says the name; the order of its lines is the order they stand in. */
const SAID_ELSEWHERE: ReadonlySet<string> = new Set(['name', 'order']);

/** A formula before anybody has said how much of it: every line of it in words. */
@Component({
  selector: 'ct-as-written',
  template: `
    <table class="book" aria-label="The formula as it is written">
      <tbody>
        @for (line of lines(); track line.key) {
          <tr>
            <th scope="row">{{ line.what }}</th>
            <td>{{ line.words }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles:
    'th { width: 34%; text-align: left; font: inherit; color: var(--soft); border-bottom: 1px solid var(--hair); } th, td { vertical-align: baseline; }',
})
export class AsWritten {
  readonly formula = input.required<FormulaReply>();
  protected readonly lines = computed(() =>
    formulaWords(this.formula()).filter(({ key, words }) => !SAID_ELSEWHERE.has(key) && !NOTHING.has(words)),
  );
}

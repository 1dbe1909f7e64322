import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BASIS_WORDS, formatPercent, type SaltBasis } from '@clear-tally/core';
import type { FormulasReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Waiting } from '../../ui/waiting';

export const STYLE_WORDS = { dryShred: 'dry-salted shred', brinedWhole: 'brined whole', brinedMash: 'brined mash' } as const;

/** The formula book. */
@Component({
  selector: 'ct-formulas',
  imports: [RouterLink, Waiting],
  template: `
    <div class="page"><div class="main stack">
      <h1>Formulas</h1>
      @if (read.data(); as reply) {
        <table class="book">
          <thead><tr><th>No.</th><th>Formula</th><th>School</th><th class="right">Salt</th><th class="right">Usual days</th><th class="right">Batches</th></tr></thead>
          <tbody>
            @for (formula of rows(); track formula.formulaId) {
              <tr>
                <td class="figure">{{ formula.number }}</td>
                <td><a class="big" [routerLink]="['/formulas', formula.formulaId]">{{ formula.name }}</a> <span class="soft small">version {{ formula.version }}</span></td>
                <td>{{ formula.styleWords }}</td>
                <td class="right"><span class="figure">{{ formula.salt }}</span> <span class="soft small">{{ formula.basisWords }}</span></td>
                <td class="right figure">{{ formula.usualDays }}</td>
                <td class="right figure">{{ formula.batches }}</td>
              </tr>
            } @empty { <tr><td colspan="6" class="soft">The book is empty. A formula comes in as an entry of an owner.</td></tr> }
          </tbody>
        </table>
        <p class="soft small">“Per cent salt” has four meanings. Each formula says its own; the bench shows all of them, and where they even out.</p>
      }
      <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
    </div></div>
  `,
  styles: '.big { display: inline-block; padding: 8px 0; font-size: 20px; font-weight: 700; color: var(--ink); }',
})
export class Formulas {
  protected readonly read = shown<FormulasReply>(signal('/api/formulas'));
  protected readonly rows = computed(() => (this.read.data()?.formulas ?? []).map((formula) => ({
    ...formula, styleWords: STYLE_WORDS[formula.style], salt: formatPercent(formula.saltFraction, 1), basisWords: BASIS_WORDS[formula.saltBasis as SaltBasis],
  })));
}

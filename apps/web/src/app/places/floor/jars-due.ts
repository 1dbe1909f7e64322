import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { RunsReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';

/** Jars that are to be looked at today: their level, their gas, the pH of what is even. */
@Component({
  selector: 'ct-jars-due',
  imports: [Mark, RouterLink],
  template: `@if (looks().length > 0) {
    <h2>Jars</h2>
    <ul>
      @for (look of looks(); track look.code + look.words) {
        <li>
          <a [routerLink]="['/runs', look.code]"
            ><ct-mark [kind]="look.late ? 'late' : 'due'"
              ><span class="visually-hidden">{{ look.late ? 'late' : 'due' }}</span></ct-mark
            ><span
              ><b>{{ look.words }}</b> · {{ look.name }}<small class="figure soft">{{ look.code }}</small></span
            ><b class="when" [class.beet]="look.late" [class.mustard]="!look.late">by {{ look.by }}</b></a
          >
        </li>
      }
    </ul>
  }`,
  styles: `
    h2 {
      padding: 10px 0 4px;
    }
    a {
      display: grid;
      grid-template-columns: 26px minmax(0, 1fr) auto;
      gap: 10px;
      padding: 10px 0;
      border-bottom: 1px solid var(--hair);
      color: var(--ink);
      text-decoration: none;
    }
    small {
      display: block;
    }
    .when {
      white-space: nowrap;
    }
  `,
})
export class JarsDue {
  private readonly house = injectHouse();
  private readonly read = shown<RunsReply>(signal('/api/looks'));
  protected readonly looks = computed(() =>
    (this.read.data()?.runs ?? [])
      .flatMap(({ code, name, checks }) =>
        checks
          .filter(({ state }) => state !== 'later')
          .map(({ words, due, state }) => ({
            code,
            name,
            words,
            due,
            late: state === 'late',
            by: this.house.dates().day(new Date(due).toISOString()),
          })),
      )
      .sort((a, b) => a.due - b.due),
  );
}

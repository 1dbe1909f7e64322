import { Nothing } from '../../ui/nothing';
import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { CustomersReply, SuppliesReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { remember, remembered } from '../../state/tablet';

interface AskedCode {
  readonly code: string;
  readonly title: string;
}
const KEY = 'ct-trace-asked';
const MOST = 8;

/** What was traced on this tablet, the last one first. */
export function rememberAsked(one: AskedCode): void {
  const before = remembered<readonly AskedCode[]>(KEY, []).filter(({ code }) => code !== one.code);
  remember(KEY, [one, ...before].slice(0, MOST));
}

/** What is asked most: what was asked last here, what came in last, who has jars, and the other questions of the desk. */
@Component({
  selector: 'ct-asked',
  imports: [Nothing, RouterLink],
  template: `
    <div class="columns">
      @if (last.length > 0) {
        <section class="stack">
          <h2>Asked last</h2>
          @for (one of last; track one.code) {
            <a [routerLink]="['/trace', one.code]"
              ><b class="figure">{{ one.code }}</b
              ><small>{{ one.title }}</small></a
            >
          }
        </section>
      }
      <section class="stack">
        <h2>Supplies that came last</h2>
        @for (one of supplies(); track one.lotId) {
          <a [routerLink]="['/trace', one.code]"
            ><b>{{ one.materialName }}</b
            ><small
              ><span class="figure">{{ one.code }}</span
              >{{ one.supplierLotCode ? ', theirs ' + one.supplierLotCode : '' }}</small
            ></a
          >
        }
      </section>
      <section class="stack">
        <h2>Who has jars</h2>
        @for (one of customers(); track one.customerId) {
          <a [routerLink]="['/trace-by', 'customer', one.customerId]"
            ><b>{{ one.name }}</b
            ><small>{{ one.jars }} jars{{ one.lastAt ? ', last ' + house.dates().day(one.lastAt) : '' }}</small></a
          >
        } @empty {
          <ct-nothing says="Nobody has jars yet." />
        }
      </section>
      <section class="stack">
        <h2>Something is wrong</h2>
        <a routerLink="/shared-cause"><b>These jars are bad</b><small>what do they share?</small></a>
        <a routerLink="/complaints"><b>Somebody complains</b><small>of a jar or a run</small></a>
        <a routerLink="/recalls"><b>A supplier calls a lot back</b><small>which jars, where, who has them</small></a>
        <a routerLink="/tallies"><b>What does not close</b><small>tallies, with the likely slip</small></a>
      </section>
    </div>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
      gap: 26px;
    }
    section {
      gap: 0;
      align-content: start;
    }
    a {
      display: block;
      padding: 9px 0;
      border-bottom: 1px solid var(--hair);
      color: var(--ink);
      text-decoration: none;
    }
    a:hover b {
      text-decoration: underline;
    }
    small {
      display: block;
      color: var(--soft);
      font-size: 15px;
    }
  `,
})
export class Asked {
  protected readonly house = injectHouse();
  protected readonly last = remembered<readonly AskedCode[]>(KEY, []);
  private readonly stock = shown<SuppliesReply>(signal('/api/supplies'));
  private readonly who = shown<CustomersReply>(signal('/api/customers'));
  protected readonly supplies = computed(() =>
    [...(this.stock.data()?.lots ?? [])].sort((a, b) => (a.receivedAt < b.receivedAt ? 1 : -1)).slice(0, MOST),
  );
  protected readonly customers = computed(() =>
    [...(this.who.data()?.customers ?? [])]
      .filter(({ jars }) => jars > 0)
      .sort((a, b) => b.jars - a.jars)
      .slice(0, MOST),
  );
}

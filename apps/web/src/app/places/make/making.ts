import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { FormulasReply, MakingReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Nothing } from '../../ui/nothing';
import { Receive } from '../../ui/receive';
import { Waiting } from '../../ui/waiting';
import { STAGE_WORDS } from './stage-words';

/** What is on the bench, and where a batch starts. */
@Component({
  selector: 'ct-making',
  imports: [Nothing, Receive, RouterLink, Waiting],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <h1>On the bench</h1>
        @if (read.data(); as reply) {
          <ul>
            @for (batch of reply.batches; track batch.batchId) {
              <li>
                <a class="batch" [routerLink]="['/make', batch.batchId]">
                  <b class="figure">{{ batch.code }}</b><span
                    >{{ batch.name }}<small>started {{ house.dates().moment(batch.startedAt) }}</small></span
                  >
                  <span class="stage">{{ words[batch.stage] }}</span><span class="figure">{{
                    batch.inBowlsGrams > 0 ? mass(batch.inBowlsGrams) : '–'
                  }}</span>
                </a>
              </li>
            } @empty {
              <li><ct-nothing says="Nothing is on the bench. Start a batch from one of the formulas." /></li>
            }
          </ul>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
      <aside class="side stack">
        <h2>Start a batch from</h2>
        @for (formula of startable(); track formula.formulaId) {
          <a class="button" [routerLink]="['/formulas', formula.formulaId]">{{ formula.name }}</a>
        }
        <div class="rule stack"><ct-receive /></div>
      </aside>
    </div>
  `,
  styles: `
    .batch {
      display: grid;
      grid-template-columns: 140px minmax(0, 1fr) 220px 110px;
      gap: 14px;
      align-items: center;
      min-height: 76px;
      padding: 8px 4px;
      border-bottom: 1px solid var(--hair);
      color: var(--ink);
      text-decoration: none;
      font-size: 19px;
    }
    ul {
      container-type: inline-size;
    }
    /* On a phone, and beside the bench drawer: the name has a line of its own. */
    @container (max-width: 640px) {
      .batch {
        grid-template-columns: auto minmax(0, 1fr) auto;
        gap: 2px 14px;
      }
      .batch > span:nth-child(2) {
        grid-column: 1 / -1;
        grid-row: 1;
      }
    }
    .batch:hover {
      background: var(--wash);
    }
    .batch small {
      display: block;
      font-size: 15px;
      color: var(--soft);
    }
    .batch .figure {
      text-align: right;
    }
    .batch b.figure {
      text-align: left;
    }
    .stage {
      color: var(--mustard);
      font-weight: 700;
      font-size: 17px;
    }
    a.button {
      justify-content: flex-start;
      text-align: left;
      padding: 10px 16px;
    }
  `,
})
export class Making {
  protected readonly words = STAGE_WORDS;
  protected readonly house = injectHouse();
  protected readonly read = shown<MakingReply>(signal('/api/making'));
  protected readonly formulas = shown<FormulasReply>(signal('/api/formulas'));
  /** What is retired, noted only, or still open in its salt is not offered here; its own page says why. */
  protected readonly startable = computed(() =>
    (this.formulas.data()?.formulas ?? []).filter(
      (formula) =>
        formula.retired === null &&
        !formula.outsideScope &&
        formula.saltFraction !== null &&
        formula.saltBasis !== null,
    ),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);
}

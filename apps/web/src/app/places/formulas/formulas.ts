import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BASIS_WORDS, formatPercent, type SaltBasis } from '@clear-tally/core';
import type { FormulasReply } from '@clear-tally/contract';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { OwnersOnly } from '../../ui/owners-only';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { STYLE_WORDS } from './draft/draft';
import { Tick } from '../../ui/tick';

type Row = FormulasReply['formulas'][number] & {
  readonly styleWords: string;
  readonly salt: string;
  readonly basisWords: string;
};

const COLUMNS: readonly Column<Row>[] = [
  { key: 'number', head: 'No.', value: ({ number }) => String(number), width: '84px' },
  { key: 'name', head: 'Formula', value: ({ name }) => name },
  { key: 'school', head: 'School', value: ({ styleWords }) => styleWords },
  { key: 'salt', head: 'Salt', kind: 'percent', value: ({ saltFraction }) => saltFraction },
  { key: 'of', head: 'Salt of what', value: ({ basisWords }) => basisWords, aside: true },
  { key: 'days', head: 'Usual days', kind: 'number', value: ({ usualDays }) => usualDays, width: '150px' },
  { key: 'batches', head: 'Batches', kind: 'number', value: ({ batches }) => batches, width: '110px' },
];

/** The formula book: searched, with what is open, retired or outside the scope said at its line. */
@Component({
  selector: 'ct-formulas',
  imports: [Cell, OwnersOnly, RouterLink, Table, Waiting, Tick],
  template: `
    <div class="page">
      <div class="main stack">
        <div class="head">
          <h1>Formulas</h1>
          <p class="row">
            @if (rights.mayRecord()) {
              <a class="button go" routerLink="/formulas/new">New formula</a
              ><a class="button" routerLink="/formulas/take-in">Take a recipe in</a>
            }
            <a class="button" routerLink="/formulas/beside">Two beside each other</a>
            <a class="button" href="/api/formulas.json">The book as a file</a>
          </p>
        </div>
        <ct-owners-only says="Anybody writes a formula; an owner keeps it in the book." />
        @if (read.data(); as reply) {
          @if (retired() > 0) {
            <div>
              <ct-tick [(value)]="withRetired">show {{ retired() }} retired</ct-tick>
            </div>
          }
          <ct-table
            name="Formulas"
            placeholder="name, school, number"
            nothing="The book is empty. Write a first formula, or take in a recipe as it stands in a notebook."
            [rows]="rows()"
            [columns]="columns"
            [rowKey]="keyOf"
            [gone]="isRetired"
          >
            <ng-template ctCell="name" let-formula>
              <a class="big" [routerLink]="['/formulas', formula.formulaId]">{{ formula.name }}</a>&ngsp;<span
                class="soft small"
                >version {{ formula.version }}</span
              >
              @if (formula.holes > 0) {
                <span class="mustard small">&ngsp;· {{ formula.holes }} open</span>
              }
              @if (formula.retired !== null) {
                <span class="soft small">&ngsp;· retired</span>
              }
              @if (formula.outsideScope) {
                <span class="beet small">&ngsp;· noted only, outside the scope</span>
              }
            </ng-template>
            <ng-template ctCell="salt" let-formula>
              <span class="figure">{{ formula.salt }}</span>&ngsp;<span class="soft small">{{
                formula.basisWords
              }}</span>
            </ng-template>
          </ct-table>
          <p class="soft small">
            “Per cent salt” has four meanings. Each formula says its own; the bench shows all of them, and where they
            even out.
          </p>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
  styles: `
    .big {
      display: inline-block;
      padding: 8px 0;
      font-size: 20px;
      font-weight: 700;
      color: var(--ink);
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 16px;
    }
    tr.gone a {
      color: var(--soft);
    }
  `,
})
export class Formulas {
  protected readonly read = shown<FormulasReply>(signal('/api/formulas'));
  protected readonly rights = injectRights();
  protected readonly withRetired = signal(false);
  protected readonly retired = computed(
    () => (this.read.data()?.formulas ?? []).filter((formula) => formula.retired !== null).length,
  );
  protected readonly rows = computed((): readonly Row[] =>
    (this.read.data()?.formulas ?? [])
      .filter(({ retired }) => this.withRetired() || retired === null)
      .map((formula) => ({
        ...formula,
        styleWords: STYLE_WORDS[formula.style],
        salt: formula.saltFraction === null ? 'open' : formatPercent(formula.saltFraction, 1),
        basisWords: formula.saltBasis === null ? '' : BASIS_WORDS[formula.saltBasis as SaltBasis],
      })),
  );
  protected readonly columns = COLUMNS;
  protected readonly keyOf = ({ formulaId }: Row): string => formulaId;
  protected readonly isRetired = ({ retired }: Row): boolean => retired !== null;
}

import { Component, computed, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { differences } from '@clear-tally/core';
import type { FormulaReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { formulaWords } from './formulaWords';

type Row = ReturnType<typeof differences>[number];

/** Two versions of a formula, line by line: what changed, what came, what went. */
@Component({
  selector: 'ct-versions',
  imports: [Cell, RouterLink, Table, Waiting],
  template: `
    <div class="page with-outline">
      @if (newest.data(); as f) {
        <div class="outline stack">
          <div>
            <h2 style="color: var(--ink)">{{ f.name }}</h2>
            <p class="soft small">Batches keep the version they were started with.</p>
          </div>
          <ol>
            @for (one of f.versions; track one.version) {
              <li>
                <button type="button" [attr.aria-pressed]="after() === one.version" (click)="chosen.set(one.version)">
                  version {{ one.version }}<span class="small">{{ when(one.savedAt) }}, {{ one.by }}</span>
                </button>
              </li>
            }
          </ol>
          <a [routerLink]="['/formulas', formulaId()]">To the bench</a>
        </div>
        <div class="main stack">
          @if (before()) {
            <h1>Version {{ after() }} against {{ before() }}</h1>
            @if (rows(); as all) {
              <ct-table
                [name]="'Versions of a formula'"
                nothing="Nothing differs."
                placeholder="line, amount"
                [rows]="all"
                [columns]="columns()"
                [rowKey]="keyOf"
              >
                <ng-template ctCell="before" let-row>
                  @if (row.before === null) {
                    <span class="soft">not there</span>
                  } @else {
                    <s>{{ row.before }}</s>
                  }
                </ng-template>
                <ng-template ctCell="after" let-row>
                  @if (row.after === null) {
                    <span class="beet">left out</span>
                  } @else {
                    {{ row.after }}
                  }
                </ng-template>
              </ct-table>
            }
          } @else {
            <h1>Version {{ after() }}</h1>
            <p class="soft">The first version: there is nothing before it.</p>
          }
          <p>
            <a [routerLink]="['/formulas', formulaId()]" [queryParams]="{ version: after() }"
              >See version {{ after() }} on the bench</a
            >
          </p>
          <ct-waiting
            [loading]="old.loading() || now.loading()"
            [problem]="old.problem() ?? now.problem()"
            (again)="old.again(); now.again()"
          />
        </div>
      } @else {
        <div class="main">
          <ct-waiting [loading]="newest.loading()" [problem]="newest.problem()" (again)="newest.again()" />
        </div>
      }
    </div>
  `,
  styles: `
    li button {
      width: 100%;
      justify-content: space-between;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
    }
    li button[aria-pressed='true'] {
      background: var(--ink);
      color: #fff;
    }
    s {
      color: var(--soft);
    }
  `,
})
export class Versions {
  readonly formulaId = input.required<string>();
  private readonly house = injectHouse();
  protected readonly newest = shown<FormulaReply>(computed(() => `/api/formulas/${this.formulaId()}`));
  protected readonly chosen = signal<number | null>(null);
  protected readonly after = computed(() => this.chosen() ?? this.newest.data()?.version ?? 0);
  protected readonly before = computed(
    () =>
      this.newest
        .data()
        ?.versions.map(({ version }) => version)
        .filter((version) => version < this.after())[0] ?? null,
  );
  protected readonly now = shown<FormulaReply>(
    computed(() => (this.after() ? `/api/formulas/${this.formulaId()}?version=${this.after()}` : null)),
  );
  protected readonly old = shown<FormulaReply>(
    computed(() => (this.before() ? `/api/formulas/${this.formulaId()}?version=${this.before()}` : null)),
  );
  protected readonly rows = computed(() => {
    const [before, after] = [this.old.data(), this.now.data()];
    if (!before || !after) return null;
    // A line that came or went has moved the others: their order is news only when the lines are the same.
    const names = (formula: FormulaReply): string =>
      formula.lines
        .map(({ name }) => name)
        .sort()
        .join();
    return differences(formulaWords(before), formulaWords(after)).filter(
      (row) => row.what !== 'Order of the lines' || names(before) === names(after),
    );
  });
  protected readonly columns = computed((): Column<Row>[] => [
    { key: 'what', head: 'Line', value: ({ what }) => what },
    {
      key: 'before',
      head: `Version ${this.before()}`,
      value: ({ before }) => before,
      words: ({ before }) => before ?? 'not there',
    },
    {
      key: 'after',
      head: `Version ${this.after()}`,
      value: ({ after }) => after,
      words: ({ after }) => after ?? 'left out',
    },
  ]);
  protected readonly keyOf = ({ what, before, after }: Row): string => [what, before, after].join('|');
  protected readonly when = (iso: string): string => this.house.dates().day(iso);
}

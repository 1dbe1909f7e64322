import { Component, computed, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { FormulaReply, FormulasReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { Nothing } from '../../ui/nothing';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Tick } from '../../ui/tick';
import { Waiting } from '../../ui/waiting';
import { besideEachOther, FOR_GRAMS, type Habit, habits } from './besideWords';

/** Two formulas of the book beside each other, both for as much produce: two houses' habits, line by line. */
@Component({
  selector: 'ct-beside',
  imports: [Cell, Choice, Nothing, RouterLink, Table, Tick, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <p><a routerLink="/formulas">Formulas</a></p>
        <h1>Two formulas beside each other</h1>
        <p class="soft">
          What each puts into {{ per }} of trimmed produce, and how it is made. Nothing here says which is right.
        </p>
        <div class="row">
          <ct-choice
            label="One"
            [options]="offered()"
            [value]="one() ?? null"
            (valueChange)="go($event, other() ?? null)"
          />
          <ct-choice
            label="The other"
            [options]="offered()"
            [value]="other() ?? null"
            (valueChange)="go(one() ?? null, $event)"
          />
        </div>
        <ct-waiting
          [loading]="book.loading() || first.loading() || second.loading()"
          [problem]="book.problem() ?? first.problem() ?? second.problem()"
          (again)="book.again(); first.again(); second.again()"
        />
        @if (rows(); as all) {
          <div><ct-tick [(value)]="onlyDifferent">only where they differ</ct-tick></div>
          <ct-table
            name="Two formulas"
            nothing="Nothing differs."
            placeholder="line, amount"
            [rows]="all"
            [columns]="columns()"
            [rowKey]="keyOf"
          >
            <ng-template ctCell="what" let-row
              ><span [class.differs]="row.one !== row.other">{{ row.what }}</span></ng-template
            >
          </ct-table>
        } @else if (!one() || !other()) {
          <ct-nothing says="Choose two: a recipe of a book or a friend, taken in, beside the house’s own." />
        }
      </div>
    </div>
  `,
  styles: '.differs { font-weight: 700; } ct-choice { min-width: 320px; }',
})
export class Beside {
  readonly one = input<string>();
  readonly other = input<string>();
  private readonly router = inject(Router);
  protected readonly per = `${FOR_GRAMS / 1000} kg`;
  protected readonly onlyDifferent = signal(false);
  protected readonly book = shown<FormulasReply>(signal('/api/formulas'));
  protected readonly first = shown<FormulaReply>(computed(() => (this.one() ? `/api/formulas/${this.one()}` : null)));
  protected readonly second = shown<FormulaReply>(
    computed(() => (this.other() ? `/api/formulas/${this.other()}` : null)),
  );
  protected readonly offered = computed(() =>
    (this.book.data()?.formulas ?? []).map(({ formulaId, name, number, version }) => ({
      id: formulaId,
      label: name,
      detail: `formula ${number}, version ${version}`,
    })),
  );
  protected readonly rows = computed(() => {
    const [one, other] = [this.first.data(), this.second.data()];
    if (!one || !other) return null;
    const all = besideEachOther(habits(one), habits(other));
    return this.onlyDifferent() ? all.filter((row) => row.one !== row.other) : all;
  });
  protected readonly columns = computed((): Column<Habit>[] => [
    { key: 'what', head: 'Line', value: ({ what }) => what, width: '260px' },
    { key: 'one', head: this.first.data()?.name ?? '', value: ({ one }) => one ?? 'nothing' },
    { key: 'other', head: this.second.data()?.name ?? '', value: ({ other }) => other ?? 'nothing' },
  ]);
  protected readonly keyOf = ({ key }: Habit): string => key;

  protected go(one: string | null, other: string | null): void {
    void this.router.navigate([], { queryParams: { one, other } });
  }
}

import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { STORAGE_WORDS } from '@clear-tally/core';
import type { RunsReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { PackNav } from '../pack/pack-nav';

type Run = RunsReply['runs'][number];

export const RUN_STATES: Readonly<Record<Run['state'], string>> = {
  waits: 'waits for release',
  released: 'released',
  withdrawn: 'withdrawn',
};

/** What is asked of a run next; nothing where nothing is. */
const nextOf = (run: Run): Run['checks'][number] | null => run.checks[0] ?? null;

/** Packed runs: what waits for its release first, what is to be looked at, what is out. */
@Component({
  selector: 'ct-runs',
  imports: [Cell, Mark, PackNav, RouterLink, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-pack-nav />
        <h1>Runs</h1>
        @if (read.data()) {
          <p class="soft">
            {{ waiting() }} {{ waiting() === 1 ? 'run waits' : 'runs wait' }} for release.
            @if (due() > 0) {
              <b class="mustard">{{ due() }} {{ due() === 1 ? 'look is' : 'looks are' }} due.</b>
            }
          </p>
          <ct-table
            name="Runs"
            placeholder="code, product, state"
            nothing="No jar is packed yet. What is packed waits here for its release."
            [rows]="rows()"
            [columns]="columns"
            [rowKey]="keyOf"
          >
            <ng-template ctCell="code" let-run>
              <a class="figure code" [routerLink]="['/runs', run.code]">{{ run.code }}</a>
            </ng-template>
            <ng-template ctCell="state" let-run>
              @if (run.hold) {
                <ct-mark kind="hold">on hold</ct-mark>
              } @else if (run.state === 'released') {
                <ct-mark kind="met">released</ct-mark>
              } @else if (run.state === 'withdrawn') {
                <ct-mark kind="hold">withdrawn</ct-mark>
              } @else {
                <ct-mark kind="watch">{{ run.open === 0 ? 'ready to sign' : run.open + ' open' }}</ct-mark>
              }
            </ng-template>
            <ng-template ctCell="next" let-run>
              @if (next(run); as check) {
                <span [class.beet]="check.state === 'late'" [class.mustard]="check.state === 'due'">{{
                  check.words
                }}</span><br /><span class="soft small">{{
                  check.state === 'later' ? 'from ' + day(check.from) : 'by ' + day(check.due)
                }}</span>
              }
            </ng-template>
          </ct-table>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
  styles: '.code { font-weight: 700; display: inline-block; padding: 6px 0; }',
})
export class Runs {
  private readonly house = injectHouse();
  protected readonly read = shown<RunsReply>(signal('/api/runs'));
  /** What waits, then what is withdrawn, then what is out; each the newest first. */
  protected readonly rows = computed(() => {
    const order = { waits: 0, withdrawn: 1, released: 2 };
    return [...(this.read.data()?.runs ?? [])].sort(
      (a, b) => Number(a.inHouse === 0) - Number(b.inHouse === 0) || order[a.state] - order[b.state],
    );
  });
  protected readonly waiting = computed(
    () => this.rows().filter(({ state, inHouse }) => state === 'waits' && inHouse > 0).length,
  );
  protected readonly due = computed(() =>
    this.rows().reduce((sum, { checks }) => sum + checks.filter(({ state }) => state !== 'later').length, 0),
  );
  protected readonly next = nextOf;
  protected readonly columns: readonly Column<Run>[] = [
    { key: 'code', head: 'Run', value: ({ code }) => code, width: '170px' },
    { key: 'name', head: 'Product', value: ({ name }) => name },
    { key: 'packed', head: 'Packed', kind: 'day', value: ({ packedAt }) => packedAt, width: '130px' },
    {
      key: 'state',
      head: 'State',
      value: (run) => (run.hold ? 'on hold' : RUN_STATES[run.state]),
      width: '170px',
    },
    { key: 'inHouse', head: 'In the house', kind: 'number', value: ({ inHouse }) => inHouse, width: '160px' },
    { key: 'jars', head: 'Jars', kind: 'number', value: ({ jars }) => jars, aside: true },
    {
      key: 'storage',
      head: 'Kept',
      value: ({ storage }) => (storage ? STORAGE_WORDS[storage] : null),
      width: '130px',
    },
    { key: 'by', head: 'By', value: ({ packedBy }) => packedBy, aside: true },
    { key: 'next', head: 'To look at', value: (run) => nextOf(run)?.words ?? null },
  ];
  protected readonly keyOf = ({ lotId }: Run): string => lotId;
  protected readonly day = (at: number): string => this.house.dates().day(new Date(at).toISOString());
}

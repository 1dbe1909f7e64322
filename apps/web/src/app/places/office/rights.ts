import { Component, computed, signal } from '@angular/core';
import type { RightsReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { OfficeNav } from './office-nav';

type Right = RightsReply['rights'][number];

const ROLES = [
  ['owner', 'Owner'],
  ['maker', 'Maker'],
  ['inspector', 'Inspector'],
] as const;

const COLUMNS: readonly Column<Right>[] = [
  { key: 'words', head: 'What', value: ({ words }) => words },
  { key: 'does', head: 'In other words', value: ({ does }) => does },
  ...ROLES.map(([role, head]): Column<Right> => ({
    key: role,
    head,
    value: (right) => (right[role] ? 'may' : 'may not'),
  })),
  { key: 'note', head: 'Note', value: ({ note }) => note },
];

/** Roles against rights, as the write path itself goes by them. */
@Component({
  selector: 'ct-rights',
  imports: [Cell, Mark, OfficeNav, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-office-nav />
        <h1>Who may what</h1>
        <p class="soft">
          An owner is a reviewer too: judges milder than the guide, releases, ends holds. Everybody signs what they did
          themselves. Roles are given under “Who comes in”.
        </p>
        @if (read.data(); as r) {
          <ct-table
            name="Who may what"
            placeholder="hold, release, salt"
            [rows]="rights()"
            [columns]="columns"
            [rowKey]="keyOf"
          >
            @for (role of roles; track role[0]) {
              <ng-template [ctCell]="role[0]" let-right>
                @if (right[role[0]]) {
                  <ct-mark kind="met">may</ct-mark>
                } @else {
                  <span class="soft">may not</span>
                }
              </ng-template>
            }
          </ct-table>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
})
export class Rights {
  protected readonly read = shown<RightsReply>(signal('/api/rights'));
  protected readonly rights = computed(() => this.read.data()?.rights ?? []);
  protected readonly roles = ROLES;
  protected readonly columns = COLUMNS;
  protected readonly keyOf = ({ key }: Right): string => key;
}

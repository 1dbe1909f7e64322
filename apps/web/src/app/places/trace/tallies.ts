import { Component, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { TalliesReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { DeskNav } from './desk-nav';

type Row = TalliesReply['lots'][number];
const KINDS: Readonly<Record<string, string>> = {
  supply: 'Supply',
  batch: 'Batch',
  preparation: 'Preparation',
  fill: 'Vessel',
  run: 'Packing run',
};

/** Lots whose tally does not close: the work list of whoever keeps the book. */
@Component({
  selector: 'ct-tallies',
  imports: [Cell, DeskNav, RouterLink, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-desk-nav />
        <h1>Tallies that do not close</h1>
        @if (read.data(); as r) {
          <p class="soft">
            What came in is what went out, what stands there and what is known to be lost, within the tolerance. These
            are not; look for what was not written down, and put it right at its line in the book.
            @if (!r.all) {
              The newest {{ r.looked }} lots that were counted or emptied are looked at.
            }
          </p>
          <ct-table
            name="Tallies"
            placeholder="lot, name, slip"
            nothing="Every lot that was counted or emptied is clear."
            [rows]="r.lots"
            [columns]="columns"
            [rowKey]="keyOf"
          >
            <ng-template ctCell="code" let-row>
              <a class="figure" [routerLink]="['/lots', row.code]">{{ row.code }}</a>
            </ng-template>
          </ct-table>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
})
export class Tallies {
  protected readonly read = shown<TalliesReply>(signal('/api/tallies'));
  protected readonly keyOf = ({ lotId }: Row): string => lotId;
  protected readonly columns: readonly Column<Row>[] = [
    { key: 'code', head: 'Lot', value: ({ code }) => code, width: '200px' },
    { key: 'kind', head: 'What', value: ({ kind }) => KINDS[kind] ?? kind, width: '130px' },
    { key: 'name', head: 'Name', value: ({ name }) => name },
    { key: 'in', head: 'In', kind: 'kg', value: ({ tally }) => tally.inGrams, width: '110px' },
    { key: 'off', head: 'Unexplained', kind: 'kg', value: ({ tally }) => tally.unexplainedGrams, width: '130px' },
    { key: 'tolerance', head: 'Within ±', kind: 'kg', value: ({ tally }) => tally.toleranceGrams, width: '110px' },
    { key: 'slip', head: 'Likely', value: ({ tally }) => tally.likelySlip, width: '330px' },
  ];
}

import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { LotsReply } from '@clear-tally/contract';
import { shownPages } from '../../state/shown-pages';
import { Choices } from '../../ui/choices';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';

const KINDS = [
  ['fill', 'Vessels'],
  ['batch', 'Batches'],
  ['run', 'Packing runs'],
  ['supply', 'Supplies'],
] as const;
type Kind = (typeof KINDS)[number][0];
type Lot = LotsReply['lots'][number];

/** So many lots come at once; the pages after them come by themselves. */
const PAGE = 2000;

const COLUMNS: Readonly<Record<string, Column<Lot>>> = {
  code: { key: 'code', head: 'Code', value: ({ code }) => code, width: '132px' },
  name: { key: 'name', head: 'What', value: ({ name }) => name },
  vessel: { key: 'vessel', head: 'Vessel', value: ({ vesselTag }) => vesselTag, width: '110px' },
  since: { key: 'since', head: 'Since', kind: 'moment', value: ({ at }) => at, width: '200px' },
  jars: { key: 'jars', head: 'Jars', kind: 'number', value: ({ jars }) => jars, width: '110px' },
  onHand: { key: 'onHand', head: 'On hand', kind: 'kg', value: ({ onHandGrams }) => onHandGrams, width: '150px' },
  ph: { key: 'ph', head: 'Last pH', kind: 'number', places: 2, value: ({ lastPh }) => lastPh, width: '130px' },
  phAt: { key: 'phAt', head: 'Read', kind: 'moment', value: ({ lastPhAt }) => lastPhAt, aside: true, width: '200px' },
  state: { key: 'state', head: 'State', value: ({ state }) => state, width: '150px' },
};
const OF_KIND: Readonly<Record<Kind, readonly string[]>> = {
  fill: ['code', 'name', 'vessel', 'since', 'onHand', 'ph', 'phAt', 'state'],
  batch: ['code', 'name', 'since', 'onHand', 'state'],
  run: ['code', 'name', 'since', 'jars', 'ph', 'state'],
  supply: ['code', 'name', 'since', 'onHand', 'state'],
};

/** The book's index. */
@Component({
  selector: 'ct-lots',
  imports: [Choices, Cell, RouterLink, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <div class="row head">
          <h1>Lots</h1>
          <ct-choices label="Kind of lot" [options]="kinds" [value]="chosen()" (picked)="chosen.set($event)" />
          <a class="button" routerLink="/lots/before-the-ledger">Enter a lot from before these records</a>
        </div>
        @if (read.pages().length > 0) {
          <ct-table
            [name]="'Lots, ' + title().toLowerCase()"
            placeholder="code, name, vessel, state"
            [rows]="lots()"
            [columns]="columns()"
            [rowKey]="keyOf"
            [reading]="read.reading()"
            [gone]="neverWas"
          >
            <ng-template ctCell="code" let-lot>
              <a class="figure code" [routerLink]="['/lots', lot.code]">{{ lot.code }}</a>
            </ng-template>
            <ng-template ctCell="ph" let-lot>
              <span class="figure">{{ lot.lastPh === null ? '' : lot.lastPh.toFixed(2) }}</span>
              @if (lot.lastPh !== null && !lot.phCounts) {
                <br /><span class="soft small">does not count</span>
              }
            </ng-template>
            <ng-template ctCell="state" let-lot>
              <span [class.beet]="lot.state === 'on hold'" [class.soft]="lot.state !== 'on hold'">{{ lot.state }}</span>
            </ng-template>
          </ct-table>
        }
        <ct-waiting
          [loading]="read.reading() && read.pages().length === 0"
          [problem]="read.problem()"
          (again)="read.again()"
        />
      </div>
    </div>
  `,
  styles:
    '.head { align-items: center; } .head > ct-choices { margin: 0 auto 0 0 !important; } .code { font-weight: 700; display: inline-block; padding: 6px 0; }',
})
export class Lots {
  protected readonly kinds = KINDS;
  protected readonly chosen = signal<Kind>('fill');
  protected readonly title = computed(() => KINDS.find(([key]) => key === this.chosen())![1]);
  protected readonly columns = computed(() => OF_KIND[this.chosen()].map((key) => COLUMNS[key]!));
  protected readonly read = shownPages<LotsReply>(computed(() => `/api/lots?kind=${this.chosen()}&many=${PAGE}`));
  protected readonly lots = computed(() => this.read.pages().flatMap(({ lots }) => lots));
  protected readonly neverWas = (lot: Lot): boolean => lot.state === 'never was';
  protected readonly keyOf = (lot: Lot): string => lot.lotId;
}

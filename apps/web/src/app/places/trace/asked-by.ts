import { Component, computed, inject, input, linkedSignal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type {
  AskedBy,
  AskedByReply,
  CustomersReply,
  MetersReply,
  PeopleReply,
  SuppliesReply,
} from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Choice, type Option } from '../../ui/choice';
import { Choices } from '../../ui/choices';
import { calendarDay } from '../../ui/dates';
import { DayField } from '../../ui/day-field';
import { Nothing } from '../../ui/nothing';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { Crate } from '../recall/crate';
import { DeskNav } from './desk-nav';

type Lot = AskedByReply['lots'][number];

const KIND_WORDS: Readonly<Record<string, string>> = {
  supply: 'supply',
  batch: 'batch',
  preparation: 'preparation',
  fill: 'vessel',
  run: 'packing run',
};

const BY: readonly (readonly [AskedBy, string])[] = [
  ['customer', 'A customer'],
  ['day', 'A day'],
  ['vessel', 'A vessel'],
  ['room', 'A room'],
  ['person', 'A person'],
  ['meter', 'A meter'],
  ['packaging', 'Jars, lids, labels'],
];

/** What is no lot and has to do with many: who has jars, a day, a vessel, a room, a person, a meter. */
@Component({
  selector: 'ct-asked-by',
  imports: [Cell, Choice, Choices, Crate, DayField, DeskNav, Nothing, RouterLink, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-desk-nav />
        <h1>What it had to do with</h1>
        <div class="row">
          <ct-choices label="Asked by" [options]="ways()" [value]="by()" (picked)="way.set($event)" />
          @if (way() === 'day') {
            <ct-day label="Day" [latest]="today()" [value]="day()" (valueChange)="go($event)" />
          } @else {
            <ct-choice
              class="which"
              label="Which"
              [options]="options()"
              [value]="id() ?? null"
              (valueChange)="go($event)"
            />
          }
        </div>
        @if (read.data(); as r) {
          <div class="head">
            <h2>{{ r.by === 'day' ? calendarDay(r.id) : r.title }}</h2>
            <p class="soft">
              {{ r.lots.length }}{{ r.more ? ' and more' : '' }} {{ r.lots.length === 1 ? 'lot' : 'lots' }},
              {{ r.jars }} {{ r.jars === 1 ? 'jar' : 'jars' }} of {{ r.runs }} {{ r.runs === 1 ? 'run' : 'runs' }}
            </p>
          </div>
          @if (r.more) {
            <p class="watch">
              The newest {{ r.lots.length }} lots are listed and followed. Ask by a day to see the others.
            </p>
          }
          @if (r.lots.length === 0) {
            <ct-nothing says="Nothing of these records has to do with it." />
          } @else {
            @if (r.places.length > 0) {
              <section class="stack" aria-label="Where the jars are">
                <h3>
                  {{ r.by === 'customer' ? 'Jars there' : 'Jars of these lots, and of all that was made of them' }}
                </h3>
                <ct-crate [places]="r.places" [plain]="true" />
              </section>
            }
            <ct-table
              [name]="'Lots of ' + (r.by === 'day' ? r.id : r.title)"
              placeholder="code, name, why"
              [rows]="r.lots"
              [columns]="columns()"
              [rowKey]="keyOf"
            >
              <ng-template ctCell="code" let-lot>
                <a class="figure code" [routerLink]="['/trace', lot.code]">{{ lot.code }}</a>
              </ng-template>
              <ng-template ctCell="why" let-lot>
                <span [class.mustard]="lot.doubtful">{{ lot.why }}</span>
              </ng-template>
            </ct-table>
          }
        } @else if (!id()) {
          <p class="note">
            Choose what is asked about: all lots it touched are listed, with every jar that came of them and where those
            jars are now.
          </p>
        }
        <ct-waiting [loading]="!!id() && read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
  styles: `
    .which {
      flex: 1;
      max-width: 420px;
    }
    ct-day {
      width: 240px;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 18px;
      align-items: baseline;
    }
    .head h2 {
      font-size: 24px;
      color: var(--ink);
    }
    .code {
      font-weight: 700;
    }
  `,
})
export class AskedByPage {
  readonly by = input<AskedBy>('customer');
  readonly id = input<string>();
  protected readonly house = injectHouse();
  protected readonly calendarDay = calendarDay;
  private readonly router = inject(Router);
  private readonly rights = injectRights();
  /** People are listed for owners only; what somebody did stands in the book for everybody. */
  protected readonly ways = computed(() => BY.filter(([by]) => by !== 'person' || this.rights.isOwner()));
  protected readonly way = linkedSignal(() => this.by());
  protected readonly today = computed(() => this.house.dates().today());
  protected readonly day = computed(() => (this.by() === 'day' ? (this.id() ?? '') : ''));

  protected readonly read = shown<AskedByReply>(
    computed(() => (this.id() ? `/api/asked-by/${this.by()}/${encodeURIComponent(this.id()!)}` : null)),
  );
  private readonly customers = shown<CustomersReply>(
    computed(() => (this.way() === 'customer' ? '/api/customers' : null)),
  );
  private readonly people = shown<PeopleReply>(computed(() => (this.way() === 'person' ? '/api/people' : null)));
  private readonly packaging = shown<SuppliesReply>(
    computed(() => (this.way() === 'packaging' ? '/api/supplies?kind=packaging' : null)),
  );
  private readonly meters = shown<MetersReply>(computed(() => (this.way() === 'meter' ? '/api/meters' : null)));

  protected readonly options = computed((): readonly Option[] => {
    const house = this.house.house();
    switch (this.way()) {
      case 'customer':
        return (this.customers.data()?.customers ?? []).map(({ customerId, name, jars }) => ({
          id: customerId,
          label: name,
          detail: jars === 1 ? 'has 1 jar' : `has ${jars} jars`,
        }));
      case 'person':
        return (this.people.data()?.people ?? []).map(({ id, name, role }) => ({ id, label: name, detail: role }));
      case 'meter':
        return (this.meters.data()?.meters ?? []).map(({ meterId, tag, name }) => ({
          id: meterId,
          label: tag,
          detail: name,
        }));
      case 'room':
        return (house?.rooms ?? []).map(({ id, name }) => ({ id, label: name }));
      case 'vessel':
        return (house?.vessels ?? []).map(({ id, tag, roomId }) => ({
          id,
          label: tag,
          detail: house?.rooms.find((room) => room.id === roomId)?.name ?? '',
        }));
      case 'packaging':
        return (this.packaging.data()?.lots ?? []).map(({ lotId, code, materialName, supplierLotCode }) => ({
          id: lotId,
          label: `${code} ${materialName}`,
          detail: supplierLotCode ?? '',
        }));
      case 'day':
        return [];
    }
  });
  protected readonly columns = computed((): Column<Lot>[] => [
    { key: 'code', head: 'Code', value: ({ code }) => code, width: '170px' },
    { key: 'kind', head: 'Kind', value: ({ kind }) => KIND_WORDS[kind] ?? kind, aside: true },
    { key: 'name', head: 'What', value: ({ name }) => name },
    { key: 'at', head: 'When', kind: 'moment', value: ({ at }) => at },
    { key: 'why', head: 'What it had to do with it', value: ({ why }) => why },
    { key: 'onHand', head: 'On hand', kind: 'kg', value: ({ onHandGrams }) => onHandGrams },
    { key: 'state', head: 'State', value: ({ held, live }) => (held ? 'on hold' : live ? 'live' : '') },
  ]);
  protected readonly keyOf = (lot: Lot): string => lot.lotId;

  protected go(id: string | null): void {
    if (id) void this.router.navigate(['/trace-by', this.way(), id]);
  }
}

import { Component, computed, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { BodyOf, CustomersReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { PackNav } from '../pack/pack-nav';

type Customer = CustomersReply['customers'][number];
type Kind = BodyOf<'customer.add'>['customerKind'];

const KINDS: readonly (readonly [Kind, string])[] = [
  ['shop', 'a shop'],
  ['kitchen', 'a kitchen'],
  ['market', 'a market stall'],
  ['box', 'a box scheme'],
  ['private', 'somebody private'],
  ['other', 'something else'],
];

/** Who gets jars, and who is called when something is wrong. */
@Component({
  selector: 'ct-customers',
  imports: [Cell, FormField, PackNav, RecordButton, Refusal, Select, Table, TextField, Tick, TypedBeforeNote, Waiting],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <ct-pack-nav />
        <h1>Customers</h1>
        @if (read.data(); as reply) {
          <ct-table
            name="Customers"
            placeholder="name, address, contact"
            nothing="Nobody yet. Add who gets the jars: in a recall they are called."
            [rows]="reply.customers"
            [columns]="columns"
            [rowKey]="keyOf"
            [chosen]="chosen()"
            [gone]="isClosed"
            (picked)="choose($event)"
          >
            <ng-template ctCell="name" let-one>
              <button type="button" class="name">{{ one.name }}</button>
            </ng-template>
          </ct-table>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
      <aside class="side stack" aria-label="One customer">
        @if (rights.mayRecord()) {
          <form class="stack" (submit)="$event.preventDefault(); keep()">
            <h2>{{ chosen() ? 'Change ' + name() : 'A new customer' }}</h2>
            <ct-typed-before [typed]="form.typed" />
            <ct-text label="Name" [formField]="form.fields.name" />
            <ct-select label="What they are" [options]="kinds" [value]="kind()" (valueChange)="kind.set($event)" />
            <ct-text label="Address" [formField]="form.fields.address" />
            <ct-text
              label="Who is called when something is wrong"
              placeholder="telephone or mail"
              [formField]="form.fields.contact"
            />
            @if (chosen()) {
              <ct-tick [formField]="form.fields.closed">nothing more is sent there</ct-tick>
            }
            <div class="row">
              <button class="go" [ctRecord]="form" [needs]="[!name().trim() && 'the name']">
                {{ chosen() ? 'Keep it so' : 'Add ' + (name().trim() || 'it') }}
              </button>
              @if (chosen()) {
                <button type="button" (click)="begin()">A new one</button>
              }
            </div>
            <ct-refusal [message]="form.problem()" />
          </form>
        } @else {
          <p class="soft">Who gets jars, how many they have, and since when.</p>
        }
      </aside>
    </div>
  `,
  styles: '.name { border: 0; background: none; padding: 4px 0; min-height: 40px; font-size: 18px; text-align: left; }',
})
export class Customers {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly read = shown<CustomersReply>(signal('/api/customers'));
  protected readonly chosen = signal<string | null>(null);
  protected readonly form = recordingForm('customer', {
    fields: { name: '', kind: 'shop' as Kind, address: '', contact: '', closed: false },
    about: computed(() => this.chosen() ?? 'new'),
    recorded: () => this.begin(),
  });
  protected readonly name = this.form.values.name;
  protected readonly kind = this.form.values.kind;
  protected readonly kinds = KINDS;
  protected readonly columns: readonly Column<Customer>[] = [
    { key: 'name', head: 'Name', value: ({ name }) => name },
    {
      key: 'kind',
      head: 'What',
      value: ({ customerKind }) => KINDS.find(([key]) => key === customerKind)?.[1] ?? '',
      width: '160px',
    },
    { key: 'jars', head: 'Has jars', kind: 'number', value: ({ jars }) => jars, width: '120px' },
    { key: 'last', head: 'Last', kind: 'day', value: ({ lastAt }) => lastAt, width: '130px' },
    { key: 'address', head: 'Address', value: ({ address }) => address, aside: true },
    { key: 'contact', head: 'Contact', value: ({ contact }) => contact, aside: true },
  ];
  protected readonly keyOf = ({ customerId }: Customer): string => customerId;
  protected readonly isClosed = ({ closed }: Customer): boolean => closed;

  protected choose(one: Customer): void {
    this.chosen.set(one.customerId);
    const { values } = this.form;
    values.name.set(one.name);
    values.kind.set(one.customerKind);
    values.address.set(one.address ?? '');
    values.contact.set(one.contact ?? '');
    values.closed.set(one.closed);
  }

  protected begin(): void {
    this.chosen.set(null);
    const { values } = this.form;
    [values.name, values.address, values.contact].forEach((field) => field.set(''));
    values.kind.set('shop');
    values.closed.set(false);
  }

  protected keep(): void {
    const { values } = this.form;
    const body = {
      customerId: this.chosen() ?? newId(),
      name: values.name().trim(),
      customerKind: values.kind(),
      address: values.address().trim() || null,
      contact: values.contact().trim() || null,
    };
    this.form.record(
      this.chosen()
        ? this.form.entry('customer.change', { ...body, closed: values.closed() })
        : this.form.entry('customer.add', body),
    );
  }
}

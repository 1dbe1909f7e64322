import { Component, computed, signal } from '@angular/core';
import type { RecordSheetKey } from '@clear-tally/contract';
import { DayField } from '../../ui/day-field';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { DeskNav } from './desk-nav';

const SHEETS: readonly (readonly [RecordSheetKey, string, string])[] = [
  ['receiving', 'Received', 'one step back: every lot that came, whose it was, how much, by which paper'],
  ['transformation', 'Made', 'what went into what: prepared, mixed, filled, packed, with both codes and the mass'],
  ['shipping', 'Sent', 'one step forward: every jar by its codes, to whom, by which delivery note'],
  ['readings', 'Readings', 'pH and temperatures, with the meter, and whether they count for a release'],
  ['cleaning', 'Cleaned', 'vessels, with what, how strong, how long'],
];

interface Address {
  readonly way: string;
  readonly path: string;
  readonly summary: string;
}
interface Description {
  readonly paths: Readonly<Record<string, Readonly<Record<string, { readonly summary: string }>>>>;
}

/** Everything that leaves as a file, with what it is for. */
@Component({
  selector: 'ct-records',
  imports: [DayField, DeskNav, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-desk-nav />
        <h1>Records that leave</h1>
        <div class="row">
          <ct-day label="From" [value]="from()" (valueChange)="from.set($event)" />
          <ct-day label="To" [value]="to()" (valueChange)="to.set($event)" />
          <span class="soft small">Without days: the last two years.</span>
        </div>
        <table class="book">
          <thead>
            <tr>
              <th>Records</th>
              <th>What for</th>
              <th>As a file</th>
            </tr>
          </thead>
          <tbody>
            @for (sheet of sheets; track sheet[0]) {
              <tr>
                <td>
                  <b>{{ sheet[1] }}</b>
                </td>
                <td>{{ sheet[2] }}</td>
                <td class="files">
                  <a class="button" [href]="file(sheet[0] + '.xlsx')" download [attr.aria-label]="sheet[1] + ', XLSX'"
                    >XLSX</a
                  >
                  <a class="button" [href]="file(sheet[0] + '.csv')" download [attr.aria-label]="sheet[1] + ', CSV'"
                    >CSV</a
                  >
                </td>
              </tr>
            }
            <tr>
              <td><b>Events, EPCIS 2.0</b></td>
              <td>received, made and sent as events, for the systems of those you supply</td>
              <td class="files"><a class="button" [href]="file('events.jsonld')" download>JSON-LD</a></td>
            </tr>
            <tr>
              <td><b>The whole house</b></td>
              <td>
                every entry and photo in one file; it comes in again, the same, with
                <span class="figure">npm run restore -- FILE</span>. PINs and the contacts of complaints stay here
              </td>
              <td class="files">
                @if (rights.isOwner()) {
                  <a class="button" href="/api/house.json" download>JSON</a>
                } @else {
                  <span class="soft">an owner takes it</span>
                }
                <a class="button" href="/schemas/house.json" download>Its schema</a>
              </td>
            </tr>
            <tr>
              <td><b>Formulas</b></td>
              <td>the whole book of formulas and their materials; comes in again on Formulas, Take a recipe in</td>
              <td class="files">
                <a class="button" href="/api/formulas.json" download>JSON</a>
                <a class="button" href="/schemas/formula.json" download>Its schema</a>
              </td>
            </tr>
          </tbody>
        </table>
        <details class="rule" (toggle)="opened.set(true)">
          <summary><h2>For programs</h2></summary>
          <p class="soft">
            Every page here reads these addresses, and records through one of them. A request carries the cookie of a
            sign-in; an inspector’s reads everything.
            <a href="/schemas/openapi.json" download>The description, OpenAPI 3.1</a>
          </p>
          <ct-table
            name="Addresses"
            placeholder="trace, lots, PDF"
            [rows]="addresses()"
            [columns]="columns"
            [rowKey]="keyOf"
          />
          <ct-waiting
            [loading]="opened() && described.loading()"
            [problem]="described.problem()"
            (again)="described.again()"
          />
        </details>
        <p class="soft">
          The dossier of a run, from its supplies to who has its jars, leaves as a PDF from the page of the run; every
          table leaves as it is shown by its own “Print, save”. Local law says what is kept, for how long, and who may
          ask for it.
        </p>
      </div>
    </div>
  `,
  styles: '.files { display: flex; gap: 8px; }',
})
export class Records {
  protected readonly rights = injectRights();
  protected readonly opened = signal(false);
  protected readonly described = shown<Description>(computed(() => (this.opened() ? '/schemas/openapi.json' : null)));
  protected readonly addresses = computed((): Address[] =>
    Object.entries(this.described.data()?.paths ?? {}).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, { summary }]) => ({ way: method.toUpperCase(), path, summary })),
    ),
  );
  protected readonly columns: readonly Column<Address>[] = [
    { key: 'way', head: 'Way', value: ({ way }) => way },
    { key: 'path', head: 'Address', value: ({ path }) => path },
    { key: 'summary', head: 'What', value: ({ summary }) => summary },
  ];
  protected readonly keyOf = ({ way, path }: Address): string => `${way} ${path}`;
  protected readonly sheets = SHEETS;
  protected readonly from = signal('');
  protected readonly to = signal('');
  private readonly days = computed(() => {
    const asked = new URLSearchParams();
    if (this.from()) asked.set('from', this.from());
    if (this.to()) asked.set('to', this.to());
    const text = asked.toString();
    return text ? `?${text}` : '';
  });
  protected file = (name: string): string => `/api/records/${name}${this.days()}`;
}

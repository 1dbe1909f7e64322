import { Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { type DeliveryRow, formatAmount, readDeliveryRows, unitOfKind } from '@clear-tally/core';
import type { Entry } from '@clear-tally/contract';
import { Api } from '../../api/api';
import { injectHouse } from '../../state/house';
import { newId } from '../../state/form';
import { readsWire } from '../../state/reads';
import { sessionFeature } from '../../state/session';
import { Refusal } from '../../ui/refusal';
import { readTable } from './read-table';
import { FileField } from '../../ui/file-field';

const MOST_ROWS = 5000;
/** Lines of one delivery entry at most. */
const AT_ONCE = 400;
const SHOWN = 200;

/** A delivery list as CSV or XLSX: read on the tablet, previewed with its errors; only sound rows are received, each once. */
@Component({
  selector: 'ct-delivery-list',
  imports: [Refusal, FileField],
  template: `
    <section class="rule stack">
      <h2>Or from a list</h2>
      <p class="soft small">
        A CSV file or an XLSX workbook with a first row of names: material, supplier, lot, quantity, unit, cost, use by,
        condition. Nothing is received before you say so.
      </p>
      <ct-file
        label="Delivery list"
        accept=".csv,.xlsx,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
        (chosen)="chosen($event)"
      />
      <ct-refusal [message]="refused()" />
      @if (rows().length > 0) {
        <p>
          <b>{{ sound().length }}</b> {{ sound().length === 1 ? 'row is' : 'rows are' }} sound,
          {{ rows().length - sound().length }} {{ rows().length - sound().length === 1 ? 'has' : 'have' }} something to
          mend.
        </p>
        <div class="row">
          <button type="button" class="go" [disabled]="sound().length === 0 || busy()" (click)="receive()">
            {{
              busy() ? 'Receiving, ' + done() + ' of ' + total() : 'Receive ' + sound().length + ' sound rows'
            }}</button><button type="button" [disabled]="busy()" (click)="rows.set([])">Put the list away</button>
        </div>
        <table class="book">
          <thead>
            <tr>
              <th class="right">Row</th>
              <th>Material</th>
              <th>Supplier, lot</th>
              <th class="right">Quantity</th>
              <th>What is wrong</th>
            </tr>
          </thead>
          <tbody>
            @for (row of preview(); track row.row) {
              <tr [class.bad]="row.errors.length > 0">
                <td class="right figure">{{ row.row }}</td>
                <td>{{ row.material }}</td>
                <td>{{ row.supplier }}, {{ row.lot }}</td>
                <td class="right figure">{{ row.grams === null ? '' : amount(row) }}</td>
                <td>{{ row.errors.join(' ') }}</td>
              </tr>
            }
          </tbody>
        </table>
        @if (rows().length > preview().length) {
          <p class="soft small">
            {{ rows().length - preview().length }} more rows stand below these; the ones with something to mend come
            first.
          </p>
        }
      }
      @if (finished(); as said) {
        <p class="note" role="status">{{ said }}</p>
      }
    </section>
  `,
  styles: `
    .bad td {
      background: var(--mustard-wash);
    }
    input[type='file'] {
      font: inherit;
      min-height: 48px;
    }
  `,
})
export class DeliveryList {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly house = injectHouse();
  private readonly person = this.store.selectSignal(sessionFeature.selectPerson);
  protected readonly rows = signal<readonly (DeliveryRow & { readonly entryId: string; readonly lotId: string })[]>([]);
  protected readonly refused = signal<string | null>(null);
  protected readonly finished = signal<string | null>(null);
  protected readonly busy = signal(false);
  protected readonly done = signal(0);
  protected readonly total = signal(0);
  protected readonly sound = computed(() => this.rows().filter((row) => row.errors.length === 0));
  protected readonly preview = computed(() =>
    [...this.rows().filter((row) => row.errors.length > 0), ...this.sound()].slice(0, SHOWN),
  );
  /** The same while a list is received, so that a part sent again is the same entry. */
  private deliveryId = '';
  private readAt = '';
  private readonly kinds = computed(
    () => new Map((this.house.house()?.materials ?? []).map((one) => [one.name.toLowerCase(), one.kind])),
  );
  protected readonly amount = (row: DeliveryRow): string =>
    formatAmount(row.grams!, unitOfKind(this.kinds().get(row.material.toLowerCase()) ?? ''));

  protected async chosen(file: File): Promise<void> {
    this.rows.set([]);
    this.refused.set(null);
    this.finished.set(null);
    if (file.size > 5_000_000)
      return this.refused.set(
        `${file.name} has ${(file.size / 1_000_000).toFixed(1)} MB. A delivery list is up to 5 MB.`,
      );
    const data = await readTable(file).catch(() => null);
    if (!data)
      return this.refused.set(
        `${file.name} cannot be read. A CSV file or an XLSX workbook is; its first sheet holds the list.`,
      );
    const [head, ...rest] = data;
    if (!head || rest.length === 0) return this.refused.set('This file has no rows below its first one.');
    if (rest.length > MOST_ROWS)
      return this.refused.set(`This list has ${rest.length} rows; up to ${MOST_ROWS} are read at once.`);
    const lower = (names: readonly { name: string }[]): Set<string> =>
      new Set(names.map(({ name }) => name.toLowerCase()));
    const [materials, suppliers] = [
      lower(this.house.house()?.materials ?? []),
      lower(this.house.house()?.suppliers ?? []),
    ];
    const read = readDeliveryRows({
      head,
      rows: rest,
      isMaterial: (name) => materials.has(name.toLowerCase()),
      isPackaging: (name) => this.kinds().get(name.toLowerCase()) === 'packaging',
      isSupplier: (name) => suppliers.has(name.toLowerCase()),
      decimalMark: this.house.house()?.decimalMark,
    });
    // Ids are made here and once: received again after a lost line, nothing comes in twice.
    this.deliveryId = newId();
    this.readAt = new Date().toISOString();
    this.rows.set(read.map((row) => ({ ...row, entryId: newId(), lotId: newId() })));
  }

  protected async receive(): Promise<void> {
    const rows = this.sound();
    const deliveryId = this.deliveryId;
    const idOf = (list: readonly { id: string; name: string }[], name: string): string =>
      list.find((one) => one.name.toLowerCase() === name.toLowerCase())!.id;
    const house = this.house.house()!;
    const at = this.readAt;
    const lineOf = (row: (typeof rows)[number]) => ({
      lotId: row.lotId,
      materialId: idOf(house.materials, row.material),
      supplierId: idOf(house.suppliers, row.supplier),
      supplierLotCode: row.lot,
      grams: row.grams!,
      useBy: row.useBy,
      condition: row.condition,
      ...(row.cost === null ? {} : { cost: row.cost }),
    });
    this.busy.set(true);
    this.refused.set(null);
    this.done.set(0);
    this.total.set(rows.length);
    try {
      for (let from = 0; from < rows.length; from += AT_ONCE) {
        const part = rows.slice(from, from + AT_ONCE);
        // The id of a part is that of its first row: sent again after a lost line, it is answered with what it became.
        const entry = {
          id: part[0]!.entryId,
          kind: 'delivery.receive',
          happenedAt: at,
          by: this.person()!.id,
          device: 'delivery list',
          body: { deliveryId, reference: null, lines: part.map(lineOf) },
        } as unknown as Entry;
        await firstValueFrom(this.api.record([entry]));
        const got = new Set(part.map(({ row }) => row));
        this.rows.update((all) => all.filter((row) => !got.has(row.row)));
        this.done.update((done) => done + got.size);
      }
      this.finished.set(
        `${rows.length} lines are received.${this.rows().length > 0 ? ' What is left above wants mending first.' : ''}`,
      );
    } catch (problem) {
      // What is received has left the list; the rest stays and can be sent again.
      this.refused.set(
        (problem as { detail?: string }).detail ??
          'The list could not be received to its end. What is left stands above.',
      );
    } finally {
      this.busy.set(false);
      this.store.dispatch(readsWire.somethingRecorded({ note: 'delivery list' }));
    }
  }
}

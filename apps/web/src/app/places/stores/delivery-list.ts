import { Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { v5 } from 'uuid';
import {
  type AtDoor,
  deliveryColumns,
  type DeliveryRow,
  type DoorAsk,
  doorMissing,
  type EpcisDelivery,
  formatAmount,
  type Outcome,
  readDeliveryRows,
  readEpcis,
  refuse,
  unitOfKind,
} from '@clear-tally/core';
import type { Entry } from '@clear-tally/contract';
import { Api } from '../../api/api';
import { injectHouse } from '../../state/house';
import { newId } from '../../state/form';
import { readsWire } from '../../state/reads';
import { sessionFeature } from '../../state/session';
import { Choice, type Option } from '../../ui/choice';
import { Refusal } from '../../ui/refusal';
import { DoorFields } from './door-fields';
import { readTable } from './read-table';
import { FileField } from '../../ui/file-field';

const MOST_ROWS = 5000;
/** Lines of one delivery entry at most. */
const AT_ONCE = 400;
const SHOWN = 200;
/** Names that are asked about at once. */
const MOST_STRANGE = 12;
/** Under which ids are made from the ids of events. */
const EVENTS = '7f2c1c6e-5a0b-4a60-9d6b-3f8f4a1f0c11';

interface ReadFile {
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly ids: readonly { readonly entryId: string; readonly lotId: string }[];
  /** Events that bring no goods. */
  readonly aside: number;
  /** The same while a list is received, so that a part sent again is the same entry. */
  readonly deliveryId: string;
  readonly at: string;
}

type Row = DeliveryRow & { readonly entryId: string; readonly lotId: string };

const optionsOf = (named: readonly { readonly name: string }[]): Option[] =>
  named.map(({ name }) => ({ id: name, label: name }));

/** A sheet as rows of a delivery list. */
async function tableOf(file: File): Promise<Outcome<EpcisDelivery>> {
  const data = await readTable(file).catch(() => null);
  if (!data)
    return refuse(
      'file.unreadable',
      `${file.name} cannot be read. A CSV file or an XLSX workbook is; its first sheet holds the list.`,
    );
  const [head, ...rows] = data;
  if (!head || rows.length === 0) return refuse('file.unreadable', 'This file has no rows below its first one.');
  return { ok: true, value: { head, rows, events: [], aside: 0 } };
}

/**
 * A delivery as CSV, XLSX or EPCIS events: read on the tablet, previewed with its errors, names of others' told once what
 * they are here. A list without a fault comes in whole or not at all; of another only what is sound, each row once.
 */
@Component({
  selector: 'ct-delivery-list',
  imports: [Choice, DoorFields, Refusal, FileField],
  template: `
    <section class="rule stack">
      <h2>Or from a list</h2>
      <p class="soft small">
        A CSV file or an XLSX workbook with a first row of names: material, supplier, lot, quantity, unit, cost, use by,
        condition, variety, state, temperature; or the events (EPCIS 2.0, JSON) a supplier’s system sends. Nothing is
        received before you say so.
      </p>
      <ct-file
        label="Delivery list"
        accept=".csv,.xlsx,.json,.jsonld,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
        (chosen)="chosen($event)"
      />
      <ct-refusal [message]="refused()" />
      @if (rows().length > 0) {
        <p>
          <b>{{ sound().length }}</b> {{ sound().length === 1 ? 'row is' : 'rows are' }} sound,
          {{ rows().length - sound().length }} {{ rows().length - sound().length === 1 ? 'has' : 'have' }} something to
          mend.
        </p>
        @if (aside(); as many) {
          <p class="soft">
            {{ many === 1 ? '1 event of the file brings' : many + ' events of the file bring' }} no goods: left aside.
          </p>
        }
        @if (strange().length > 0) {
          <fieldset class="stack names">
            <legend>Names nobody knows here</legend>
            @for (name of strange(); track name.what + name.theirs) {
              <ct-choice
                [label]="'“' + name.theirs + '” is the ' + name.what"
                [options]="name.what === 'material' ? materials() : suppliers()"
                [value]="ours().get(name.what + name.theirs) ?? null"
                (valueChange)="told(name.what + name.theirs, $event)"
              />
            }
          </fieldset>
        }
        @if (atDoor().length > 0) {
          <fieldset class="stack names door">
            <legend>Seen at the door</legend>
            @for (one of atDoor(); track one.material) {
              <p>
                <b>{{ one.material }}</b>, {{ one.rows === 1 ? 'one row' : one.rows + ' rows' }} that do not say it
              </p>
              <ct-door-fields [asks]="one.asks" [door]="one.door" (seen)="see(one.material, $event)" />
            }
          </fieldset>
        }
        <div class="row">
          <button type="button" class="go" [disabled]="sound().length === 0 || busy()" (click)="receive()">
            {{
              busy()
                ? 'Receiving, ' + done() + ' of ' + total()
                : sound().length === rows().length
                  ? 'Receive all ' + sound().length
                  : 'Receive ' + sound().length + ' sound rows'
            }}</button><button type="button" [disabled]="busy()" (click)="file.set(null)">Put the list away</button>
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
    .door {
      grid-template-columns: minmax(0, 1fr) !important;
    }
    .names {
      border: 1px solid var(--hair);
      padding: 10px 14px 16px;
      grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
    }
  `,
})
export class DeliveryList {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly house = injectHouse();
  private readonly person = this.store.selectSignal(sessionFeature.selectPerson);
  /** As it was read, with an id for each row: received again after a lost line, nothing comes in twice. */
  protected readonly file = signal<ReadFile | null>(null);
  /** What the names of others are here, by what they stand for and the name. */
  protected readonly ours = signal<ReadonlyMap<string, string>>(new Map());
  /** What was seen at the door of a material, for all rows that do not say it. */
  private readonly doors = signal<ReadonlyMap<string, AtDoor>>(new Map());
  /** Materials that ask for more than the list says of them. */
  protected readonly atDoor = computed(() => {
    const file = this.file();
    if (!file) return [];
    const lacking = new Map<string, { rows: number; asks: Set<DoorAsk> }>();
    for (const { material, door } of this.readRows(file, false)) {
      const asks = doorMissing(this.asksOf(material), door);
      if (asks.length === 0) continue;
      const before = lacking.get(material) ?? { rows: 0, asks: new Set<DoorAsk>() };
      lacking.set(material, { rows: before.rows + 1, asks: new Set([...before.asks, ...asks]) });
    }
    return [...lacking].slice(0, MOST_STRANGE).map(([material, { rows, asks }]) => ({
      material,
      rows,
      asks: [...asks],
      door: this.doors().get(material) ?? {},
    }));
  });
  private readonly got = signal<ReadonlySet<number>>(new Set());
  protected readonly aside = computed(() => this.file()?.aside ?? 0);
  protected readonly materials = computed(() => optionsOf(this.house.house()?.materials ?? []));
  protected readonly suppliers = computed(() => optionsOf(this.house.house()?.suppliers ?? []));
  private readonly read = computed(() => {
    const file = this.file();
    return file ? this.readRows(file) : [];
  });
  protected readonly rows = computed(() => this.read().filter(({ row }) => !this.got().has(row)));
  /** Told once what they are; they stay there to be told anew. */
  protected readonly strange = computed(() => {
    const file = this.file();
    if (!file) return [];
    const columns = deliveryColumns(file.head);
    return (['material', 'supplier'] as const)
      .flatMap((what) => {
        const known = new Set(
          (what === 'material' ? this.materials() : this.suppliers()).map(({ id }) => id.toLowerCase()),
        );
        const theirs = new Set(file.rows.map((cells) => (cells[columns[what] ?? -1] ?? '').trim()));
        return [...theirs]
          .filter((name) => name !== '' && !known.has(name.toLowerCase()))
          .map((name) => ({ what, theirs: name }));
      })
      .slice(0, MOST_STRANGE);
  });
  protected readonly refused = signal<string | null>(null);
  protected readonly finished = signal<string | null>(null);
  protected readonly busy = signal(false);
  protected readonly done = signal(0);
  protected readonly total = signal(0);
  protected readonly sound = computed(() => this.rows().filter((row) => row.errors.length === 0));
  protected readonly preview = computed(() =>
    [...this.rows().filter((row) => row.errors.length > 0), ...this.sound()].slice(0, SHOWN),
  );
  private readonly kinds = computed(
    () => new Map((this.house.house()?.materials ?? []).map((one) => [one.name.toLowerCase(), one.kind])),
  );
  protected readonly amount = (row: DeliveryRow): string =>
    formatAmount(row.grams!, unitOfKind(this.kinds().get(row.material.toLowerCase()) ?? ''));

  protected async chosen(file: File): Promise<void> {
    this.file.set(null);
    this.ours.set(new Map());
    this.got.set(new Set());
    this.doors.set(new Map());
    this.refused.set(null);
    this.finished.set(null);
    if (file.size > 5_000_000)
      return this.refused.set(
        `${file.name} has ${(file.size / 1_000_000).toFixed(1)} MB. A delivery list is up to 5 MB.`,
      );
    const table = /\.json(ld)?$/i.test(file.name) ? readEpcis(await file.text()) : await tableOf(file);
    if (!table.ok) return this.refused.set(table.refusal.message);
    const { head, rows, aside } = table.value;
    if (rows.length > MOST_ROWS)
      return this.refused.set(`This list has ${rows.length} rows; up to ${MOST_ROWS} are read at once.`);
    const { events } = table.value;
    const ids = rows.map((_, index) => {
      const event = events[index];
      const within = events.slice(0, index).filter((one) => one === event).length;
      // What an event brought is one lot, in whichever file the event comes again.
      return event
        ? { entryId: v5(`${event} delivery`, EVENTS), lotId: v5(`${event} ${within}`, EVENTS) }
        : { entryId: newId(), lotId: newId() };
    });
    this.file.set({ head, rows, aside, ids, deliveryId: newId(), at: new Date().toISOString() });
  }

  /** Nothing chosen takes the answer back. */
  protected told(name: string, ours: string | null): void {
    const all = new Map(this.ours());
    if (ours === null) all.delete(name);
    else all.set(name, ours);
    this.ours.set(all);
  }

  protected see(material: string, door: AtDoor): void {
    this.doors.update((all) => new Map(all).set(material, { ...all.get(material), ...door }));
  }

  private asksOf(material: string): readonly DoorAsk[] {
    const key = material.toLowerCase();
    return this.house.house()?.materials.find(({ name }) => name.toLowerCase() === key)?.details.atDoor ?? [];
  }

  private readRows(file: ReadFile, withSaid = true): Row[] {
    const columns = deliveryColumns(file.head);
    const ours = this.ours();
    const rows = file.rows.map((cells) =>
      cells.map((cell, at) => {
        const what = at === columns.material ? 'material' : at === columns.supplier ? 'supplier' : null;
        return what === null ? cell : (ours.get(what + cell.trim()) ?? cell);
      }),
    );
    const lower = (names: readonly { id: string }[]): Set<string> => new Set(names.map(({ id }) => id.toLowerCase()));
    const [materials, suppliers] = [lower(this.materials()), lower(this.suppliers())];
    return readDeliveryRows({
      head: file.head,
      rows,
      isMaterial: (name) => materials.has(name.toLowerCase()),
      isPackaging: (name) => this.kinds().get(name.toLowerCase()) === 'packaging',
      isSupplier: (name) => suppliers.has(name.toLowerCase()),
      asksOf: (name) => this.asksOf(name),
      doorOf: (name) => (withSaid ? this.doors().get(name) : undefined),
      decimalMark: this.house.house()?.decimalMark,
    }).map((row, index) => ({ ...row, ...file.ids[index]! }));
  }

  protected async receive(): Promise<void> {
    const rows = this.sound();
    const { deliveryId, at } = this.file()!;
    const isWhole = rows.length === this.rows().length;
    const idOf = (list: readonly { id: string; name: string }[], name: string): string =>
      list.find((one) => one.name.toLowerCase() === name.toLowerCase())!.id;
    const house = this.house.house()!;
    const lineOf = (row: (typeof rows)[number]) => ({
      lotId: row.lotId,
      materialId: idOf(house.materials, row.material),
      supplierId: idOf(house.suppliers, row.supplier),
      supplierLotCode: row.lot,
      grams: row.grams!,
      useBy: row.useBy,
      condition: row.condition,
      ...(Object.keys(row.door).length === 0 ? {} : { door: row.door }),
      ...(row.cost === null ? {} : { cost: row.cost }),
    });
    this.busy.set(true);
    this.refused.set(null);
    this.done.set(0);
    this.total.set(rows.length);
    try {
      const parts = Array.from({ length: Math.ceil(rows.length / AT_ONCE) }, (_, i) =>
        rows.slice(i * AT_ONCE, (i + 1) * AT_ONCE),
      );
      const entryOf = (part: typeof rows): Entry =>
        // The id of a part is that of its first row: sent again after a lost line, it is answered with what it became.
        ({
          id: part[0]!.entryId,
          kind: 'delivery.receive',
          happenedAt: at,
          by: this.person()!.id,
          device: 'delivery list',
          body: { deliveryId, reference: null, lines: part.map(lineOf) },
        }) as unknown as Entry;
      // What is sound from its first row to its last comes in whole or not at all: it is recorded in one piece.
      for (const together of isWhole ? [parts] : parts.map((part) => [part])) {
        await firstValueFrom(this.api.record(together.map(entryOf)));
        const got = together.flat().map(({ row }) => row);
        this.got.update((before) => new Set([...before, ...got]));
        this.done.update((done) => done + got.length);
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

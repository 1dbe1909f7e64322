import { Component, computed, signal } from '@angular/core';
import type { BodyOf, EquipmentReply, Entry, PeopleReply } from '@clear-tally/contract';
import { counted, type HouseRead, readHouseSheets, type SheetRead } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { FileField } from '../../ui/file-field';
import { download } from '../../ui/table/leave';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { readHouseBook, writeHouseBook } from './house-book';

/** Lines one press takes in together: all of them or none. */
const MOST_TOGETHER = 400;
const FAULTS_SHOWN = 40;
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** Rooms, vessels, suppliers, materials and people from one workbook: looked at first, taken in whole or not at all. */
@Component({
  selector: 'ct-house-sheet',
  imports: [FileField, RecordButton, Refusal],
  template: `
    <h2>Or from a spreadsheet</h2>
    <p class="small soft">
      One workbook with a sheet each for rooms, vessels, suppliers, materials, people and equipment. What is in the
      house already is left as it is, so the same workbook may come again.
    </p>
    <div class="row">
      <button type="button" (click)="template()">Take the template</button>
      <ct-file
        label="Bring it filled in"
        accept=".xlsx,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
        (chosen)="chosen($event)"
      />
    </div>
    <ct-refusal [message]="refused()" />
    @if (read(); as r) {
      <section class="stack" aria-label="What the workbook brings" role="status">
        <ul>
          @for (line of lines(); track line) {
            <li>{{ line }}</li>
          } @empty {
            <li>Nothing new.</li>
          }
          @if (r.known > 0) {
            <li class="soft">{{ counted(r.known, 'row') }} of what is here already: left as it is.</li>
          }
        </ul>
        @if (r.faults.length > 0) {
          <div class="watch">
            <p>
              <b>{{ counted(r.faults.length, 'cell') }} to be mended</b>; until then nothing is taken in.
            </p>
            <ul>
              @for (fault of faults(); track $index) {
                <li>
                  <b class="figure">{{ fault.sheet }}{{ fault.cell ? ' ' + fault.cell : '' }}</b
                  >: {{ fault.words }}
                </li>
              }
            </ul>
            @if (r.faults.length > faults().length) {
              <p>… and {{ r.faults.length - faults().length }} more.</p>
            }
          </div>
        } @else if (many() > most) {
          <p class="watch">
            {{ many() }} rows are new; {{ most }} are taken in together. Bring the workbook in two parts.
          </p>
        } @else if (many() > 0) {
          <button class="go" type="button" [ctRecord]="form" (click)="take()">
            Take in {{ counted(many(), 'row') }}
          </button>
          <ct-refusal [message]="form.problem()" />
        }
        <button type="button" class="plain" (click)="putAway()">Put it away</button>
      </section>
    }
    @if (taken(); as words) {
      <p class="note" role="status">{{ words }}</p>
    }
  `,
  host: { class: 'stack' },
})
export class HouseSheetForm {
  private readonly house = injectHouse();
  private readonly people = shown<PeopleReply>(signal('/api/people'));
  private readonly equipment = shown<EquipmentReply>(signal('/api/equipment'));
  protected readonly most = MOST_TOGETHER;
  protected readonly counted = counted;
  protected readonly refused = signal<string | null>(null);
  private readonly sheets = signal<readonly SheetRead[] | null>(null);
  /** What the workbook brings to the house as it stands: what was taken in a moment ago is no news, however late it is read. */
  protected readonly read = computed((): HouseRead | null => {
    const [sheets, of] = [this.sheets(), this.house.house()];
    if (!sheets || !of) return null;
    const people = this.people.data()?.people ?? [];
    return readHouseSheets({
      sheets,
      known: {
        rooms: of.rooms.map(({ name }) => name),
        tags: of.vessels.map(({ tag }) => tag),
        suppliers: of.suppliers.map(({ name }) => name),
        prefixes: of.suppliers.map(({ prefix }) => prefix),
        materials: of.materials.map(({ name }) => name),
        people: people.map(({ name }) => name),
        initials: people.map(({ initials }) => initials),
        equipment: (this.equipment.data()?.equipment ?? []).map(({ tag }) => tag),
      },
      decimalMark: of.decimalMark,
    });
  });
  protected readonly taken = signal<string | null>(null);
  /** Rows that were sent: when they are in, none of them is new any more. */
  private taking = 0;
  protected readonly form = recordingForm('founding.sheet', () => {
    this.taken.set(`${counted(this.taking, 'row')} taken in. They stand in their registers now.`);
    this.sheets.set(null);
  });
  protected readonly many = computed(() => {
    const r = this.read();
    return r
      ? r.rooms.length +
          r.vessels.length +
          r.suppliers.length +
          r.materials.length +
          r.people.length +
          r.equipment.length
      : 0;
  });
  protected readonly lines = computed(() => {
    const r = this.read();
    if (!r) return [];
    const all = [
      [r.rooms.length, 'room', r.rooms.map(({ name }) => name)],
      [r.vessels.length, 'vessel', r.vessels.map(({ tag }) => tag)],
      [r.suppliers.length, 'supplier', r.suppliers.map(({ name }) => name)],
      [r.materials.length, 'material', r.materials.map(({ name }) => name)],
    ] as const;
    const people = r.people.length === 1 ? '1 person' : `${r.people.length} people`;
    return [
      ...all.filter(([many]) => many > 0).map(([many, what, names]) => `${counted(many, what)}: ${few(names)}`),
      ...(r.people.length > 0 ? [`${people}: ${few(r.people.map(({ name }) => name))}`] : []),
      ...(r.equipment.length > 0 ? [`equipment: ${few(r.equipment.map(({ tag }) => tag))}`] : []),
    ];
  });
  protected readonly faults = computed(() => this.read()?.faults.slice(0, FAULTS_SHOWN) ?? []);

  protected putAway(): void {
    this.sheets.set(null);
  }

  protected async template(): Promise<void> {
    const of = this.house.house();
    if (!of) return;
    const roomOf = new Map(of.rooms.map(({ id, name }) => [id, name]));
    const percent = (fraction: number): number => Math.round(fraction * 1000) / 10;
    const book = await writeHouseBook({
      Rooms: of.rooms.map(({ name, usualCelsius }) => [name, usualCelsius]),
      Vessels: of.vessels.map((v) => [
        v.tag,
        v.shape,
        v.brimMl / 1000,
        percent(v.minFill),
        percent(v.maxFill),
        v.weightVolumeMl,
        v.closure,
        roomOf.get(v.roomId) ?? '',
      ]),
      Suppliers: of.suppliers.map(({ name, prefix, ownPlot }) => [name, prefix, ownPlot ? 'yes' : 'no']),
      Materials: of.materials.map((m) => [
        m.name,
        m.kind,
        percent(m.waterFraction),
        percent(m.saltFraction),
        m.details.trimYield == null ? '' : percent(m.details.trimYield),
        m.allergens.join(', '),
        m.details.gramsPer15Ml ?? '',
      ]),
      People: (this.people.data()?.people ?? []).map(({ name, initials, role }) => [name, initials, role]),
      Equipment: (this.equipment.data()?.equipment ?? []).map((one) => [
        one.tag,
        one.kind,
        one.name,
        one.capacityGrams ?? '',
        one.stepGrams ?? '',
        one.count ?? '',
        one.words ?? '',
        one.room ?? '',
      ]),
    });
    download('house.xlsx', XLSX, book);
  }

  protected async chosen(file: File): Promise<void> {
    this.sheets.set(null);
    this.taken.set(null);
    this.refused.set(null);
    const of = this.house.house();
    if (!of) return;
    try {
      this.sheets.set(await readHouseBook(file));
      this.form.edited();
    } catch (error) {
      this.refused.set((error as Error).message);
    }
  }

  protected take(): void {
    const r = this.read();
    const of = this.house.house();
    if (!r || !of) return;
    const rooms = new Map(of.rooms.map(({ id, name }) => [name, id]));
    for (const { name } of r.rooms) rooms.set(name, newId());
    const entry = this.form.entry.bind(this.form);
    const entries: Entry[] = [
      ...r.rooms.map(({ name, usualCelsius }, index) =>
        entry('room.add', {
          roomId: rooms.get(name)!,
          name,
          usualCelsius,
          position: of.rooms.length + index + 1,
        } as BodyOf<'room.add'>),
      ),
      ...r.vessels.map(({ room, ...vessel }) =>
        entry('vessel.add', {
          ...vessel,
          vesselId: newId(),
          roomId: rooms.get(room)!,
          inUse: true,
        } as BodyOf<'vessel.add'>),
      ),
      ...r.suppliers.map((one) => entry('supplier.add', { ...one, supplierId: newId() })),
      ...r.materials.map(({ trimYield, gramsPer15Ml, allergens, ...one }) =>
        entry('material.add', {
          ...one,
          materialId: newId(),
          allergens: [...allergens],
          caution: null,
          details: { trimYield, gramsPer15Ml },
        } as BodyOf<'material.add'>),
      ),
      ...r.people.map((one) =>
        entry('person.add', { ...one, personId: newId(), lastDay: null } as BodyOf<'person.add'>),
      ),
      ...r.equipment.map(({ room, ...one }) =>
        entry('equipment.add', {
          ...one,
          equipmentId: newId(),
          roomId: room === null ? null : rooms.get(room)!,
          inUse: true,
        }),
      ),
    ];
    this.taking = entries.length;
    this.form.record(...entries);
  }
}

const FEW = 6;
const few = (names: readonly string[]): string =>
  names.length > FEW ? `${names.slice(0, FEW).join(', ')} and ${names.length - FEW} more` : names.join(', ');

import { Component, computed, signal } from '@angular/core';
import type { EquipmentReply, FormulasReply, PeopleReply, RunsReply } from '@clear-tally/contract';
import { counted, type HouseRead, readHouseSheets, type SheetRead } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { FileField } from '../../ui/file-field';
import { download } from '../../ui/table/leave';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { readHouseBook, writeHouseBook } from './house-book';
import { entriesOf } from './house-sheet-entries';
import { rowsOf } from './house-sheet-rows';

/** Lines one press takes in together: all of them or none. */
const MOST_TOGETHER = 400;
const FAULTS_SHOWN = 40;
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** Everything a house begins with from one workbook: looked at first, taken in whole or not at all. */
@Component({
  selector: 'ct-house-sheet',
  imports: [FileField, RecordButton, Refusal],
  template: `
    <h2>Or from a spreadsheet</h2>
    <p class="small soft">
      One workbook with a sheet each for rooms, vessels, suppliers, materials, people, equipment, formulas and what
      stands here already. What is in the house is left as it is, so the same workbook may come again.
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
  private readonly formulas = shown<FormulasReply>(signal('/api/formulas'));
  private readonly runs = shown<RunsReply>(signal('/api/runs'));
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
        formulas: (this.formulas.data()?.formulas ?? []).map(({ name }) => name),
        kinds: Object.fromEntries(of.materials.map(({ name, kind }) => [name, kind])),
        taken: of.vessels.filter(({ takenBy }) => takenBy !== null).map(({ tag }) => tag),
        runs: (this.runs.data()?.runs ?? []).map(({ name, jars }) => ({ name, jars })),
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
          r.equipment.length +
          r.formulas.length +
          r.standing.length
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
      ...(r.formulas.length > 0
        ? [`${counted(r.formulas.length, 'formula')}: ${few(r.formulas.map(({ name }) => name))}`]
        : []),
      ...(r.standing.length > 0
        ? [
            `standing here already: ${few(r.standing.map((one) => (one.what === 'vessel' ? `${one.tag} ${one.name}` : `${one.count} jars of ${one.name}`)))}`,
          ]
        : []),
    ];
  });
  protected readonly faults = computed(() => this.read()?.faults.slice(0, FAULTS_SHOWN) ?? []);

  protected putAway(): void {
    this.sheets.set(null);
  }

  protected async template(): Promise<void> {
    const of = this.house.house();
    if (!of) return;
    const book = await writeHouseBook(
      rowsOf(of, this.people.data()?.people ?? [], this.equipment.data()?.equipment ?? []),
    );
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
    const entries = entriesOf(
      r,
      {
        rooms: new Map(of.rooms.map(({ id, name }) => [name, id])),
        vessels: new Map(of.vessels.map(({ id, tag }) => [tag, id])),
        materials: new Map(of.materials.map(({ id, name }) => [name, id])),
        numbers: (this.formulas.data()?.formulas ?? []).map(({ number }) => number),
      },
      this.form.entry.bind(this.form),
      newId,
    );
    this.taking = entries.length;
    this.form.record(...entries);
  }
}

const FEW = 6;
const few = (names: readonly string[]): string =>
  names.length > FEW ? `${names.slice(0, FEW).join(', ')} and ${names.length - FEW} more` : names.join(', ');

import { Choices } from '../../ui/choices';
import { Component, computed, inject, input, linkedSignal, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { formatGrams, PREPARATION_WORDS } from '@clear-tally/core';
import type { BodyOf, Entry, MakeReply, StartersReply, SuppliesReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectScale } from '../../state/scale';
import { shown } from '../../state/shown';
import { Timers } from '../../state/timers';
import { Choice, type Option } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { TextField } from '../../ui/text-field';
import { supplyChoices } from './supply-choices';

type Form = BodyOf<'preparation.make'>['form'];
const FORMS: readonly Form[] = ['paste', 'porridge', 'puree', 'starterLiquor', 'culture'];
/** A bought culture drinks for about a quarter of an hour. */
const WAKE_UP_MINUTES = 15;
interface Part {
  readonly fromLotId: string;
  readonly label: string;
  readonly grams: number;
  readonly line: string | null;
}

/** Paste, porridge, purée, liquor, woken culture: each a lot of its own, of weighed lots; then into the bowls by weight. */
@Component({
  selector: 'ct-prepare-step',
  imports: [
    Choices,
    Choice,
    QuantityInput,
    Refusal,
    ScaleBar,
    Weighing,
    TextField,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    <div class="stack">
      @if (batch().leaf; as leaf) {
        @if (leaf.pasteSaltGrams > 0.5) {
          <p>
            Salt for the paste, after the leaf: <b class="figure">{{ mass(leaf.pasteSaltGrams) }}</b>. Weigh it into the
            paste like its other parts.
          </p>
        }
      }
      @if (open().length > 0) {
        <p class="soft">
          Still to weigh:
          @for (line of open(); track line.key) {
            <span class="figure want"
              >{{ line.name }} {{ line.plannedGrams === null ? 'to taste' : mass(line.plannedGrams) }}</span
            >
          }
        </p>
      }
      @if (batch().closedAt === null) {
        <ct-scale-bar [scale]="scale" />
        <div class="row">
          <ct-choices
            label="What is made"
            [options]="forms"
            [words]="formWords"
            [value]="form()"
            (picked)="form.set($event)"
          />
        </div>
        <form class="stack" (submit)="$event.preventDefault(); add()">
          <ct-weighing what="this part" [scale]="scale" [grams]="scale.orLive(grams())">
            <button [disabled]="!lotId() || !toAdd()">Add {{ toAdd() ? mass(toAdd()!) : 'it' }}</button>
          </ct-weighing>
          <div class="row">
            <ct-choice label="Part, from lot" [options]="options()" [(value)]="lotId" (edited)="make.edited()" />
            <ct-quantity
              #part
              label="On the scale"
              what="this part"
              [gramsPerMl]="1"
              [live]="scale.live()"
              [(value)]="grams"
              (edited)="make.edited()"
            />
          </div>
        </form>
        @if (parts().length > 0) {
          <table class="book">
            <tbody>
              @for (row of parts(); track $index) {
                <tr>
                  <td>{{ row.label }}</td>
                  <td class="right figure">{{ mass(row.grams) }}</td>
                  <td class="right">
                    <button type="button" class="plain small" (click)="drop($index)">Take it off the list</button>
                  </td>
                </tr>
              }
              <tr>
                <td><b>Together</b></td>
                <td class="right figure">
                  <b>{{ mass(together()) }}</b>
                </td>
                <td></td>
              </tr>
            </tbody>
          </table>
          <form class="row" (submit)="$event.preventDefault(); record()">
            <ct-typed-before [typed]="make.typed" />
            <ct-text label="Name" [placeholder]="formWords[form()]" [formField]="make.fields.name" />
            <ct-quantity
              label="Boiled off"
              what="what boiled off"
              [zero]="true"
              [gramsPerMl]="1"
              [formField]="make.fields.boiledOff"
              [refusal]="make.problemAt('boiledOffGrams')"
            />
            <button class="go" [ctRecord]="make">
              Make {{ formWords[form()].toLowerCase() }}, {{ mass(together() - (boiledOff() ?? 0)) }}
            </button>
          </form>
        }
        <ct-refusal [message]="make.problemAt('boiledOffGrams') ? null : make.problem()" />
      }
      @if (made().length > 0) {
        <h2>Made</h2>
        @for (row of made(); track row.lotId) {
          <div class="row made">
            <b class="figure">{{ row.code }}</b><span>{{ row.name }}</span
            ><span class="figure">{{ mass(row.onHandGrams) }} left of {{ mass(row.madeGrams) }}</span>
            @if (row.onHandGrams > 0 && batch().closedAt === null) {
              <button type="button" (click)="into(row.lotId, row.onHandGrams)" [ctRecord]="pour">
                All of it into the bowls
              </button>
              @if (toAdd() && toAdd()! <= row.onHandGrams) {
                <button type="button" (click)="into(row.lotId, toAdd()!)">{{ mass(toAdd()!) }} into the bowls</button>
              }
            }
          </div>
        }
      }
      @if (fromOthers(); as row) {
        <div class="row made">
          <b class="figure">{{ row.label }}</b><span class="soft">{{ row.detail }}</span
          ><button type="button" [ctRecord]="pour" [needs]="[!toAdd() && 'how much']" (click)="into(row.id, toAdd()!)">
            {{ toAdd() ? mass(toAdd()!) + ' ' : '' }}into the bowls
          </button>
        </div>
      }
      <ct-refusal [message]="pour.problem()" />
    </div>
  `,
  styles:
    '.want { border-bottom: 1px dotted var(--soft); margin-right: 14px; } ct-choice { min-width: 330px; flex: 1; } .made { align-items: center; border-bottom: 1px solid var(--hair); padding: 4px 0; } .made span:nth-child(2) { flex: 1; }',
})
export class PrepareStep {
  readonly batch = input.required<MakeReply>();
  private readonly house = injectHouse();
  private readonly timers = inject(Timers);
  private readonly partField = viewChild<QuantityInput>('part');
  protected readonly forms = FORMS;
  protected readonly formWords = PREPARATION_WORDS;
  protected readonly scale = injectScale('this part');
  protected readonly form = signal<Form>('paste');
  protected readonly lotId = signal<string | null>(null);
  protected readonly grams = signal<number | null>(null);
  /** Weighed and not yet made: a reload of the page takes none of them. */
  private readonly drawer = computed(() => `ct.parts.${this.batch().batchId}`);
  protected readonly parts = linkedSignal<readonly Part[]>(() => keptParts(this.drawer()));
  protected readonly make = recordingForm('preparation.make', {
    fields: { boiledOff: null as number | null, name: '' },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.setParts([]);
      this.name.set('');
      this.boiledOff.set(null);
    },
  });
  protected readonly name = this.make.values.name;
  protected readonly boiledOff = this.make.values.boiledOff;
  protected readonly pour = recordingForm('ingredient.add', () => this.partField()?.clear());
  private readonly supplies = supplyChoices(signal('/api/supplies'));
  private readonly standing = shown<StartersReply>(signal('/api/starters'));
  private readonly all = shown<SuppliesReply>(signal('/api/supplies'));

  protected readonly open = computed(() =>
    this.batch().lines.filter((line) => line.state === 'open' && !this.parts().some((part) => part.line === line.key)),
  );
  protected readonly made = computed(() =>
    this.batch().preparations.filter((row) => row.form !== 'brine' && row.form !== 'keptBrine'),
  );
  /** What the formula still asks for stands first. */
  protected readonly options = computed((): Option[] => {
    const wanted = new Set(this.open().map((line) => line.materialId));
    const own = this.made()
      .filter((row) => row.onHandGrams > 0)
      .map((row) => ({
        id: row.lotId,
        label: `${row.code} ${row.name}`,
        detail: `made for this batch, ${formatGrams(row.onHandGrams)}`,
      }));
    const others = (this.standing.data()?.starters ?? [])
      .filter((row) => row.kind === 'made' && row.refusal === null && !row.code.startsWith(`${this.batch().code}-`))
      .map((row) => ({
        id: row.lotId,
        label: `${row.code} ${row.name}`,
        detail: `made for another batch, ${formatGrams(row.onHandGrams)} left`,
      }));
    return [
      ...own,
      ...others,
      ...[...this.supplies.options()].sort(
        (a, b) => Number(wanted.has(b.materialId)) - Number(wanted.has(a.materialId)),
      ),
    ];
  });
  /** What was made for another batch can go into these bowls as it is. */
  protected readonly fromOthers = computed(
    () =>
      this.options().find((one) => one.id === this.lotId() && one.detail?.startsWith('made for another batch')) ?? null,
  );
  protected readonly toAdd = computed(() => this.scale.orReady(this.grams()));
  protected readonly together = computed(() => this.parts().reduce((sum, part) => sum + part.grams, 0));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected add(): void {
    const grams = this.toAdd();
    const option = this.options().find((one) => one.id === this.lotId());
    if (!option || !grams) return;
    const materialId = this.all.data()?.lots.find((lot) => lot.lotId === option.id)?.materialId;
    this.setParts([
      ...this.parts(),
      {
        fromLotId: option.id,
        label: option.label,
        grams,
        line: this.open().find((line) => line.materialId === materialId)?.key ?? null,
      },
    ]);
    this.scale.taken();
    this.partField()?.clear();
    this.lotId.set(null);
  }

  protected drop(index: number): void {
    this.setParts(this.parts().filter((_, at) => at !== index));
  }

  protected record(): void {
    if (this.parts().length === 0) return;
    const made = this.make.entry('preparation.make', {
      lotId: newId(),
      batchId: this.batch().batchId,
      form: this.form(),
      name: this.name().trim() || PREPARATION_WORDS[this.form()],
      boiledOffGrams: this.boiledOff() ?? 0,
      parts: this.parts().map(({ fromLotId, grams, line }) => ({ fromLotId, grams, line })),
      ...this.scale.which.used(),
    });
    this.make.record(made, ...(this.form() === 'culture' ? this.openedSachets() : []));
    if (this.form() === 'culture')
      this.timers.start({
        batchId: this.batch().batchId,
        step: 'prepare',
        words: 'Culture wakes up',
        minutes: WAKE_UP_MINUTES,
      });
  }

  /** What of a culture was closed until now is open from today, and keeps as long as its material says. */
  private openedSachets(): Entry[] {
    const used = new Set(this.parts().map((part) => part.fromLotId));
    const starters = new Map(
      (this.house.house()?.materials ?? [])
        .filter((material) => material.kind === 'starter')
        .map((material) => [material.id, material.details.keepsOpenedDays ?? null]),
    );
    return (this.all.data()?.lots ?? [])
      .filter((lot) => used.has(lot.lotId) && lot.state === 'asReceived' && starters.has(lot.materialId))
      .map((lot) => {
        const days = starters.get(lot.materialId) ?? null;
        return this.make.entry('supply.state', {
          lotId: lot.lotId,
          state: 'opened',
          keepsUntil: days === null ? null : this.house.dates().today(days),
        });
      });
  }

  private setParts(parts: readonly Part[]): void {
    this.parts.set(parts);
    try {
      if (parts.length > 0) localStorage.setItem(this.drawer(), JSON.stringify(parts));
      else localStorage.removeItem(this.drawer());
    } catch {
      /* a full or closed store: the list is still on the page */
    }
  }

  protected into(fromLotId: string, grams: number): void {
    this.pour.record(this.pour.entry('ingredient.add', { batchId: this.batch().batchId, fromLotId, grams }));
  }
}

function keptParts(drawer: string): Part[] {
  try {
    return JSON.parse(localStorage.getItem(drawer) ?? '[]') as Part[];
  } catch {
    return [];
  }
}

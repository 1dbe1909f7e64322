import { Component, computed, input, linkedSignal, signal, viewChildren } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Receive } from '../../ui/receive';
import { Refusal } from '../../ui/refusal';
import { injectScale } from '../../state/scale';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { TextField } from '../../ui/text-field';
import { MixedBowl } from './mixed-bowl';
import { OtherIngredient } from './other-ingredient';
import { supplyChoices, type SupplyOption } from './supply-choices';
import { WeighedList } from './weighed-list';

/** Produce is weighed after trimming: the salt follows this weight. */
@Component({
  selector: 'ct-produce-step',
  imports: [
    Choice,
    CountInput,
    MixedBowl,
    OtherIngredient,
    QuantityInput,
    Receive,
    Refusal,
    ScaleBar,
    Weighing,
    TextField,
    WeighedList,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <ct-scale-bar [scale]="scale" />
      <p class="soft">After coring and trimming: the salt follows this weight, never the bought one.</p>
      <ul class="row wanted">
        @for (line of wanted(); track line.key) {
          <li>
            <span class="soft small">{{ line.name }}</span><b class="figure"
              >{{ line.weighed }} of {{ line.planned }}</b
            >
          </li>
        }
      </ul>
      <ct-choice
        label="From lot"
        [options]="options()"
        [(value)]="lotId"
        (edited)="form.edited()"
        nothing="No lot of this formula’s produce is in the house"
      />
      <ct-weighing
        what="the trimmed produce"
        unit="kg"
        [scale]="scale"
        [grams]="scale.orLive(trimmed())"
        [standing]="more() > 0 ? 'under' : 'in'"
        [words]="means()"
      >
        <button class="go" [ctRecord]="form" [needs]="[!lotId() && 'which lot', !toRecord() && 'how much']">
          Record {{ toRecord() ? mass(toRecord()!) : '' }} trimmed
        </button>
      </ct-weighing>
      <div class="row">
        <ct-quantity
          label="Trimmed, on the scale"
          unit="kg"
          what="the trimmed produce"
          [planned]="planned()"
          [live]="scale.live()"
          [formField]="form.fields.trimmed"
          [refusal]="form.problemAt('trimmedGrams')"
        />
        @if (pieceName(); as name) {
          <ct-count
            [label]="'Counted, ' + name"
            [value]="form.values.pieces()"
            (valueChange)="form.values.pieces.set($event); form.edited()"
          />
        }
        <ct-quantity
          label="Trimmed off"
          unit="kg"
          what="the trimmings"
          [zero]="true"
          [formField]="form.fields.waste"
          [refusal]="form.problemAt('trimWasteGrams')"
        />
      </div>
      <ct-refusal [message]="general()" />
      @if (form.problemAt('pastReason')) {
        <ct-text label="Why it goes in all the same" [formField]="form.fields.pastReason" />
      }
      @if (form.problemAt('frozenReason')) {
        <ct-text label="Why it goes in without a starter" [formField]="form.fields.frozenReason" />
      }
    </form>
    <div class="stack" style="margin-top: 22px">
      <ct-weighed-list [rows]="batch().produce" [batchId]="batch().closedAt ? null : batch().batchId" />
      @if (batch().closedAt === null && batch().formula.produce.length > 1) {
        <div>
          <button type="button" [attr.aria-expanded]="mixed()" (click)="mixed.set(!mixed())">
            {{ mixed() ? 'Each by itself' : 'Weighed together in one bowl' }}
          </button>
        </div>
        @if (mixed()) {
          <ct-mixed-bowl [batch]="batch()" [options]="options()" [scale]="scale" />
        }
      }
      @if (batch().closedAt === null) {
        <ct-other-ingredient [batch]="batch()" station="weigh" />
      }
      <ct-receive [kinds]="['produce']" (received)="lotId.set($event)" />
    </div>
  `,
  styles: '.wanted li { display: grid; min-width: 200px; } .wanted b { font-size: 22px; }',
})
export class ProduceStep {
  readonly batch = input.required<MakeReply>();
  private readonly fields = viewChildren(QuantityInput);
  private readonly house = injectHouse();
  protected readonly form = recordingForm('produce.weigh', {
    fields: {
      trimmed: null as number | null,
      waste: null as number | null,
      pastReason: '',
      frozenReason: '',
      pieces: null as number | null,
    },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.fields().forEach((field) => field.clear());
      this.pastReason.set('');
      this.form.values.frozenReason.set('');
      this.form.values.pieces.set(null);
      this.scale.taken();
    },
  });

  protected readonly trimmed = this.form.values.trimmed;
  protected readonly waste = this.form.values.waste;
  protected readonly scale = injectScale('the trimmed produce');
  protected readonly pastReason = this.form.values.pastReason;
  /** Several kinds lie in one bowl. */
  protected readonly mixed = signal(false);
  protected readonly toRecord = computed(() => this.scale.orReady(this.trimmed()));
  private readonly supplies = supplyChoices(signal('/api/supplies?kind=produce'));
  protected readonly options = computed(() => {
    const own = new Set(this.batch().formula.produce.map(({ materialId }) => materialId));
    return this.supplies.options().filter(({ materialId }) => own.has(materialId));
  });
  /** Where one lot alone can be meant it stands there: the only one of the produce that is weighed next. */
  protected readonly lotId = linkedSignal<{ offered: readonly SupplyOption[]; weighed: number }, string | null>({
    source: () => ({ offered: this.options(), weighed: this.batch().produce.length }),
    computation: ({ offered, weighed }, before) => {
      const chosen = before?.value;
      if (chosen && before.source.weighed === weighed && offered.some(({ id, disabled }) => id === chosen && !disabled))
        return chosen;
      const next = this.batch().formula.produce.find((part) => this.weighedOf(part.materialId) === 0);
      const fit = offered.filter(({ materialId, disabled }) => materialId === next?.materialId && !disabled);
      return fit.length === 1 ? fit[0]!.id : null;
    },
  });
  protected readonly wanted = computed(() =>
    this.batch()
      .planned.lines.filter((line) => line.role === 'produce')
      .map((line) => ({
        ...line,
        planned: formatGrams(line.grams ?? 0),
        weighed: formatGrams(this.weighedOf(line.materialId)),
      })),
  );
  /** To the plan; more or less is no fault: the salt follows what is weighed. */
  protected readonly more = computed(() => {
    const planned = this.batch().planned.lines.filter((line) => line.role === 'produce');
    const grams = planned.reduce((sum, line) => sum + (line.grams ?? 0), 0);
    const left = grams - this.batch().produceGrams - (this.scale.orLive(this.trimmed()) ?? 0);
    return Math.abs(left) < grams * 0.005 ? 0 : left;
  });
  protected readonly means = computed(() => {
    const more = this.more();
    if (more === 0) return 'as planned';
    return more > 0 ? `${this.mass(more)} more to the plan` : `${this.mass(-more)} beyond the plan: the salt follows`;
  });
  protected readonly general = computed(() =>
    this.form.problemAt('trimmedGrams', 'trimWasteGrams') ? null : this.form.problem(),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);

  /** What is planned of the chosen lot's produce, or of all of it. */
  protected readonly planned = computed(() => {
    const lines = this.batch().planned.lines.filter((line) => line.role === 'produce');
    const of = this.options().find(({ id }) => id === this.lotId())?.materialId;
    const line = lines.find(({ materialId }) => materialId === of);
    return line?.grams ?? lines.reduce((sum, { grams }) => sum + (grams ?? 0), 0);
  });

  /** What the chosen lot comes in, where its material says so: heads, bunches. */
  protected readonly pieceName = computed(() => {
    const of = this.options().find(({ id }) => id === this.lotId())?.materialId;
    const details = this.house.house()?.materials.find(({ id }) => id === of)?.details;
    return details?.pieceGrams || details?.pieceName ? details.pieceName || 'pieces' : null;
  });

  private weighedOf(materialId: string | null): number {
    return this.batch()
      .produce.filter((row) => row.materialId === materialId)
      .reduce((sum, row) => sum + row.grams, 0);
  }

  protected record(): void {
    const grams = this.toRecord();
    if (!this.lotId() || !grams) return;
    this.form.record(
      this.form.entry('produce.weigh', {
        batchId: this.batch().batchId,
        supplyLotId: this.lotId()!,
        trimmedGrams: grams,
        trimWasteGrams: this.waste() ?? 0,
        ...(this.form.values.pieces() ? { pieces: this.form.values.pieces()! } : {}),
        ...this.scale.used(this.trimmed()),
        ...(this.pastReason().trim() ? { pastReason: this.pastReason().trim() } : {}),
        ...(this.form.values.frozenReason().trim() ? { frozenReason: this.form.values.frozenReason().trim() } : {}),
      }),
    );
  }
}

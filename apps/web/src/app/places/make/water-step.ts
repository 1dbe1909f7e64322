import { Component, computed, effect, input, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply, StartersReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { injectScale } from '../../state/scale';
import { shown } from '../../state/shown';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { saltWords } from '../../ui/salt-words';
import { OtherIngredient } from './other-ingredient';
import { supplyChoices } from './supply-choices';

/** House default: a little more brine than the vessel should take. Source: handbook 2.6. */
const BRINE_MARGIN = 0.08;

/** Water for the brine, by weight. */
@Component({
  selector: 'ct-water-step',
  imports: [
    Choice,
    OtherIngredient,
    QuantityInput,
    Refusal,
    ScaleBar,
    Weighing,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <ct-scale-bar [scale]="scale" />
      @if (batch().plannedWaterGrams > 0) {
        <p>
          The produce asks for <b class="figure">{{ mass(batch().plannedWaterGrams) }}</b> of water; with 8 % to spare
          that is <b class="figure">{{ mass(proposed()) }}</b>. What is left over fills airlocks and tops up.
        </p>
      } @else {
        <p class="note">Weigh the trimmed produce first: the brine follows what it has to cover.</p>
      }
      @if (batch().brine; as brine) {
        <p>
          Weighed so far: <b class="figure">{{ mass(brine.waterGrams) }}</b> in {{ brine.code }}.
        </p>
      }
      <ct-choice label="Water from" [options]="supplies.options()" [formField]="form.fields.lotId" />
      <ct-weighing
        what="the water"
        unit="kg"
        [scale]="scale"
        [grams]="grams()"
        [standing]="standing()"
        [words]="means()"
      >
        <button class="go" [ctRecord]="form" [needs]="[!lotId() && 'which lot', !toRecord() && 'how much']">
          Record {{ toRecord() ? mass(toRecord()!) : '' }} water
        </button>
      </ct-weighing>
      <div class="row">
        <ct-quantity
          label="Water, on the scale"
          unit="kg"
          what="water"
          [planned]="batch().plannedWaterGrams"
          [gramsPerMl]="1"
          [live]="scale.live()"
          [formField]="form.fields.water"
          [refusal]="form.problemAt('waterGrams')"
        />
      </div>
      <ct-refusal [message]="form.problemAt('waterGrams') ? null : form.problem()" />
    </form>
    @if (batch().brine && batch().closedAt === null) {
      <div class="rule left"><ct-other-ingredient [batch]="batch()" station="brine" /></div>
    }
    @if (leftBrines().length > 0 && batch().plannedWaterGrams > 0) {
      <form class="stack rule left" (submit)="$event.preventDefault(); joinLeft()">
        <ct-typed-before [typed]="join.typed" />
        <h2>Left-over brine that never touched its product</h2>
        <ct-choice label="Brine" [options]="leftBrines()" [formField]="join.fields.leftId" />
        <div class="row">
          <ct-quantity
            label="Of it into this brine"
            unit="kg"
            what="brine"
            [gramsPerMl]="1.03"
            [formField]="join.fields.leftGrams"
            [refusal]="join.problemAt('grams')"
          />
          <button [ctRecord]="join" [needs]="[!leftId() && 'which brine', !leftGrams() && 'how much']">
            Use {{ leftGrams() ? mass(leftGrams()!) : '' }} of it
          </button>
        </div>
        <ct-refusal [message]="join.problemAt('grams') ? null : join.problem()" />
        <p class="soft small">
          Its salt counts: the target of this batch asks only for what is missing. What it carries, with its allergens,
          goes on into this batch.
        </p>
      </form>
    }
  `,
  styles: '.left { margin-top: 22px; }',
})
export class WaterStep {
  readonly batch = input.required<MakeReply>();
  protected readonly scale = injectScale('water');
  private readonly starters = shown<StartersReply>(signal('/api/starters'));
  protected readonly join = recordingForm('brine.join', {
    fields: { leftGrams: null as number | null, leftId: null as string | null },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.leftId.set(null);
      this.leftGrams.set(null);
    },
  });
  protected readonly leftId = this.join.values.leftId;
  protected readonly leftGrams = this.join.values.leftGrams;
  protected readonly leftBrines = computed(() =>
    (this.starters.data()?.starters ?? [])
      .filter((row) => row.kind === 'leftBrine' && row.lotId !== this.batch().brine?.lotId)
      .map((row) => ({
        id: row.lotId,
        label: `${row.code} ${row.name}`,
        disabled: row.refusal !== null,
        detail: row.refusal ?? `${formatGrams(row.onHandGrams)} left, ${saltWords(row.salt)}`,
      })),
  );
  protected readonly grams = computed(() => this.scale.orLive(this.water()));
  /** Against what the brine asks for, with what is weighed already; more of it does no harm. */
  private readonly missing = computed(
    () => this.proposed() - (this.batch().brine?.waterGrams ?? 0) - (this.grams() ?? 0),
  );
  protected readonly standing = computed(() =>
    this.batch().plannedWaterGrams === 0 ? 'none' : this.missing() > this.proposed() * BRINE_MARGIN ? 'under' : 'in',
  );
  protected readonly means = computed(() =>
    this.standing() === 'under' ? `${this.mass(this.missing())} more` : this.standing() === 'in' ? 'enough' : null,
  );
  protected readonly toRecord = computed(() => this.scale.orReady(this.water()));
  private readonly field = viewChild(QuantityInput);
  protected readonly form = recordingForm('brine.make', {
    fields: { water: null as number | null, lotId: null as string | null },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.field()?.clear();
      this.scale.taken();
    },
  });
  protected readonly lotId = this.form.values.lotId;
  protected readonly water = this.form.values.water;
  protected readonly supplies = supplyChoices(signal('/api/supplies?kind=water'));
  protected readonly proposed = computed(() => Math.round(this.batch().plannedWaterGrams * (1 + BRINE_MARGIN)));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  constructor() {
    // A house with one tap need not choose it.
    effect(() => {
      const options = this.supplies.options();
      if (options.length === 1 && this.lotId() === null) this.lotId.set(options[0]!.id);
    });
  }

  protected record(): void {
    const grams = this.toRecord();
    if (!this.lotId() || !grams) return;
    this.form.record(
      this.form.entry('brine.make', {
        brineLotId: this.batch().brine?.lotId ?? newId(),
        batchId: this.batch().batchId,
        waterLotId: this.lotId()!,
        waterGrams: grams,
        ...this.scale.used(this.water()),
      }),
    );
  }

  protected joinLeft(): void {
    if (this.leftId() && this.leftGrams())
      this.join.record(
        this.join.entry('brine.join', {
          batchId: this.batch().batchId,
          fromLotId: this.leftId()!,
          brineLotId: this.batch().brine?.lotId ?? newId(),
          grams: this.leftGrams()!,
        }),
      );
  }
}

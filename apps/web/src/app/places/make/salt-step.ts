import { Component, computed, inject, input, linkedSignal, output, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { formatPercent, formatWeighed, saltAtScale, saltWaysBack, scaleTooCoarse, splitDose } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { recordingForm } from '../../state/form';
import { Beam } from '../../ui/beam';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { SaltRuler } from '../../ui/salt-ruler';
import { keptChoice } from '../../state/kept-choice';
import { injectScale } from '../../state/scale';
import { sessionFeature } from '../../state/session';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { WorkingShower } from '../../ui/working-shower';
import { supplyChoices } from './supply-choices';
import { WeighedList } from './weighed-list';
import { TextField } from '../../ui/text-field';

/** The salt: target from the actual weight, tolerance before it goes in, ways back after. */
@Component({
  selector: 'ct-salt-step',
  imports: [
    Beam,
    Choice,
    QuantityInput,
    Refusal,
    RouterLink,
    SaltRuler,
    ScaleBar,
    Weighing,
    WeighedList,
    WorkingShower,
    TextField,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  templateUrl: './salt-step.html',
  styles: `
    .figures {
      display: flex;
      flex-wrap: wrap;
      gap: 12px 44px;
    }
    .figures b {
      display: block;
      font-size: 24px;
    }
    .bowls {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .bowls li {
      border: 1px solid var(--hair);
      padding: 6px 12px;
    }
    .bowls li.on {
      border: 2px solid var(--ink);
      font-weight: 700;
    }
    .verdict {
      font-size: 26px;
      line-height: 1.2;
      font-weight: 700;
    }
    .under {
      color: var(--mustard);
    }
    .in {
      color: var(--brine);
    }
    .over {
      color: var(--beet);
    }
    ct-choice {
      min-width: 330px;
      flex: 1;
    }
    .why {
      max-width: 560px;
    }
  `,
})
export class SaltStep {
  readonly batch = input.required<MakeReply>();
  /** From the quick tools: a figure to begin with. */
  readonly proposed = input<number | null>(null);
  /** A way back leads to another step. */
  readonly step = output<'produce' | 'water'>();
  private readonly house = injectHouse();
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  private readonly field = viewChild(QuantityInput);

  protected readonly scale = injectScale('salt');
  /** Typed, or sent here; the scale otherwise. */
  protected readonly typed = linkedSignal<number | null>(() => this.proposed());
  protected readonly grams = computed(() => this.scale.orLive(this.typed()));
  protected readonly toRecord = computed(() => this.scale.orReady(this.typed()));
  /** Something joined after the salt was in: a second dose is weighed into the same. */
  protected readonly second = signal(false);
  protected readonly byBowl = signal(false);
  protected readonly acceptance = recordingForm('salt.accept', {
    fields: { reason: '' },
    about: computed(() => this.batch().batchId),
    recorded: () => this.reason.set(''),
  });
  protected readonly reason = this.acceptance.values.reason;
  protected readonly why = signal(false);
  protected readonly supplies = supplyChoices(signal('/api/supplies?kind=salt'));
  /** The salt the formula names, first to use first; another is a tap away. */
  protected readonly lotId = keptChoice(
    this.supplies.options,
    (options) =>
      options.find(({ materialId, disabled }) => !disabled && materialId === this.batch().formula.saltMaterialId)?.id ??
      null,
  );
  protected readonly weigh = recordingForm('salt.weigh', () => {
    this.field()?.clear();
    this.typed.set(null);
    this.second.set(false);
    this.scale.taken();
  });
  protected readonly confirming = recordingForm('salt.confirm');

  protected readonly salt = computed(() => this.batch().salt);
  protected readonly caution = computed(() => {
    const lot = this.supplies.read.data()?.lots.find((row) => row.lotId === this.lotId());
    return this.house.house()?.materials.find((material) => material.id === lot?.materialId)?.caution ?? null;
  });
  /** With what is on the scale now. */
  protected readonly at = computed(() => {
    const { targetGrams, tolerance, inGrams } = this.salt();
    return targetGrams > 0
      ? saltAtScale({
          saltGrams: inGrams + (this.grams() ?? 0),
          targetGrams: this.bowl()?.upToGrams ?? targetGrams,
          tolerance,
        })
      : null;
  });
  /** One dose over the bowls as they were weighed: parts that add up. */
  protected readonly bowls = computed(() => {
    const { produce, salt } = this.batch();
    if (produce.length < 2 || salt.targetGrams <= 0 || this.batch().brine) return [];
    const parts = splitDose({
      doseGrams: this.inSteps(salt.targetGrams),
      shares: produce.map((row) => row.grams),
      stepGrams: Math.min(1, this.scale.which.step()),
    });
    return parts.map((grams, index) => ({
      number: index + 1,
      grams,
      produceGrams: produce[index]!.grams,
      upToGrams: parts.slice(0, index + 1).reduce((sum, part) => sum + part, 0),
    }));
  });
  /** The bowl in hand: the first that has not had its part. */
  protected readonly bowl = computed(() =>
    this.byBowl()
      ? (this.bowls().find((one) => this.salt().inGrams < one.upToGrams - one.grams * this.salt().tolerance) ?? null)
      : null,
  );
  protected readonly mayConfirm = computed(
    () =>
      this.person() !== null &&
      this.person()!.role !== 'inspector' &&
      !this.batch().confirmation.weighedBy.includes(this.person()!.id),
  );
  protected readonly verdictWords = computed(() => {
    const at = this.at();
    if (!at) return '';
    if (at.verdict === 'in') return `in: ${formatPercent(at.deviation, 1)} off the target`;
    return at.verdict === 'under'
      ? `${this.mass(at.toTargetGrams)} more`
      : `${this.mass(-at.toTargetGrams)} over: take it out`;
  });
  protected readonly standing = computed(() => {
    const { targetGrams, tolerance, inGrams } = this.salt();
    return targetGrams > 0 && inGrams > 0 ? saltAtScale({ saltGrams: inGrams, targetGrams, tolerance }) : null;
  });
  /** Nothing more is weighed when the salt is in, or over. */
  protected readonly weighing = computed(
    () =>
      this.batch().closedAt === null &&
      this.standing()?.verdict !== 'over' &&
      (this.standing()?.verdict !== 'in' || this.typed() !== null || this.second()),
  );
  /** Salt in the water phase if what is on the scale went in: it moves with the salt. */
  protected readonly wpsIfIn = computed(() => {
    const { waterPhaseSalt: c, inGrams, targetGrams } = this.salt();
    const grams = this.grams() ?? 0;
    if (inGrams > 0) {
      const factor = (inGrams + grams) / inGrams;
      return (c * factor) / (1 - c + c * factor);
    }
    const planned = this.plannedWps();
    const factor = targetGrams > 0 ? grams / targetGrams : 0;
    return grams > 0 ? (planned * factor) / (1 - planned + planned * factor) : null;
  });
  protected readonly back = computed(() => {
    const b = this.batch();
    return saltWaysBack({
      basis: b.formula.saltBasis,
      saltFraction: b.formula.saltFraction,
      produceGrams: b.produceGrams,
      waterGrams: b.plannedWaterGrams,
      brineWaterGrams: b.brine?.waterGrams ?? 0,
      saltInGrams: b.salt.inGrams,
    });
  });
  /** What is weighed next: of the bowl, or of all that is missing. */
  protected readonly dose = computed(
    () => (this.bowl() ? this.bowl()!.upToGrams : this.salt().targetGrams) - this.salt().inGrams,
  );
  protected readonly coarse = computed(
    () =>
      this.scale.device() === null &&
      this.scale.which.scale() === null &&
      this.salt().targetGrams > 0 &&
      scaleTooCoarse({ doseGrams: this.salt().targetGrams, stepGrams: this.scale.which.step() }).tooCoarse,
  );
  protected readonly weighed = formatWeighed;
  /** As the scale weighs it: half grams where it has them. */
  protected readonly mass = (grams: number): string => this.scale.which.said(grams);
  protected readonly percent = formatPercent;

  /** Where the target evens out: what the produce and water of this batch make of it. */
  private readonly plannedWps = computed(() => {
    const b = this.batch();
    const water =
      b.produce.reduce(
        (sum, row) =>
          sum +
          row.grams *
            (b.formula.produce.find(({ materialId }) => materialId === row.materialId)?.waterFraction ?? 0.92),
        0,
      ) + b.plannedWaterGrams;
    const target =
      b.brine && b.brine.waterGrams > 0
        ? (b.salt.targetGrams * b.plannedWaterGrams) / b.brine.waterGrams
        : b.salt.targetGrams;
    return target + water > 0 ? target / (target + water) : 0;
  });

  /** A dose in whole steps of the scale, a gram where it has coarser ones. */
  private inSteps(grams: number): number {
    const step = Math.min(1, this.scale.which.step());
    return Math.round(grams / step) * step;
  }

  protected record(alreadyIn: boolean): void {
    const grams = this.toRecord();
    if (!this.lotId() || !grams) return;
    const { inGrams, targetGrams } = this.salt();
    this.weigh.record(
      this.weigh.entry('salt.weigh', {
        batchId: this.batch().batchId,
        saltLotId: this.lotId()!,
        grams,
        alreadyIn,
        saw: { inGrams, targetGrams },
        ...this.scale.used(this.typed()),
      }),
    );
  }

  protected confirm(): void {
    this.confirming.record(
      this.confirming.entry('salt.confirm', { batchId: this.batch().batchId, sawGrams: this.salt().inGrams }),
    );
  }

  protected accept(): void {
    if (this.reason().trim())
      this.acceptance.record(
        this.acceptance.entry('salt.accept', { batchId: this.batch().batchId, reason: this.reason().trim() }),
      );
  }
}

import {
  afterRenderEffect,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams, formatWeighed, HOUSE_RULES } from '@clear-tally/core';
import type { MakeReply, MakingReply, SheetStepReply } from '@clear-tally/contract';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { clockWords, timerLink, Timers } from '../../state/timers';
import { CautionsAt } from '../../ui/cautions-at';
import { SAYS_WHEN } from '../../state/when';
import { WhenLine } from '../../ui/when-line';
import { Waiting } from '../../ui/waiting';
import { Checks } from './checks';
import { CleanStep } from './clean-step';
import { CloseBatch } from './close-batch';
import { CloseStep } from './close-step';
import { FillStep } from './fill-step';
import { LabelStep } from './label-step';
import { LinesStep } from './lines-step';
import { PrepareStep } from './prepare-step';
import { ProduceStep } from './produce-step';
import { RinseStep } from './rinse-step';
import { SaltStep } from './salt-step';
import { StepEnd } from './step-end';
import { StepHead } from './step-head';
import { StepOutline } from './step-outline';
import { WaterStep } from './water-step';
import { STAGE_WORDS } from './stage-words';

/** "7.9 of 7.9 g": half grams as they were weighed, the unit once where it is one. */
const inOf = (inGrams: number, targetGrams: number): string => {
  const [put, wanted] = [formatWeighed(inGrams), formatGrams(targetGrams)];
  return `${put.slice(-2) === wanted.slice(-2) ? put.replace(/ g$/, '') : put} of ${wanted}`;
};

/** The run sheet: one step at a time in large type, the outline beside it. It stands where it stood, on any tablet. */
@Component({
  selector: 'ct-bench',
  imports: [
    CautionsAt,
    Checks,
    CleanStep,
    CloseBatch,
    CloseStep,
    FillStep,
    LabelStep,
    LinesStep,
    PrepareStep,
    ProduceStep,
    RinseStep,
    RouterLink,
    SaltStep,
    StepEnd,
    StepHead,
    StepOutline,
    Waiting,
    WaterStep,
    WhenLine,
  ],
  providers: [{ provide: SAYS_WHEN, useValue: true }],
  templateUrl: './bench.html',
  styleUrl: './bench.less',
})
export class Bench {
  protected readonly stageWords = STAGE_WORDS;
  readonly batchId = input.required<string>();
  /** Salt worked out elsewhere, put on the scale's field. */
  readonly grams = input<string>();
  /** The step to open, as a link names it. */
  readonly step = input<string>();
  protected readonly timers = inject(Timers);
  protected readonly rights = injectRights();
  protected readonly clock = clockWords;
  protected readonly link = timerLink;
  protected readonly read = shown<MakeReply>(computed(() => `/api/making/${this.batchId()}`));
  private readonly making = shown<MakingReply>(signal('/api/making'));
  protected readonly batch = this.read.data;
  protected readonly chosen = linkedSignal<string | null>(() => (this.batchId(), this.step() ?? null));
  protected readonly proposed = computed(() => (Number(this.grams()) > 0 ? Number(this.grams()) : null));
  /** Salt that something joining late asks for. */
  protected readonly second = signal<number | null>(null);
  protected readonly others = computed(() =>
    (this.making.data()?.batches ?? []).filter((batch) => batch.batchId !== this.batchId()).slice(0, 4),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);

  /** The chosen step; the salt when a figure for it was sent here; or the first that is open. Null: the end. */
  protected readonly now = computed((): SheetStepReply | null => {
    const batch = this.batch();
    if (!batch || this.chosen() === 'end') return null;
    const steps = batch.steps;
    return (
      steps.find((step) => step.key === this.chosen()) ??
      (this.proposed() !== null && batch.salt.inGrams === 0 ? steps.find((step) => step.key === 'salt') : undefined) ??
      (batch.closedAt ? null : steps.find((step) => step.state === 'open' || step.state === 'begun')) ??
      null
    );
  });
  constructor() {
    // The step in hand stays in sight in a long outline.
    const outline = inject<ElementRef<HTMLElement>>(ElementRef);
    // A new step opens at its title.
    const step = computed(() => this.now()?.key ?? 'end');
    effect(() => {
      step();
      outline.nativeElement.querySelector('.main')?.scrollTo({ top: 0 });
    });
    afterRenderEffect(() => {
      this.now();
      // On a phone it stands below the step, and is not brought up over it.
      if (matchMedia('(min-width: 1001px)').matches)
        outline.nativeElement.querySelector('.step.on')?.scrollIntoView({ block: 'nearest' });
    });
  }

  protected readonly checked = linkedSignal<string | null, readonly string[]>({
    source: computed(() => this.now()?.key ?? null),
    computation: () => [],
  });
  protected readonly preparing = linkedSignal({
    source: computed(() => this.now()?.key ?? null),
    computation: () => false,
  });
  /** A formula without a step for preparations can want one all the same. */
  protected readonly mayPrepare = computed(
    () =>
      (this.now()?.station === 'flavour' || this.now()?.station === 'starter') &&
      this.batch()!.closedAt === null &&
      !this.batch()!.steps.some((step) => step.station === 'prepare'),
  );
  /** What cannot be taken back asks its questions before, not after. */
  protected readonly before = computed(() => this.now()?.station === 'fill');
  protected readonly waits = computed(
    () =>
      this.before() &&
      this.now()!.by === null &&
      this.batch()!.fills.length === 0 &&
      this.now()!.checks.some((check) => !this.checked().includes(check.key)),
  );

  protected readonly figures = computed(() =>
    Object.fromEntries((this.batch()?.steps ?? []).map((step) => [step.key, this.figure(step)])),
  );

  private figure(step: SheetStepReply): string {
    const b = this.batch()!;
    switch (step.key) {
      case 'weigh':
        return b.produceGrams > 0 ? formatGrams(b.produceGrams) : '';
      case 'water':
        return b.brine ? formatGrams(b.brine.waterGrams) : '';
      case 'salt':
        return b.salt.targetGrams > 0 ? inOf(b.salt.inGrams, b.salt.targetGrams) : '';
      case 'flavour':
      case 'starter':
        return '';
      case 'fill':
        return b.fills.length > 0 ? `${b.fills.length}` : '';
      default:
        return step.labourMinutes ? `${Math.round(step.labourMinutes)} min` : '';
    }
  }

  /** To the next that is open, wherever it stands. */
  protected goOn(): void {
    const batch = this.batch();
    const at = batch?.steps.findIndex((step) => step.key === this.now()?.key) ?? -1;
    this.chosen.set(batch?.steps[at + 1]?.key ?? 'end');
  }

  /** As they stood when the batch was started. */
  protected readonly rules = computed(() =>
    HOUSE_RULES.flatMap((rule) => {
      const chosen = rule.options.find((one) => one.key === this.batch()?.rules[rule.key]);
      return chosen ? [{ question: rule.question, words: chosen.words }] : [];
    }),
  );

  protected secondDose(grams: number): void {
    this.second.set(grams);
    this.chosen.set('salt');
  }
}

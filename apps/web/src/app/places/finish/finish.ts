import { Component, computed, effect, ElementRef, inject, input, linkedSignal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { FINISH_PART_WORDS, FINISH_WORDS, formatPercent } from '@clear-tally/core';
import type { FinishReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { SaltRuler } from '../../ui/salt-ruler';
import { Waiting } from '../../ui/waiting';
import { ReadingForm } from '../lots/reading-form';
import type { SheetOf, SheetStep } from '../make/sheet-of';
import { StepEnd } from '../make/step-end';
import { StepHead } from '../make/step-head';
import { StepOutline } from '../make/step-outline';
import { PackNav } from '../pack/pack-nav';
import { AddStep } from './add-step';
import { BalanceStep } from './balance-step';
import { BrineStep } from './brine-step';
import { DryStep } from './dry-step';
import { JuiceForm } from './juice-form';
import { LossForm } from './loss-form';
import { mass } from './mass';

/** Stations where something is poured or dusted in. */
const ADDS: ReadonlySet<string> = new Set(['pour', 'blend', 'vinegar', 'season', 'thicken', 'syrup']);

/** The sheet of a finish: one step at a time, the way there beside it, and what it comes to so far. */
@Component({
  selector: 'ct-finish',
  imports: [
    AddStep,
    BalanceStep,
    BrineStep,
    DryStep,
    JuiceForm,
    LossForm,
    Mark,
    PackNav,
    ReadingForm,
    RouterLink,
    SaltRuler,
    StepEnd,
    StepHead,
    StepOutline,
    Waiting,
  ],
  templateUrl: './finish.html',
  styleUrl: './finish.less',
})
export class Finish {
  readonly code = input.required<string>();
  readonly step = input<string>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly read = shown<FinishReply>(computed(() => `/api/finishes/${encodeURIComponent(this.code())}`));
  protected readonly words = FINISH_WORDS;
  protected readonly partWords = { ...FINISH_PART_WORDS, product: 'Drained' };
  protected readonly mass = mass;
  protected readonly percent = formatPercent;
  protected readonly chosen = linkedSignal<string | null>(() => (this.code(), this.step() ?? null));
  protected readonly checked = linkedSignal<string | null, readonly string[]>({
    source: computed(() => this.now()?.key ?? null),
    computation: () => [],
  });

  protected readonly sheet = computed((): SheetOf | null => {
    const of = this.read.data();
    return of
      ? {
          batchId: of.lotId,
          closedAt: of.closedAt,
          steps: of.steps.map((step) => ({ ...step, station: step.key })),
        }
      : null;
  });
  protected readonly now = computed((): SheetStep | null => {
    const steps = this.sheet()?.steps ?? [];
    return (
      steps.find(({ key }) => key === this.chosen()) ??
      steps.find(({ state }) => state === 'open' || state === 'begun') ??
      steps.at(-1) ??
      null
    );
  });
  protected readonly adds = computed(() => ADDS.has(this.now()?.key ?? ''));
  /** The first thing that keeps it from being packed. */
  protected readonly gateSays = computed(() => this.read.data()?.gate.find(({ says }) => says !== null)?.says ?? null);
  protected readonly living = computed(() => this.read.data()?.sources.filter(({ closed }) => !closed) ?? []);

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    const key = computed(() => this.now()?.key ?? '');
    // A new step opens at its title.
    effect(() => {
      key();
      const main = host.nativeElement.querySelector('.main');
      main?.scrollTo({ top: 0 });
      // On a phone the outline stands below the work.
      if (matchMedia('(max-width: 1000px)').matches) main?.scrollIntoView({ block: 'start' });
    });
  }

  protected readonly figures = computed(() =>
    Object.fromEntries((this.read.data()?.steps ?? []).map(({ key }) => [key, this.figure(key)])),
  );

  private figure(key: string): string {
    const of = this.read.data()!;
    const sum = (as: string): number =>
      of.parts.filter((part) => part.as === as).reduce((total, { grams }) => total + grams, 0);
    const grams = {
      drain: of.productGrams,
      pour: sum('brine'),
      blend: sum('brine'),
      vinegar: sum('vinegar'),
      thicken: sum('thickener'),
      syrup: sum('sweet'),
      dry: of.dried?.leftGrams ?? 0,
    }[key];
    if (key === 'read') return of.lastPh === null ? '' : `pH ${of.lastPh.toFixed(2)}`;
    return grams ? mass(grams) : '';
  }

  /** To the next one, wherever the work stands. */
  protected goOn(): void {
    const steps = this.sheet()?.steps ?? [];
    const at = steps.findIndex(({ key }) => key === this.now()?.key);
    this.chosen.set(steps[at + 1]?.key ?? steps.at(-1)?.key ?? null);
  }
}

import { Component, computed, inject, input, signal } from '@angular/core';
import { Router } from '@angular/router';
import {
  BASIS_WORDS, chainFromTrimmed, formatGrams, formatPercent, saltBand, saltOnAllBases, SALT_BANDS, scaleFormula, splitGrams, type JarOrder, type ScalableFormula, type ScaledLine, type ScaleTarget, type Working,
} from '@clear-tally/core';
import type { FormulaReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { CountInput } from '../../ui/count-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { SaltRuler } from '../../ui/salt-ruler';
import { Waiting } from '../../ui/waiting';
import { WorkingShower } from '../../ui/working-shower';

/** A formula and its scaling bench: from jars or from a trimmed mass; each figure opens its working. */
@Component({
  selector: 'ct-formula',
  imports: [CountInput, QuantityInput, Refusal, SaltRuler, Waiting, WorkingShower],
  templateUrl: './formula.html',
  styles: `
    .wide { width: 220px; } .book td { padding-block: 4px; }
    .open { border: 0; background: none; padding: 0; min-height: 32px; font: 700 20px var(--figures); border-bottom: 2px dotted var(--soft); }
    .open[aria-pressed='true'] { color: var(--brine); border-bottom: 2px solid var(--brine); }
    .salt td { background: var(--brine-wash); }
    .reason { display: grid; gap: 6px; }
  `,
})
export class Formula {
  readonly formulaId = input.required<string>();
  private readonly router = inject(Router);
  protected readonly read = shown<FormulaReply>(computed(() => `/api/formulas/${this.formulaId()}`));
  protected readonly formula = this.read.data;

  protected readonly from = signal<'jars' | 'trimmed'>('jars');
  protected readonly counts = signal<Readonly<Record<number, number | null>>>({});
  protected readonly trimmed = signal<number | null>(null);
  protected readonly opened = signal<string>('salt');
  protected readonly weakReason = signal('');

  protected readonly start = recordingForm('batch.start', () => void this.router.navigate(['/make', this.startedId]));
  private startedId = '';

  private readonly scalable = computed((): ScalableFormula | null => {
    const formula = this.formula();
    return formula && ({ ...formula, lines: formula.lines as unknown as ScalableFormula['lines'] });
  });
  protected readonly target = computed((): ScaleTarget | null => {
    const formula = this.formula();
    if (!formula) return null;
    if (this.from() === 'trimmed') {
      const trimmedGrams = this.trimmed();
      return trimmedGrams ? { from: 'trimmed', trimmedGrams } : null;
    }
    const jars = formula.jarSizes.flatMap(({ sizeMl, fillGrams }): JarOrder[] => {
      const count = this.counts()[sizeMl];
      return count ? [{ sizeMl, fillGrams, count }] : [];
    });
    return jars.length > 0 ? { from: 'jars', jars } : null;
  });
  protected readonly scaled = computed(() => {
    const formula = this.scalable();
    const target = this.target();
    return formula && target ? scaleFormula({ formula, target }) : null;
  });
  protected readonly lines = computed(() => (this.scaled()?.lines ?? []).map((line) => ({ ...line, ...splitGrams(line.grams), counted: this.countedOn(line) })));
  protected readonly working = computed((): Working | null => {
    const scaled = this.scaled();
    if (!scaled) return null;
    if (this.opened() === 'bought') return scaled.workings.bought;
    if (this.opened() === 'trimmed') return scaled.workings.trimmed;
    if (this.opened() === 'wps') return scaled.workings.waterPhaseSalt;
    return scaled.lines.find((line) => line.key === this.opened())?.working ?? scaled.workings.salt;
  });
  protected readonly openedName = computed(() => ({ bought: 'to buy', trimmed: 'trimmed', wps: 'in the water phase' })[this.opened()] ?? this.scaled()?.lines.find((line) => line.key === this.opened())?.name ?? '');
  protected readonly wps = computed(() => this.scaled()?.waterPhaseSalt ?? null);
  protected readonly band = computed(() => (this.wps() === null ? null : SALT_BANDS.find(({ band }) => band === saltBand(this.wps()!))!));
  protected readonly otherwise = computed(() => {
    const scaled = this.scaled();
    if (!scaled) return '';
    const all = saltOnAllBases({ vegetableGrams: scaled.produceGrams, waterGrams: scaled.waterGrams, saltGrams: scaled.saltGrams });
    return (['ofVegetable', 'ofWater', 'ofSolution', 'ofEverything'] as const).filter((basis) => all[basis] !== null).map((basis) => `${formatPercent(all[basis]!)} ${BASIS_WORDS[basis]}`).join(' · ');
  });
  protected readonly yieldsJars = computed(() => {
    const formula = this.formula();
    const scaled = this.scaled();
    if (!formula || !scaled || this.from() === 'jars') return '';
    const { filledGrams } = chainFromTrimmed({ trimmedGrams: scaled.produceGrams, solidsFraction: formula.solidsFraction, yields: formula.yields });
    const size = formula.jarSizes[0]!;
    return `about ${Math.floor(filledGrams / size.fillGrams)} jars of ${size.sizeMl} mL`;
  });
  protected readonly allergens = computed(() => [...new Set(this.formula()?.lines.flatMap((line) => line.allergens) ?? [])]);
  protected readonly mass = formatGrams;
  protected readonly percent = formatPercent;

  protected setCount(sizeMl: number, count: number | null): void {
    this.counts.update((counts) => ({ ...counts, [sizeMl]: count }));
    this.start.edited();
  }

  protected begin(): void {
    const formula = this.formula();
    const plan = this.target();
    if (!formula || !plan) return;
    this.startedId = newId();
    this.start.record(this.start.entry('batch.start', {
      batchId: this.startedId, formulaId: formula.formulaId, version: formula.version, plan: plan as never, ...(this.weakReason().trim() ? { weakSaltReason: this.weakReason().trim() } : {}),
    }));
  }

  private countedOn(line: ScaledLine): string {
    const formula = this.formula()!;
    if (line.role === 'salt') return `${formatPercent(formula.saltFraction, 1)} ${BASIS_WORDS[formula.saltBasis]}`;
    if (line.role === 'water') return `${formula.waterPerProduce} of the produce`;
    return line.working.sources[0]?.what ?? '';
  }
}

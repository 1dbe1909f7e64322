import { Component, computed, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams, saltAtScale, HOUSE_RULES } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Waiting } from '../../ui/waiting';
import { FillStep } from './fill-step';
import { IngredientStep } from './ingredient-step';
import { ProduceStep } from './produce-step';
import { SaltStep } from './salt-step';
import { WaterStep } from './water-step';

type StepKey = 'produce' | 'water' | 'salt' | 'ingredients' | 'fill';
interface Step { readonly key: StepKey; readonly name: string; readonly figure: string; readonly done: boolean }

/** A batch on the bench: the steps in the order of work beside the one in hand. */
@Component({
  selector: 'ct-bench',
  imports: [FillStep, IngredientStep, Mark, ProduceStep, RouterLink, SaltStep, Waiting, WaterStep],
  template: `
    @if (batch(); as b) {
      <div class="page with-outline">
        <div class="outline stack">
          <div><p class="figure soft"><b>{{ b.code }}</b></p><h2 style="color: var(--ink); font-size: 21px">{{ b.formula.name }}</h2><p class="soft small">formula {{ b.formula.number }}, version {{ b.formula.version }} · planned {{ mass(b.planned.trimmedGrams) }}{{ b.variant ? ' · ' + b.variant : '' }}</p></div>
          <ol>
            @for (step of steps(); track step.key) {
              <li><button type="button" class="step" [class.on]="now() === step.key" [attr.aria-current]="now() === step.key ? 'step' : null" (click)="chosen.set(step.key)">
                @if (step.done) { <ct-mark kind="met" /> } @else { <i></i> }<span>{{ step.name }}</span><span class="figure">{{ step.figure }}</span>
              </button></li>
            }
          </ol>
          @if (b.fills.length > 0) {
            <div class="rule stack"><h2>Filled</h2>
              @for (fill of b.fills; track fill.lotId) { <a [routerLink]="['/lots', fill.code]" class="figure">{{ fill.code }} · {{ mass(fill.grams) }}</a> }
            </div>
          }
          <details class="small"><summary>House rules in force</summary>@for (rule of rules(); track rule.question) { <p class="in-force"><b>{{ rule.question }}</b><br />{{ rule.words }}</p> }</details>
          <p class="small soft">In the bowls: <b class="figure">{{ mass(b.inBowlsGrams) }}</b></p>
        </div>
        <div class="main">
          @switch (now()) {
            @case ('produce') { <ct-produce-step [batch]="b" (done)="chosen.set(null)" /> }
            @case ('water') { <ct-water-step [batch]="b" (done)="chosen.set(null)" /> }
            @case ('salt') { <ct-salt-step [batch]="b" [proposed]="proposed()" (done)="chosen.set(null)" (step)="chosen.set($event)" /> }
            @case ('ingredients') { <ct-ingredient-step [batch]="b" (done)="chosen.set('fill')" /> }
            @case ('fill') { <ct-fill-step [batch]="b" /> }
          }
        </div>
      </div>
    } @else { <div class="page"><div class="main"><ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" /></div></div> }
  `,
  styles: `
    summary { cursor: pointer; padding: 6px 0; } .in-force { padding: 4px 0; border-bottom: 1px solid var(--hair); }
    .step { width: 100%; display: grid; grid-template-columns: 22px 1fr auto; gap: 10px; align-items: center; justify-items: start; border: 0; border-bottom: 1px solid var(--hair); background: none; min-height: 54px; padding: 0 10px; font-weight: 600; text-align: left; }
    .step .figure { font-weight: 500; font-size: 16px; } .step.on { background: var(--ink); color: #fff; } .step i { width: 3px; height: 16px; background: var(--hair); justify-self: center; }
  `,
})
export class Bench {
  readonly batchId = input.required<string>();
  /** Salt worked out elsewhere, put on the scale's field. */
  readonly grams = input<string>();
  protected readonly read = shown<MakeReply>(computed(() => `/api/making/${this.batchId()}`));
  protected readonly batch = this.read.data;
  protected readonly chosen = signal<StepKey | null>(null);
  protected readonly proposed = computed(() => (Number(this.grams()) > 0 ? Number(this.grams()) : null));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected readonly steps = computed((): Step[] => {
    const b = this.batch();
    if (!b) return [];
    const { salt } = b;
    const brined = b.formula.waterPerProduce > 0;
    const inTolerance = salt.targetGrams > 0 && saltAtScale({ saltGrams: salt.inGrams, targetGrams: salt.targetGrams, tolerance: salt.tolerance }).verdict === 'in';
    return [
      // Every produce of the formula is weighed at least once.
      { key: 'produce', name: 'Weigh trimmed produce', figure: formatGrams(b.produceGrams), done: b.produce.length > 0 && b.formula.produce.every((part) => b.produce.some((row) => row.materialName === part.name)) },
      ...(brined ? [{ key: 'water' as const, name: 'Water for the brine', figure: formatGrams(b.brine?.waterGrams ?? 0), done: (b.brine?.waterGrams ?? 0) >= b.plannedWaterGrams * 0.999 && b.plannedWaterGrams > 0 }] : []),
      { key: 'salt', name: 'Weigh the salt', figure: salt.targetGrams > 0 ? `${formatGrams(salt.inGrams)} of ${formatGrams(salt.targetGrams)}` : formatGrams(salt.inGrams), done: inTolerance || salt.accepted !== null },
      { key: 'ingredients', name: 'Flavourings, starter', figure: `${b.ingredients.length}`, done: b.formula.lines.length > 0 && b.planned.lines.filter((line) => line.role === 'ingredient' && (line.grams ?? 0) > 0).every((line) => b.ingredients.some((row) => row.materialName === line.name)) },
      { key: 'fill', name: 'Fill vessels', figure: `${b.fills.length}`, done: b.fills.length > 0 && b.inBowlsGrams <= b.produceGrams * 0.02 },
    ];
  });
  /** As they stood when the batch was started. */
  protected readonly rules = computed(() => HOUSE_RULES.flatMap((rule) => { const chosen = rule.options.find((one) => one.key === this.batch()?.rules[rule.key]); return chosen ? [{ question: rule.question, words: chosen.words }] : []; }));
  /** The chosen step; the salt when a figure for it was sent here; or the first that is not done. */
  protected readonly now = computed((): StepKey => this.chosen() ?? (this.proposed() !== null && this.batch()?.salt.inGrams === 0 ? 'salt' : null) ?? this.steps().find((step) => !step.done)?.key ?? 'fill');
}

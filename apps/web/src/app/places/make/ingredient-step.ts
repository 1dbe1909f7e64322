import { Component, computed, input, output, signal, viewChild } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply, PackableReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { supplyChoices } from './supply-choices';
import { WeighedList } from './weighed-list';

/** Flavourings, and kept brine from an earlier vessel. */
@Component({
  selector: 'ct-ingredient-step',
  imports: [Choice, Mark, QuantityInput, Refusal, WeighedList],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <h1>Flavourings, starter</h1>
      <ul class="row">
        @for (line of wanted(); track line.key) { <li><ct-mark [kind]="line.done ? 'met' : 'due'">{{ line.name }} <b class="figure">{{ line.grams }}</b></ct-mark></li> }
      </ul>
      <ct-choice label="From lot" [options]="options()" [(chosen)]="lotId" (edited)="form.edited()" />
      <div class="row">
        <ct-quantity label="On the scale" [what]="'this ingredient'" [(grams)]="grams" [refusal]="form.problemAt('grams')" (edited)="form.edited()" />
        <button class="go" [disabled]="!lotId() || !grams() || form.saving()">Record {{ grams() ? mass(grams()!) : '' }}</button>
        <button type="button" (click)="done.emit()">Go on to filling</button>
      </div>
      <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
    </form>
    <div style="margin-top: 22px"><ct-weighed-list [rows]="batch().ingredients" /></div>
  `,
  styles: 'li { min-width: 200px; }',
})
export class IngredientStep {
  readonly batch = input.required<MakeReply>();
  readonly done = output();
  private readonly field = viewChild(QuantityInput);
  protected readonly lotId = signal<string | null>(null);
  protected readonly grams = signal<number | null>(null);
  protected readonly form = recordingForm('ingredient.add', () => {
    this.field()?.clear();
    this.lotId.set(null);
  });
  private readonly flavourings = supplyChoices(signal('/api/supplies?kind=flavouring'));
  private readonly live = shown<PackableReply>(signal('/api/packable'));
  protected readonly options = computed(() => {
    const names = new Set(this.batch().formula.lines.map((line) => line.name));
    const own = [...this.flavourings.options()].sort((a, b) => Number(isOf(b.label, names)) - Number(isOf(a.label, names)));
    const kept = (this.live.data()?.fills ?? []).filter((fill) => fill.batchCode !== this.batch().code).map((fill) => ({
      id: fill.lotId, label: `Kept brine from ${fill.code}`, disabled: fill.refusal !== null, detail: `${fill.name} · ${fill.refusal ?? `pH ${fill.lastPh?.toFixed(2)}`}`,
    }));
    return [...own, ...kept];
  });
  protected readonly wanted = computed(() => this.batch().planned.lines.filter((line) => line.role === 'ingredient' && line.grams !== null).map((line) => ({
    key: line.key, name: line.name, grams: formatGrams(line.grams! * this.actualOverPlan()), done: this.batch().ingredients.some((row) => row.materialName === line.name),
  })));
  protected readonly mass = (grams: number): string => formatGrams(grams);
  /** Flavourings follow what was really weighed, as the salt does. */
  private readonly actualOverPlan = computed(() => (this.batch().produceGrams > 0 ? this.batch().produceGrams / this.batch().planned.trimmedGrams : 1));

  protected record(): void {
    if (this.lotId() && this.grams()) this.form.record(this.form.entry('ingredient.add', { batchId: this.batch().batchId, fromLotId: this.lotId()!, grams: this.grams()! }));
  }
}

const isOf = (label: string, names: ReadonlySet<string>): boolean => [...names].some((name) => label.endsWith(` ${name}`));

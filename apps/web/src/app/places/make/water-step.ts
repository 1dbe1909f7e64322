import { Component, computed, effect, input, output, signal, viewChild } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { supplyChoices } from './supply-choices';

/** House default: a little more brine than the vessel should take. Source: handbook 2.6. */
const BRINE_MARGIN = 0.08;

/** Water for the brine, by weight. */
@Component({
  selector: 'ct-water-step',
  imports: [Choice, QuantityInput, Refusal],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <h1>Water for the brine</h1>
      @if (batch().plannedWaterGrams > 0) {
        <p>The produce asks for <b class="figure">{{ mass(batch().plannedWaterGrams) }}</b> of water; with 8 % to spare that is <b class="figure">{{ mass(proposed()) }}</b>. What is left over fills airlocks and tops up.</p>
      } @else { <p class="note">Weigh the trimmed produce first: the brine follows what it has to cover.</p> }
      @if (batch().brine; as brine) { <p>Weighed so far: <b class="figure">{{ mass(brine.waterGrams) }}</b> in {{ brine.code }}.</p> }
      <ct-choice label="Water from" [options]="supplies.options()" [(chosen)]="lotId" (edited)="form.edited()" />
      <div class="row">
        <ct-quantity label="Water, on the scale" unit="kg" what="water" [gramsPerMl]="1" [(grams)]="water" [refusal]="form.problemAt('waterGrams')" (edited)="form.edited()" />
        <button class="go" [disabled]="!lotId() || !water() || form.saving()">Record {{ water() ? mass(water()!) : '' }} water</button>
        @if (batch().brine) { <button type="button" (click)="done.emit()">Go on to the salt</button> }
      </div>
      <ct-refusal [message]="form.problemAt('waterGrams') ? null : form.problem()" />
      <p class="note">Water without chlorine; brine meets the produce cool, at 30 °C or less, with no crystal left.</p>
    </form>
  `,
})
export class WaterStep {
  readonly batch = input.required<MakeReply>();
  readonly done = output();
  private readonly field = viewChild(QuantityInput);
  protected readonly lotId = signal<string | null>(null);
  protected readonly water = signal<number | null>(null);
  protected readonly form = recordingForm('brine.make', () => {
    this.field()?.clear();
    this.done.emit();
  });
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
    if (!this.lotId() || !this.water()) return;
    this.form.record(this.form.entry('brine.make', { brineLotId: this.batch().brine?.lotId ?? newId(), batchId: this.batch().batchId, waterLotId: this.lotId()!, waterGrams: this.water()! }));
  }
}

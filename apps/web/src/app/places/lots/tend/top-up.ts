import { Component, computed, input, signal } from '@angular/core';
import { formatGrams, formatPercent, topUp } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { Choice } from '../../../ui/choice';
import { QuantityInput } from '../../../ui/quantity-input';
import { Refusal } from '../../../ui/refusal';
import { supplyChoices } from '../../make/supply-choices';

/** What ran over or dried away, and the brine of the vessel's own strength that takes its place. Worked case W8. */
@Component({
  selector: 'ct-top-up',
  imports: [Choice, QuantityInput, Refusal],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <div class="choices" role="group" aria-label="What happened"><button type="button" [attr.aria-pressed]="how() === 'overflow'" (click)="how.set('overflow')">It ran over</button><button type="button" [attr.aria-pressed]="how() === 'evaporation'" (click)="how.set('evaporation')">It dried away</button></div>
      <ct-quantity label="Lost" [what]="how() === 'overflow' ? 'brine' : 'water'" [gramsPerMl]="1.02" [(grams)]="lost" [refusal]="form.problemAt('lostGrams')" (edited)="form.edited()" />
      @if (answer(); as a) {
        <p class="note">{{ how() === 'overflow' ? 'Salt went with it. ' : 'Only water is gone. ' }}In its place: <b class="figure">{{ a.saltGrams.toFixed(1) }} g</b> salt in <b class="figure">{{ mass(a.waterGrams) }}</b> water restores <b class="figure">{{ percent(a.before) }}</b> water-phase salt.@if (how() === 'overflow') { Plain water alone would give <b class="figure">{{ percent(a.withPlainWater) }}</b>. }</p>
        <div class="row">
          @if (a.saltGrams > 0) { <ct-choice style="flex: 1" label="Salt from" [options]="salts.options()" [(chosen)]="salt" /> }
          <ct-choice style="flex: 1" label="Water from" [options]="waters.options()" [(chosen)]="water" />
        </div>
        <div><button class="go" [disabled]="!water() || (a.saltGrams > 0 && !salt()) || form.saving()">Top up with {{ mass(a.saltGrams + a.waterGrams) }}</button></div>
      } @else if (phase() === null) { <p class="watch">What went into this vessel is not known, so neither is its strength. Measure its salt first.</p> }
      <ct-refusal [message]="form.problemAt('lostGrams') ? null : form.problem()" />
    </form>
  `,
})
export class TopUp {
  readonly lotId = input.required<string>();
  /** What stands in it. */
  readonly phase = input.required<{ saltGrams: number; waterGrams: number } | null>();
  protected readonly how = signal<'overflow' | 'evaporation'>('overflow');
  protected readonly lost = signal<number | null>(null);
  protected readonly salt = signal<string | null>(null);
  protected readonly water = signal<string | null>(null);
  protected readonly salts = supplyChoices(signal('/api/supplies?kind=salt'));
  protected readonly waters = supplyChoices(signal('/api/supplies?kind=water'));
  protected readonly form = recordingForm('top up', () => this.lost.set(null));
  protected readonly answer = computed(() => {
    const [phase, lost] = [this.phase(), this.lost()];
    return !phase || !lost || lost >= phase.saltGrams + phase.waterGrams ? null : topUp({ ...phase, lostGrams: lost, how: this.how() });
  });
  protected readonly mass = formatGrams;
  protected readonly percent = (value: number): string => formatPercent(value);

  protected record(): void {
    const answer = this.answer();
    if (!answer || !this.water()) return;
    const round = (grams: number): number => Math.round(grams * 10) / 10;
    this.form.record(this.form.entry('vessel.topUp', { lotId: this.lotId(), how: this.how(), lostGrams: this.lost()!, saltLotId: answer.saltGrams > 0 ? this.salt() : null, saltGrams: round(answer.saltGrams), waterLotId: this.water()!, waterGrams: round(answer.waterGrams) }));
  }
}

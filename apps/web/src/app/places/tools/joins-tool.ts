import { Component, computed, signal } from '@angular/core';
import { formatPercent, lateIngredient, sideWater } from '@clear-tally/core';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';

/** Something joins after the salt: a vegetable forgotten, a culture's water, a porridge. */
@Component({
  selector: 'ct-joins-tool',
  imports: [FigureInput, QuantityInput],
  template: `
    <div class="row">
      <ct-quantity label="Produce that is salted" what="the produce" [(value)]="produce" /><ct-figure
        label="Water in it"
        kind="percent"
        [least]="0.5"
        [most]="1"
        [(value)]="wet"
      /><ct-quantity label="Salt on it" what="the salt" [(value)]="salt" />
    </div>
    <div class="row">
      <ct-quantity label="What joins" what="what joins" [gramsPerMl]="1" [(value)]="joins" /><ct-figure
        label="Water in what joins"
        kind="percent"
        [least]="0"
        [most]="1"
        [(value)]="joinsWet"
      /><ct-figure label="Salt in what joins" kind="percent" [least]="0" [most]="1" [(value)]="joinsSalt" />
    </div>
    @if (answer(); as a) {
      <p class="answer">
        Water phase <b class="figure">{{ percent(a.before) }}</b> → <b class="figure">{{ percent(a.after) }}</b>
      </p>
      <p class="answer">
        @if (a.hold > 0) {
          To hold {{ percent(a.before) }} add <b class="figure">{{ a.hold.toFixed(1) }} g</b> salt.
        } @else {
          It brings salt enough; nothing to add.
        }
      </p>
      @if (a.dose > 0) {
        <p class="answer">
          By the rate of the first dose, {{ percent(a.rate) }} of the vegetable, a second dose is
          <b class="figure">{{ a.dose.toFixed(1) }} g</b>.
        </p>
      }
    }
  `,
})
export class JoinsTool {
  protected readonly produce = signal<number | null>(null);
  protected readonly wet = signal<number | null>(0.92);
  protected readonly salt = signal<number | null>(null);
  protected readonly joins = signal<number | null>(null);
  protected readonly joinsWet = signal<number | null>(1);
  protected readonly joinsSalt = signal<number | null>(0);
  protected readonly answer = computed(() => {
    const [produce, salt, joins] = [this.produce(), this.salt(), this.joins()];
    if (!produce || !salt || !joins || this.joinsWet() === null) return null;
    const parts = [{ grams: produce, waterFraction: this.wet() ?? 0.92 }];
    const late = { grams: joins, waterFraction: this.joinsWet()!, saltFraction: this.joinsSalt() ?? 0 };
    const { before, after, holdGrams } = sideWater({ saltGrams: salt, parts, joins: late });
    // Only a vegetable is salted by the vegetable's rate; water and sauces are not.
    const isProduce = this.joinsWet()! < 0.97 && !this.joinsSalt();
    return {
      before,
      after,
      hold: holdGrams,
      rate: salt / produce,
      dose: isProduce
        ? lateIngredient({ saltFraction: salt / produce, saltGrams: salt, parts, late }).secondDoseGrams
        : 0,
    };
  });
  protected readonly percent = formatPercent;
}

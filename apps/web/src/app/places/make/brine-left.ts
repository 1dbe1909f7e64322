import { Component, computed, input, linkedSignal, signal } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { keptChoice } from '../../state/kept-choice';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';

/** Brine made, poured, left over: three numbers. The left-over asks whether it met the product. Worked case W12. */
@Component({
  selector: 'ct-brine-left',
  imports: [Choice, QuantityInput, Refusal],
  template: `
    @if (brine(); as brine) {
      <div class="rule stack">
        <h2>Brine of {{ brine.code }}</h2>
        <p class="figure numbers"><span>made <b>{{ mass(brine.madeGrams) }}</b></span><span>poured <b>{{ mass(brine.madeGrams - brine.onHandGrams) }}</b></span><span>left <b>{{ mass(brine.onHandGrams) }}</b></span></p>
        @if (brine.touched === 'never') { <p class="note">What is left never touched the product: it fills airlocks, tops up, or goes into another batch.</p> }
        @else if (brine.onHandGrams > 20) {
          <form class="stack" (submit)="$event.preventDefault()">
            <p>Did what is left ever touch the product, or was it poured off it?</p>
            <div class="row">
              <ct-quantity label="Left, on the scale" unit="kg" what="the brine" [zero]="true" [gramsPerMl]="1.03" [(grams)]="grams" [refusal]="form.problemAt('grams')" (edited)="form.edited()" />
              @if (batch().fills.length > 1) { <ct-choice label="Poured off" [options]="fills()" [(chosen)]="fillId" /> }
            </div>
            <div class="row">
              <button type="button" [disabled]="grams() === null || form.saving()" (click)="answer('never')">It never touched it</button>
              <button type="button" [disabled]="grams() === null || !fillId() || form.saving()" (click)="answer('pouredOff')">Poured off it: keep as kept brine</button>
            </div>
            <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
          </form>
        }
      </div>
    }
  `,
  styles: '.numbers { display: flex; gap: 28px; } .numbers b { font-size: 20px; }',
})
export class BrineLeft {
  readonly batch = input.required<MakeReply>();
  protected readonly form = recordingForm('brine.left');
  protected readonly brine = computed(() => this.batch().preparations.find((row) => row.form === 'brine') ?? null);
  protected readonly grams = linkedSignal<number | null, number | null>({ source: computed(() => this.brine()?.onHandGrams ?? null), computation: (left) => (left === null ? null : Math.round(left)) });
  protected readonly fills = computed(() => this.batch().fills.map((fill) => ({ id: fill.lotId, label: fill.code })));
  protected readonly fillId = keptChoice(this.fills, (fills) => (fills.length === 1 ? fills[0]!.id : null));
  protected readonly mass = (grams: number): string => formatGrams(grams);
  private readonly keptLotId = signal(newId());

  protected answer(touched: 'never' | 'pouredOff'): void {
    const off = touched === 'pouredOff';
    this.form.record(this.form.entry('brine.left', { brineLotId: this.brine()!.lotId, grams: this.grams()!, touched, fillLotId: off ? this.fillId() : null, keptLotId: off ? this.keptLotId() : null }));
  }
}

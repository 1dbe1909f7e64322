import { Component, computed, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams, type SaltBasis } from '@clear-tally/core';
import type { MakingReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';

/** Sends a result on: into a new formula, or as the salt of a batch that stands on the bench. */
@Component({
  selector: 'ct-send',
  imports: [RouterLink],
  template: `
    <p class="row">
      @if (fraction(); as p) {
        <a
          class="button"
          [routerLink]="['/formulas/new']"
          [queryParams]="{ salt: p * 100 + ' %', basis: basis(), water: water() }"
          >Into a new formula</a
        >
      }
      @if (grams(); as g) {
        @for (batch of batches(); track batch.batchId) {
          <a class="button" [routerLink]="['/make', batch.batchId]" [queryParams]="{ grams: round(g) }"
            >{{ mass(g) }} salt to {{ batch.code }}</a
          >
        }
      }
    </p>
  `,
})
export class Send {
  readonly fraction = input<number | null>(null);
  readonly basis = input<SaltBasis>('ofVegetable');
  /** Water per produce, in the editor's words. */
  readonly water = input<string | null>(null);
  readonly grams = input<number | null>(null);
  private readonly making = shown<MakingReply>(signal('/api/making'));
  protected readonly batches = computed(() =>
    (this.making.data()?.batches ?? []).filter((batch) => batch.stage === 'forSalt').slice(0, 3),
  );
  protected readonly round = (grams: number): number => Math.round(grams * 10) / 10;
  protected readonly mass = (grams: number): string => formatGrams(grams);
}

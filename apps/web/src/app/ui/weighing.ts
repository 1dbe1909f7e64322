import { Component, computed, input } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import { injectBenchUnit, injectDecimalMark } from '../state/house';
import type { LiveScale } from '../state/scale';

/** Where a mass stands against what is wanted of it. */
export type Standing = 'none' | 'under' | 'in' | 'over';

/**
 * What is weighed now, to be read at arm's length: the figure, what it means, and the button that records it. Each has
 * its place whatever the figure does, at every weighing the same.
 */
@Component({
  selector: 'ct-weighing',
  template: `
    <p class="big figure" [class.kilo]="ownUnit() === 'kg'" aria-hidden="true">
      {{ figure() }}<small> {{ ownUnit() }}</small>
    </p>
    <p class="means" [class]="grams() ? standing() : 'none'" role="status">{{ said() }}</p>
    <div class="deed"><ng-content /></div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: max-content minmax(160px, 1fr) auto;
      gap: 4px 26px;
      align-items: center;
      min-height: 84px;
    }
    .big {
      font: 700 76px/1 var(--figures);
      font-variant-numeric: tabular-nums slashed-zero;
      white-space: nowrap;
      min-width: 6.4ch;
    }
    .big.kilo {
      min-width: 7.2ch;
    }
    .big small {
      font-size: 34px;
    }
    .means {
      font-size: 26px;
      line-height: 1.2;
      font-weight: 700;
    }
    .means.none {
      font-size: 19px;
      font-weight: 400;
      color: var(--soft);
    }
    .under {
      color: var(--mustard);
    }
    .in {
      color: var(--brine);
    }
    .over {
      color: var(--beet);
    }
    .deed {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      justify-content: flex-end;
      max-width: 360px;
    }
    :host ::ng-deep .deed button.go,
    :host ::ng-deep .deed button.stern {
      min-height: 72px;
      font-size: 20px;
      padding: 0 26px;
    }
    @media (max-width: 1000px) {
      :host {
        grid-template-columns: minmax(0, 1fr);
      }
      .big {
        font-size: 56px;
      }
      .deed {
        justify-content: flex-start;
        max-width: none;
      }
    }
  `,
})
export class Weighing {
  readonly scale = input.required<LiveScale>();
  /** What is on the scale, or was typed, grams. */
  readonly grams = input.required<number | null>();
  readonly unit = input<'g' | 'kg'>('g');
  /** What is weighed, where nothing lies on the scale yet: "Put salt on the scale …". */
  readonly what = input('it');
  readonly standing = input<Standing>('none');
  /** What the figure means against what is wanted; nothing where nothing is. */
  readonly words = input<string | null>(null);
  private readonly mark = injectDecimalMark();
  private readonly bench = injectBenchUnit();
  protected readonly ownUnit = computed(() => this.bench(this.unit()));

  protected readonly figure = computed(() => {
    const grams = this.grams() ?? 0;
    // As many digits as kitchens' scales show: a bench scale's grams, a floor scale's tens of grams.
    const text =
      this.ownUnit() === 'g' ? String(Math.round(grams * 10) / 10) : (grams / 1000).toFixed(grams < 100_000 ? 2 : 1);
    return this.mark() === 'comma' ? text.replace('.', ',') : text;
  });
  protected readonly said = computed(() => {
    if (this.grams()) return this.words() ?? '';
    return this.scale().isTaken()
      ? this.scale().why()
      : `Put ${this.what()} on the scale, or type ${this.what() === 'it' ? 'the' : 'its'} weight.`;
  });
}

/** The words of a mass against its target: how much more, in, or how much too much. */
export function standingWords(at: { verdict: 'under' | 'in' | 'over'; toTargetGrams: number }, wanted: string): string {
  if (at.verdict === 'in') return `in: ${wanted} wanted`;
  return at.verdict === 'under'
    ? `${formatGrams(at.toTargetGrams)} more`
    : `${formatGrams(-at.toTargetGrams)} over: take it out`;
}

import { Component, computed, input } from '@angular/core';
import { formatGrams, type SaltAtScale } from '@clear-tally/core';

/** Weighing as a horizontal beam with the target band in the middle: the mass moves it. */
@Component({
  selector: 'ct-beam',
  template: `
    <svg viewBox="0 0 800 150" width="100%" role="img" [attr.aria-label]="words()">
      <rect x="330" y="22" width="140" height="116" fill="var(--brine-wash)" />
      <path d="M330 22v116M470 22v116" stroke="var(--brine)" stroke-width="2" />
      <text x="400" y="16" text-anchor="middle" class="band">{{ band() }}</text>
      <g class="turn" [style.transform]="'rotate(' + tilt() + 'deg)'">
        <rect x="40" y="83" width="720" height="6" fill="var(--ink)" />
        @for (tick of ticks; track tick) {
          <path
            [attr.d]="'M' + (40 + tick * 36) + ' 84v' + (tick % 5 === 0 ? -18 : -9)"
            stroke="var(--ink)"
            stroke-width="1.5"
          />
        }
        <g class="slide" [style.transform]="'translateX(' + place() + 'px)'">
          <path d="M-20 90h40l3 16q-8 14 -23 14t-23 -14z" fill="var(--ink)" />
          <path
            d="M0 58l9 15h-18z"
            [attr.fill]="
              at().verdict === 'in' ? 'var(--brine)' : at().verdict === 'under' ? 'var(--mustard)' : 'var(--beet)'
            "
          />
        </g>
      </g>
      <path d="M400 92l22 50h-44zM350 143h100" fill="var(--ink)" stroke="var(--ink)" stroke-width="4" />
    </svg>
  `,
  styles:
    ':host { display: block; } svg { max-height: 132px; } .band { font: 700 17px var(--figures); fill: var(--brine); } .turn { transform-origin: 400px 86px; } .turn, .slide { transition: transform 0.25s; }',
})
export class Beam {
  readonly at = input.required<SaltAtScale>();
  /** Grams already in, of the same target. */
  readonly already = input(0);

  protected readonly ticks = Array.from({ length: 21 }, (_, i) => i);
  protected readonly band = computed(
    () =>
      `${formatGrams(Math.max(0, this.at().leastGrams - this.already()))} – ${formatGrams(Math.max(0, this.at().mostGrams - this.already()))}`,
  );
  // The band spans 70 px either side; the tolerance is its half width.
  private readonly offset = computed(() => {
    const { deviation, leastGrams, mostGrams } = this.at();
    const tolerance = (mostGrams - leastGrams) / (mostGrams + leastGrams);
    return (deviation / tolerance) * 70;
  });
  protected readonly place = computed(() => 400 + Math.max(-330, Math.min(330, this.offset())));
  /** A pan too light stands high. */
  protected readonly tilt = computed(() => Math.max(-5, Math.min(5, -this.offset() / 40)));
  protected readonly words = computed(() => `Beam: ${this.at().verdict}. Target band ${this.band()}`);
}

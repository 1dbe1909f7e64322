import { Component, computed, input } from '@angular/core';
import { formatPercent, saltBand, SALT_BANDS } from '@clear-tally/core';

const END = 0.09;
const WIDTH = 800;
const x = (fraction: number): number => (Math.min(END, Math.max(0, fraction)) / END) * WIDTH;
const FILLS = {
  weak: 'var(--beet-wash)',
  caution: 'var(--mustard-wash)',
  usual: 'var(--brine-wash)',
  slow: 'var(--mustard-wash)',
  stalls: 'var(--steel-wash)',
} as const;
const NAMES = { weak: 'weak', caution: '', usual: 'usual', slow: 'slow', stalls: 'stalls' } as const;

/** All schools on one water-phase ruler: the house's bands, this batch, the last lots. */
@Component({
  selector: 'ct-salt-ruler',
  template: `
    <svg
      [attr.viewBox]="short() ? '-8 8 816 78' : '-8 0 816 78'"
      width="100%"
      role="img"
      [class.short]="short()"
      [attr.aria-label]="words()"
    >
      @for (band of bands; track band.name) {
        <rect [attr.x]="band.from" y="28" [attr.width]="band.to - band.from" height="20" [attr.fill]="band.fill" />
        <text [attr.x]="(band.from + band.to) / 2" y="43" text-anchor="middle" class="name">{{ band.label }}</text>
      }
      <path d="M0 48H800" stroke="var(--ink)" stroke-width="1.6" />
      @for (tick of ticks; track tick) {
        <path [attr.d]="'M' + at(tick / 100) + ' 48v8'" stroke="var(--ink)" />
        <text [attr.x]="at(tick / 100)" [attr.y]="short() ? 80 : 72" text-anchor="middle" class="tick">{{ tick }}</text>
      }
      @for (past of past(); track $index) {
        <path [attr.d]="'M' + at(past) + ' 20v8'" stroke="var(--soft)" stroke-width="1.6" />
      }
      @if (now(); as value) {
        <path [attr.d]="'M' + at(value) + ' 14v36'" stroke="var(--brine)" stroke-width="3.5" />
        @if (!short()) {
          <text [attr.x]="at(value) + 8" y="16" class="this">{{ label() }}</text>
        }
      }
    </svg>
  `,
  styles:
    ':host { display: block; } .name, .tick { font: 500 13px var(--text); fill: var(--soft); } .tick { font-family: var(--figures); } svg.short .name { display: none; } svg.short .tick { font-size: 26px; } .this { font: 700 16px var(--text); fill: var(--brine); }',
})
export class SaltRuler {
  /** Water-phase salt of this batch, a fraction. */
  readonly now = input<number | null>(null);
  readonly past = input<readonly number[]>([]);
  readonly subject = input('this batch');
  /** On a narrow page the mark stands without its words, which stand beside the ruler there. */
  readonly short = input(false);

  protected readonly at = x;
  protected readonly ticks = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9];
  protected readonly bands = SALT_BANDS.map(({ band, from }, index) => ({
    name: band,
    label: NAMES[band],
    fill: FILLS[band],
    from: x(from),
    to: x(SALT_BANDS[index + 1]?.from ?? END),
  }));
  protected readonly label = computed(
    () => `${this.subject()} ${formatPercent(this.now() ?? 0)}, ${saltBand(this.now() ?? 0)}`,
  );
  protected readonly words = computed(
    () => `Salt in the water phase: ${this.now() === null ? 'not known yet' : this.label()}`,
  );
}

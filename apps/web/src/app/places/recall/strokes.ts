import { Component, computed, input } from '@angular/core';

/** So many strokes are drawn at most; a stroke stands for as many jars as that takes. */
const MOST = 60;

/** How many jars a stroke stands for, so that no row of the crate is longer than it can be seen. */
export const jarsAStroke = (most: number): number =>
  [1, 2, 3, 6, 12, 24, 60, 120, 300, 600, 1200, 6000].find((each) => most / each <= MOST) ?? Math.ceil(most / MOST);

/** Jars as tally strokes: crossed when accounted for, hollow and dashed while open. */
@Component({
  selector: 'ct-strokes',
  template: `
    <svg [attr.viewBox]="'0 0 ' + width() + ' 26'" [attr.width]="width()" height="26" aria-hidden="true">
      @for (stroke of strokes(); track stroke.x) {
        <path
          [attr.d]="stroke.slash ? 'M' + (stroke.x - 25) + ' 20L' + (stroke.x + 1) + ' 6' : 'M' + stroke.x + ' 4v18'"
          [class.open]="stroke.open"
        />
      }
      @if (crossed() > 0) {
        <path class="cross" [attr.d]="'M0 13h' + crossed()" />
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      max-width: 100%;
    }
    path {
      stroke: var(--ink);
      stroke-width: 2;
      fill: none;
    }
    .open {
      stroke: var(--beet);
      stroke-dasharray: 3 2;
    }
    .cross {
      stroke: var(--brine);
      stroke-width: 2.5;
    }
  `,
})
export class Strokes {
  readonly jars = input.required<number>();
  readonly accounted = input.required<number>();
  readonly each = input.required<number>();
  /** Neither crossed nor open. */
  readonly plain = input(false);
  private readonly many = computed(() => Math.max(1, Math.ceil(this.jars() / this.each())));
  private readonly done = computed(() => Math.floor(this.accounted() / this.each() + 1e-9));
  protected readonly strokes = computed(() =>
    Array.from({ length: this.many() }, (_, i) => ({
      x: 3 + Math.floor(i / 5) * 30 + (i % 5) * 6,
      slash: i % 5 === 4,
      open: !this.plain() && this.accounted() < this.jars() && i >= this.done(),
    })),
  );
  protected readonly width = computed(() => Math.ceil(this.many() / 5) * 30);
  protected readonly crossed = computed(() => {
    const done = this.accounted() >= this.jars() ? this.many() : this.done();
    return done === 0 ? 0 : Math.floor((done - 1) / 5) * 30 + ((done - 1) % 5) * 6 + 6;
  });
}

import { Component, computed, input } from '@angular/core';

/** Checks done, as strokes on a slate: fives crossed. Above twenty the figure is clearer. */
@Component({
  selector: 'ct-tally-strokes',
  template: `
    @if (count() <= 15) {
      <svg [attr.width]="width()" height="11" aria-hidden="true" stroke="var(--soft)" stroke-width="1.3" fill="none">
        @for (stroke of strokes(); track $index) {
          <path [attr.d]="stroke" />
        }
      </svg>
    } @else {
      <span class="figure">{{ count() }}</span>
    }
    @if (late() > 0) {
      <svg width="9" height="12" aria-hidden="true" class="late"><path d="M4 0v11M0 5.5h8" /></svg>
    } @else if (due() > 0) {
      <svg width="6" height="12" aria-hidden="true" class="due"><path d="M3 0v11" /></svg>
    }
  `,
  styles:
    ':host { display: inline-flex; height: 12px; font-size: 11px; gap: 2px; } .late { stroke: var(--beet); stroke-width: 2; } .due { stroke: var(--mustard); stroke-width: 2; stroke-dasharray: 2 1.6; }',
})
export class TallyStrokes {
  readonly count = input.required<number>();
  /** An open stroke for what is due, a notch for what is late. */
  readonly due = input(0);
  readonly late = input(0);
  protected readonly strokes = computed(() =>
    Array.from({ length: this.count() }, (_, i) => {
      const group = Math.floor(i / 5) * 15;
      return i % 5 === 4 ? `M${group} 9L${group + 11} 2` : `M${group + 1.5 + (i % 5) * 2.7} 1v9`;
    }),
  );
  protected readonly width = computed(() => Math.max(2, Math.ceil(this.count() / 5) * 15));
}

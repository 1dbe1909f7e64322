import { Component, input } from '@angular/core';

export type MarkKind = 'met' | 'due' | 'late' | 'watch' | 'hold' | 'clear' | 'later';

/** A status as a shape with its word beside it; never colour alone. */
@Component({
  selector: 'ct-mark',
  template: `
    <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
      @switch (kind()) {
        @case ('met') {
          <circle cx="10" cy="10" r="8.5" fill="var(--brine)" />
          <path d="M5.8 10.2l3 3 5.4-6" fill="none" stroke="#fff" stroke-width="2" />
        }
        @case ('due') {
          <circle cx="10" cy="10" r="7.5" fill="none" stroke="var(--mustard)" stroke-width="2.5" />
        }
        @case ('late') {
          <path d="M10 2.5a7.5 7.5 0 1 0 7.2 5.4" fill="none" stroke="var(--beet)" stroke-width="2.5" />
          <path d="M12 2l5.5 4.5" stroke="var(--beet)" stroke-width="2" />
        }
        @case ('watch') {
          <path d="M10 2l8.5 15.5h-17z" fill="none" stroke="var(--mustard)" stroke-width="2.2" />
          <path d="M10 8v5M10 14.4v1.4" stroke="var(--mustard)" stroke-width="2" />
        }
        @case ('hold') {
          <rect x="2" y="2" width="16" height="16" fill="none" stroke="var(--beet)" stroke-width="2.4" />
          <path d="M3 17L17 3M3 9l6-6M11 17l6-6" stroke="var(--beet)" stroke-width="1.8" />
        }
        @case ('later') {
          <circle
            cx="10"
            cy="10"
            r="7"
            fill="none"
            stroke="var(--soft)"
            stroke-width="1.6"
            stroke-dasharray="2.6 2.9"
          />
        }
        @case ('clear') {
          <path d="M2 9h16M2 14h16" stroke="var(--ink)" stroke-width="2.2" />
        }
      }
    </svg>
    <span><ng-content /></span>
  `,
  styles: `
    :host {
      display: inline-flex;
      gap: 8px;
      align-items: flex-start;
    }
    svg {
      flex: none;
      margin-top: 2px;
    }
  `,
})
export class Mark {
  readonly kind = input.required<MarkKind>();
}

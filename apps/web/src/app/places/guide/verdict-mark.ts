import { Component, computed, input } from '@angular/core';
import { VERDICT_WORDS, type Verdict } from '@clear-tally/core';

/** A verdict as its word and its shape, never by colour alone. */
@Component({
  selector: 'ct-verdict',
  template: `
    <svg viewBox="0 0 20 20" [attr.width]="size()" [attr.height]="size()" aria-hidden="true">
      @switch (verdict()) {
        @case ('fine') {
          <circle cx="10" cy="10" r="8.5" fill="var(--brine)" />
          <path d="M5.8 10.2l3 3 5.4-6" fill="none" stroke="#fff" stroke-width="2" />
        }
        @case ('watch') {
          <path d="M10 2l8.5 15.5h-17z" fill="none" stroke="var(--mustard)" stroke-width="2.2" />
          <path d="M10 8v5M10 14.4v1.4" stroke="var(--mustard)" stroke-width="2" />
        }
        @case ('act') {
          <path d="M10 2l8.5 15.5h-17z" fill="var(--mustard)" />
          <path d="M10 8v5M10 14.4v1.4" stroke="#fff" stroke-width="2" />
        }
        @case ('hold') {
          <rect x="2" y="2" width="16" height="16" fill="none" stroke="var(--beet)" stroke-width="2.4" />
          <path d="M3 17L17 3M3 9l6-6M11 17l6-6" stroke="var(--beet)" stroke-width="1.8" />
        }
        @case ('throwOut') {
          <path d="M3 3l14 14M17 3L3 17" stroke="var(--beet)" stroke-width="3.4" />
        }
      }
    </svg>
    <b [class.beet]="grave()" [class.mustard]="verdict() === 'act' || verdict() === 'watch'">{{ words[verdict()] }}</b>
  `,
  styles: ':host { display: inline-flex; gap: 8px; align-items: center; }',
})
export class VerdictMark {
  readonly verdict = input.required<Verdict>();
  readonly size = input(20);
  protected readonly words = VERDICT_WORDS;
  protected readonly grave = computed(() => this.verdict() === 'hold' || this.verdict() === 'throwOut');
}

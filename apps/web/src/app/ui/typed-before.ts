import { Component, computed, input } from '@angular/core';
import type { TypedBefore } from '../state/typed';

/** Offers what was typed here before and not recorded. */
@Component({
  selector: 'ct-typed-before',
  template: `@if (typed().at() !== null) {
    <p class="note row" role="status">
      <span style="flex: 1">{{ words() }}</span><button type="button" (click)="typed().takeUp()">
        Take it up again</button
      ><button type="button" class="plain" (click)="typed().throwAway()">Throw it away</button>
    </p>
  }`,
  host: { '[hidden]': 'typed().at() === null' },
  styles: ':host:not([hidden]) { display: block; flex-basis: 100%; } p { align-items: center; }',
})
export class TypedBeforeNote {
  readonly typed = input.required<TypedBefore>();
  protected readonly words = computed(() => {
    const minutes = Math.round((Date.now() - (this.typed().at() ?? 0)) / 60_000);
    const ago =
      minutes < 1
        ? 'a moment ago'
        : minutes < 60
          ? `${minutes} ${minutes === 1 ? 'minute' : 'minutes'} ago`
          : `${Math.round(minutes / 60)} h ago`;
    return `Typed ${ago}, and not recorded.`;
  });
}

import { Component, computed, input } from '@angular/core';

/** A code as the house issues them: capitals or figures with hyphens between. */
const CODE = /([A-Z]{1,3}\d*-[A-Za-z0-9]+(?:-[A-Za-z0-9]+)*)/;

/** Words in which no line ends within a code, where there is room. */
@Component({
  selector: 'ct-unbroken',
  template: `
    @for (part of parts(); track $index) {
      <span [class.code]="$odd" [textContent]="part"></span>
    }
  `,
  // Where a page is narrow a broken code is better than a table beyond its edge.
  styles: '@media (min-width: 1100px) { .code { white-space: nowrap; } }',
})
export class Unbroken {
  readonly words = input.required<string>();
  protected readonly parts = computed(() => this.words().split(CODE));
}

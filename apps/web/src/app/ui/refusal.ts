import { Component, input } from '@angular/core';

/** What stands in the way, in words; read out when it appears. */
@Component({
  selector: 'ct-refusal',
  template: `@if (message()) {
    <p class="grave" role="alert">{{ message() }}</p>
  }`,
})
export class Refusal {
  readonly message = input<string | null | undefined>(null);
}

import { Component, inject, input } from '@angular/core';
import { Lock } from '../state/lock';
import { injectRights } from '../state/person';

/** What only an owner does, said before the work to whoever is none: the tablet is handed over, and what was typed stays. */
@Component({
  selector: 'ct-owners-only',
  template: `
    @if (rights.mayRecord() && !rights.isOwner()) {
      <p class="soft">
        {{ says() }}
        @if (lock) {
          <button type="button" class="plain" (click)="lock.lock()">Hand the tablet to one</button>
        }
      </p>
    }
  `,
})
export class OwnersOnly {
  /** A whole sentence: "An owner keeps formulas." */
  readonly says = input.required<string>();
  protected readonly rights = injectRights();
  /** A page that is shown by itself has no tablet around it. */
  protected readonly lock = inject(Lock, { optional: true });
}

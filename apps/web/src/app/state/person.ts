import { computed, inject, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { sessionFeature } from './session';

/** What the person signed in may do: an inspector reads, a maker records, an owner also sets the house up. */
export function injectRights(): { readonly mayRecord: Signal<boolean>; readonly isOwner: Signal<boolean> } {
  const person = inject(Store).selectSignal(sessionFeature.selectPerson);
  return {
    mayRecord: computed(() => person() !== null && person()!.role !== 'inspector'),
    isOwner: computed(() => person()?.role === 'owner'),
  };
}

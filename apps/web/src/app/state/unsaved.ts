import { computed, DestroyRef, inject, Injectable, type Signal, signal } from '@angular/core';

/** Whether any form on the page has something typed that is not recorded: then a key that leads elsewhere stays still. */
@Injectable({ providedIn: 'root' })
export class Unsaved {
  private readonly forms = signal<readonly Signal<boolean>[]>([]);
  readonly any = computed(() => this.forms().some((unsaved) => unsaved()));

  /** As long as the caller lives. Call in an injection context. */
  watch(unsaved: Signal<boolean>): void {
    this.forms.update((forms) => [...forms, unsaved]);
    inject(DestroyRef).onDestroy(() => this.forms.update((forms) => forms.filter((one) => one !== unsaved)));
  }
}

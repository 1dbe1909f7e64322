import { Component, computed, inject, output, signal } from '@angular/core';
import { Api } from '../../api/api';
import { Refusal } from '../../ui/refusal';
import { SecretField } from '../../ui/secret-field';

/** One's own PIN or passphrase, changed by oneself: every other sign-in of the same person ends with the old one. */
@Component({
  selector: 'ct-own-pin',
  imports: [Refusal, SecretField],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); change()" autocomplete="off">
      <h2>Your own PIN</h2>
      <div class="fields">
        <ct-secret label="The one you have now" autocomplete="current-password" [(value)]="old" (edited)="typed()" />
        <ct-secret label="A new PIN or passphrase" autocomplete="new-password" [(value)]="pin" (edited)="typed()" />
        <ct-secret
          label="Once more"
          autocomplete="new-password"
          [wrong]="differs()"
          [(value)]="again"
          (edited)="typed()"
        />
      </div>
      <p class="soft small">
        Four to twelve figures, or ten signs and more. Six figures or a passphrase sign in on any device; four or five
        only where you have signed in before, and on the house’s own machine.
      </p>
      @if (differs()) {
        <p class="beet small" role="status">The two are not the same yet.</p>
      }
      <ct-refusal [message]="problem()" />
      @if (done()) {
        <p class="note" role="status">Changed. Wherever else you were signed in, you are no longer.</p>
      }
      <div>
        <button [disabled]="!ready() || saving()">{{ saving() ? 'Changing …' : 'Change it' }}</button>
      </div>
    </form>
  `,
  styles:
    '.fields { display: flex; flex-wrap: wrap; gap: 16px; } .fields ct-secret { width: 230px; } form { border-top: 1px solid var(--hair); padding-top: 18px; }',
})
export class OwnPin {
  readonly changed = output();
  private readonly api = inject(Api);
  protected readonly old = signal('');
  protected readonly pin = signal('');
  protected readonly again = signal('');
  protected readonly problem = signal<string | null>(null);
  protected readonly saving = signal(false);
  protected readonly done = signal(false);
  protected readonly differs = computed(
    () => this.again() !== '' && !this.pin().startsWith(this.again()) && this.pin() !== this.again(),
  );
  protected readonly ready = computed(() => this.old() !== '' && this.pin() !== '' && this.pin() === this.again());

  protected typed(): void {
    this.problem.set(null);
    this.done.set(false);
  }

  protected change(): void {
    if (!this.ready()) return;
    this.saving.set(true);
    this.api.changePin(this.old(), this.pin()).subscribe({
      next: () => {
        [this.old, this.pin, this.again].forEach((field) => field.set(''));
        this.saving.set(false);
        this.done.set(true);
        this.changed.emit();
      },
      error: ({ detail }: { detail: string }) => {
        this.saving.set(false);
        this.problem.set(detail);
      },
    });
  }
}

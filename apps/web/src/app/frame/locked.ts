import { afterNextRender, Component, computed, inject, signal, viewChild } from '@angular/core';
import { Store } from '@ngrx/store';
import { sessionFeature, signInPage } from '../state/session';
import { Refusal } from '../ui/refusal';
import { SecretField } from '../ui/secret-field';

/** Who has the tablet in hand now: initials and a PIN. The page beneath stays as it was left. */
@Component({
  selector: 'ct-locked',
  imports: [Refusal, SecretField],
  template: `
    <form class="stack" role="dialog" aria-modal="true" aria-label="Who is there?" (submit)="enter($event)">
      <h1>Who is there?</h1>
      <div class="people" role="radiogroup" aria-label="Who is there?">
        @for (one of people(); track one.id) {
          <button
            type="button"
            role="radio"
            [attr.aria-checked]="chosen() === one.id"
            [attr.aria-label]="one.name"
            [class.on]="chosen() === one.id"
            (click)="choose(one.id)"
          >
            <b class="figure">{{ one.initials }}</b><small>{{ one.name }}</small>
          </button>
        }
      </div>
      <div class="row">
        <ct-secret [big]="true" [label]="letters() ? 'Passphrase' : 'PIN'" [figures]="!letters()" [(value)]="typed" />
        <button class="go" [disabled]="session().state === 'signing'">Go on</button>
        <button type="button" class="plain" (click)="letters.set(!letters()); field().focus()">
          {{ letters() ? 'I have a PIN' : 'I have a passphrase' }}
        </button>
      </div>
      <ct-refusal [message]="session().state === 'refused' ? session().problem?.detail : null" />
      <p class="soft">What was typed stays where it is.</p>
    </form>
  `,
  styles: `
    :host {
      position: fixed;
      inset: 0;
      z-index: 1100;
      display: grid;
      place-items: center;
      padding: 20px;
      background: var(--paper);
      overflow-y: auto;
    }
    form {
      width: min(640px, 100%);
      gap: 20px;
    }
    .people {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
      gap: 10px;
    }
    .people button {
      display: grid;
      gap: 2px;
      min-height: 96px;
      justify-items: center;
      align-content: center;
    }
    .people b {
      font-size: 30px;
    }
    .people small {
      font-weight: 400;
      color: var(--soft);
    }
    .people .on {
      background: var(--brine-wash);
      border-color: var(--brine);
    }
  `,
})
export class Locked {
  private readonly store = inject(Store);
  protected readonly session = this.store.selectSignal(sessionFeature.selectSessionState);
  protected readonly people = computed(() => this.session().choices?.people ?? []);
  /** Whoever had it last is proposed. */
  protected readonly chosen = signal(this.session().person?.id ?? null);
  protected readonly typed = signal('');
  protected readonly letters = signal(false);
  protected readonly field = viewChild.required(SecretField);

  constructor() {
    this.store.dispatch(signInPage.opened());
    afterNextRender(() => this.field().focus());
  }

  protected choose(id: string): void {
    this.chosen.set(id);
    this.typed.set('');
    this.field().focus();
  }

  protected enter(event: Event): void {
    event.preventDefault();
    const personId = this.chosen();
    if (personId && this.typed()) this.store.dispatch(signInPage.pinTyped({ personId, pin: this.typed(), stay: true }));
  }
}

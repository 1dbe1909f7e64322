import { Component, computed, inject, signal } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { Store } from '@ngrx/store';
import { sessionFeature, signInPage } from '../../state/session';
import { Refusal } from '../../ui/refusal';
import { SecretField } from '../../ui/secret-field';
import { Api } from '../../api/api';
import { FoundForm, whenOpen } from './found-form';

/** Choose your name, type your PIN. */
@Component({
  selector: 'ct-sign-in',
  imports: [FoundForm, Refusal, SecretField],
  template: `
    <div class="door">
      <p class="name">Clear Tally</p>
      @if (choices(); as c) {
        @if (c.house === null) {
          <ct-found-form [demo]="c.other === 'demo'" />
        } @else {
          <h1>{{ c.house }}</h1>
          @if (wasEnded) {
            <p class="watch" role="status">
              The sign-in on this tablet has ended: somebody signed out, a PIN was changed, or a person has left. What
              was recorded is recorded.
            </p>
          }
          <form (submit)="enter($event)" class="stack">
            <div class="people" role="radiogroup" aria-label="Who are you?">
              @for (person of c.people; track person.id) {
                <button
                  type="button"
                  role="radio"
                  [attr.aria-checked]="chosen() === person.id"
                  [class.on]="chosen() === person.id"
                  (click)="choose(person.id, pin)"
                >
                  <b>{{ person.initials }}</b>{{ person.name }}<small>{{ person.role }}</small>
                </button>
              }
            </div>
            <div class="row">
              <ct-secret
                #pin
                [big]="true"
                [label]="letters() ? 'Passphrase' : 'PIN'"
                [figures]="!letters()"
                [(value)]="typed"
              />
              <button class="go" [disabled]="session().state === 'signing'">Sign in</button>
              <button type="button" class="plain" (click)="letters.set(!letters()); pin.focus()">
                {{ letters() ? 'I have a PIN' : 'I have a passphrase' }}
              </button>
            </div>
            <ct-refusal [message]="session().state === 'refused' ? session().problem?.detail : null" />
          </form>
          @if (c.demoPins; as pins) {
            <p class="note small">
              This is the demo house: its people, suppliers and figures are all made up. PINs:
              @for (row of pins; track row.name) {
                <span class="pin"
                  >{{ row.name }} <b class="figure">{{ row.pin }}</b></span
                >
              }
            </p>
            @if (c.other === 'own') {
              <p class="row">
                <button type="button" [disabled]="going()" (click)="own()">
                  {{ going() ? 'Opening …' : 'To the house of your own' }}
                </button>
                <span class="soft small"
                  >Nothing of this one goes there; it stays as it is, and opens again with
                  <span class="figure">npm start -- --demo</span>.</span
                >
              </p>
            }
          }
        }
      } @else if (session().problem) {
        <ct-refusal [message]="session().problem?.detail" />
      } @else {
        <p role="status">Opening the book …</p>
      }
      <p class="soft small">
        Clear Tally records and computes. Local food law, the health inspector and, for heated or shelf-stable goods, a
        qualified process authority decide.
      </p>
    </div>
  `,
  styles: `
    .door {
      max-width: 760px;
      margin: 0 auto;
      padding: 9vh 24px 40px;
      display: grid;
      gap: 22px;
    }
    .name {
      font-weight: 800;
      font-size: 24px;
      border-bottom: 6px double var(--ink);
      width: max-content;
      padding-bottom: 6px;
    }
    .people {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px;
    }
    .people button {
      min-height: 66px;
      justify-content: flex-start;
      gap: 14px;
      font-weight: 600;
    }
    .people b {
      font-family: var(--figures);
    }
    .people small {
      margin-left: auto;
      color: var(--soft);
      font-weight: 400;
    }
    .people .on {
      background: var(--brine-wash);
      border-color: var(--brine);
    }
    .pin {
      display: inline-block;
      margin: 0 10px;
      white-space: nowrap;
    }
  `,
})
export class SignIn {
  private readonly store = inject(Store);
  protected readonly session = this.store.selectSignal(sessionFeature.selectSessionState);
  protected readonly choices = computed(() => this.session().choices);
  protected readonly chosen = signal<string | null>(null);
  protected readonly typed = signal('');
  protected readonly letters = signal(false);
  protected readonly wasEnded = inject(ActivatedRoute).snapshot.queryParamMap.has('ended');

  constructor() {
    this.store.dispatch(signInPage.opened());
  }

  private readonly api = inject(Api);
  protected readonly going = signal(false);

  /** The start command opens the other house; nobody is signed in there. */
  protected own(): void {
    this.going.set(true);
    this.api.goOver().subscribe({ next: () => whenOpen(), error: () => this.going.set(false) });
  }

  protected choose(id: string, pin: SecretField): void {
    this.chosen.set(id);
    this.typed.set('');
    pin.focus();
  }

  protected enter(event: Event): void {
    event.preventDefault();
    const personId = this.chosen();
    if (personId && this.typed()) this.store.dispatch(signInPage.pinTyped({ personId, pin: this.typed() }));
    this.typed.set('');
  }
}

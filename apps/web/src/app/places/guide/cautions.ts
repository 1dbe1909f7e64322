import { Component, computed, signal } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import { CAUTIONS } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { GuideNav } from './guide-nav';

/** All cautions on one page, with whom this house asks. */
@Component({
  selector: 'ct-cautions',
  imports: [GuideNav, Refusal, TextField, RecordButton],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <ct-guide-nav />
        <h1>Cautions</h1>
        <p>
          This records and computes. Local food law, the health inspector and, for heated or shelf-stable goods, a
          qualified process authority decide. What is shown as met, meets the limits set in this house and no more.
        </p>
        <dl>
          @for (one of cautions; track one.key) {
            <div>
              <dt>{{ one.title }}</dt>
              <dd>{{ one.words }}</dd>
            </div>
          }
        </dl>
      </div>
      <aside class="side stack" aria-label="Contacts">
        <h2>Whom this house asks</h2>
        @for (one of contacts(); track $index) {
          <p>
            <b>{{ one.what }}</b><br />{{ one.who }}
            @if (rights.isOwner()) {
              <button type="button" class="plain" (click)="drop($index)">Remove</button>
            }
          </p>
        } @empty {
          <p class="soft">Nobody is written down yet.</p>
        }
        @if (rights.isOwner()) {
          <form class="stack" (submit)="$event.preventDefault(); add()">
            <ct-text label="For what" placeholder="Food authority" [value]="what()" (valueChange)="what.set($event)" />
            <ct-text label="Who, and how to reach them" [value]="who()" (valueChange)="who.set($event)" />
            <div>
              <button [ctRecord]="form" [needs]="[!what().trim() && 'what it is about', !who().trim() && 'who']">
                Add this contact
              </button>
            </div>
            <ct-refusal [message]="form.problem()" />
          </form>
        } @else {
          <p class="soft small">The owner writes these.</p>
        }
      </aside>
    </div>
  `,
  styles:
    'dl { display: grid; grid-template-columns: 1fr 1fr; gap: 0 30px; } dl div { padding: 9px 0; border-bottom: 1px solid var(--hair); } dt { font-weight: 700; } @media (max-width: 700px) { dl { grid-template-columns: 1fr; } }',
})
export class Cautions {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly cautions = CAUTIONS;
  protected readonly what = signal('');
  protected readonly who = signal('');
  protected readonly contacts = computed(() => this.house.house()?.settings.contacts ?? []);
  protected readonly form = recordingForm('contacts', () => {
    this.what.set('');
    this.who.set('');
  });

  protected add(): void {
    if (this.what().trim() && this.who().trim())
      this.keep([...this.contacts(), { what: this.what().trim(), who: this.who().trim() }]);
  }

  protected drop(index: number): void {
    this.keep(this.contacts().filter((_, at) => at !== index));
  }

  private keep(contacts: { what: string; who: string }[]): void {
    this.form.record(this.form.entry('house.set', { contacts }));
  }
}

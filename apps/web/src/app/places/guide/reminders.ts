import { Component, inject, signal } from '@angular/core';
import type { CalendarReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../../api/api';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Refusal } from '../../ui/refusal';
import { GuideNav } from './guide-nav';

/** Due checks and ready windows in anybody's calendar, and on paper. */
@Component({
  selector: 'ct-reminders',
  imports: [GuideNav, Refusal],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-guide-nav />
        <h1>Reminders</h1>
        <p>
          Any calendar that takes an iCalendar address (.ics) can show due checks and ready windows. The address is
          private to you: whoever has it can read what is due, and nothing else. Taking it back ends it at once.
        </p>
        @if (address(); as link) {
          <div class="note stack">
            <p>Your address, shown this once. Put it into your calendar as a subscription:</p>
            <p class="figure link">{{ link }}</p>
          </div>
        } @else if (read.data()?.made; as made) {
          <p>An address was made on {{ house.dates().moment(made) }}. A new one takes its place.</p>
        } @else {
          <p class="soft">You have no address yet.</p>
        }
        <div class="row">
          <button type="button" class="go" [disabled]="busy()" (click)="make()">
            {{ read.data()?.made ? 'Make a new address' : 'Make my address' }}
          </button>
          @if (read.data()?.made) {
            <button type="button" class="stern" [disabled]="busy()" (click)="revoke()">Take it back</button>
          }
        </div>
        <ct-refusal [message]="problem()" />
        <section class="rule stack">
          <h2>On paper</h2>
          <p>For a dead tablet: every vessel in walking order with what is due, and room to write.</p>
          <p><a class="button" href="/api/round.pdf" target="_blank" rel="noopener">Print the round</a></p>
        </section>
      </div>
    </div>
  `,
  styles: '.link { white-space: normal; overflow-wrap: anywhere; user-select: all; }',
})
export class Reminders {
  private readonly api = inject(Api);
  protected readonly house = injectHouse();
  protected readonly read = shown<CalendarReply>(signal('/api/calendar'));
  protected readonly address = signal<string | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly busy = signal(false);

  protected make(): void {
    this.send(this.api.calendar('make'), (reply) => this.address.set(reply.address ?? null));
  }

  protected revoke(): void {
    this.send(this.api.calendar('revoke'), () => this.address.set(null));
  }

  private send(asked: ReturnType<Api['calendar']>, then: (reply: { address?: string }) => void): void {
    this.busy.set(true);
    this.problem.set(null);
    asked.subscribe({
      next: (reply) => {
        this.busy.set(false);
        then(reply);
        this.read.again();
      },
      error: (refusal: WireProblem) => {
        this.busy.set(false);
        this.problem.set(refusal.detail);
      },
    });
  }
}

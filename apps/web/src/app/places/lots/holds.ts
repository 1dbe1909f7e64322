import { computed, Component, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import type { WatchReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';

/** What holds it, each with its reason and its own way out; and what held it before. */
@Component({
  selector: 'ct-holds',
  imports: [Mark, Refusal, RouterLink, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    @for (one of watch().holds; track one.entryId) {
      <div class="grave stack">
        <ct-mark kind="hold"
          ><b>On hold</b> since {{ house.dates().moment(iso(one.placedAt)) }}: {{ one.reason }}. Nothing is taken from
          it; do not taste.</ct-mark
        >
        @if (one.mayLift; as why) {
          <p class="small">{{ why }} <a routerLink="/guide/above-the-limit">Above the limit, what now?</a></p>
        } @else if (!rights.isOwner()) {
          <p class="small">A reviewer may end it now, in writing.</p>
        }
        @if (rights.isOwner() && one.mayLift === null) {
          @if (lifting() === one.entryId) {
            <form class="row" (submit)="$event.preventDefault(); lift()">
              <ct-typed-before [typed]="form.typed" />
              <ct-text style="flex: 1" label="Why the hold can be lifted" [formField]="form.fields.reason" />
              <button class="stern" [ctRecord]="form" [needs]="[!reason().trim() && 'the reason']">
                Lift this hold</button
              ><button type="button" (click)="lifting.set(null)">Leave it</button>
            </form>
            <ct-refusal [message]="form.problem()" />
          } @else {
            <div><button type="button" class="stern" (click)="open(one.entryId)">Lift the hold …</button></div>
          }
        }
      </div>
    }
    @if (watch().pastHolds.length > 0) {
      <details>
        <summary>Held before: {{ watch().pastHolds.length }}</summary>
        @for (one of watch().pastHolds; track one.placedAt) {
          <p class="small">
            {{ house.dates().moment(one.placedAt) }} to {{ house.dates().moment(one.liftedAt) }}: {{ one.reason }}.
            <b>{{ one.liftReason }}</b>
          </p>
        }
      </details>
    }
  `,
  styles:
    ':host { display: grid; gap: 12px; } summary { cursor: pointer; min-height: 44px; padding: 10px 0; font-weight: 600; }',
})
export class Holds {
  readonly watch = input.required<WatchReply>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly lifting = signal<string | null>(null);
  protected readonly form = recordingForm('lift', {
    fields: { reason: '' },
    about: computed(() => this.lifting()),
    recorded: () => {
      this.lifting.set(null);
      this.reason.set('');
    },
  });
  protected readonly reason = this.form.values.reason;
  protected readonly iso = (at: number): string => new Date(at).toISOString();

  protected open(entryId: string): void {
    this.lifting.set(entryId);
    this.reason.set('');
    this.form.edited();
  }

  protected lift(): void {
    if (this.reason().trim() && this.lifting())
      this.form.record(
        this.form.entry('hold.lift', {
          lotId: this.watch().lotId,
          reason: this.reason().trim(),
          holdId: this.lifting()!,
        }),
      );
  }
}

import { Component, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';
import { Tick } from '../../ui/tick';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { untilChosen } from '../../state/until-chosen';

/** Hold and lift, each with its reason. */
@Component({
  selector: 'ct-hold-form',
  imports: [Refusal, Tick, TextField, TypedBeforeNote, FormField, RecordButton],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="form.typed" />
        <ct-text
          [label]="held() ? 'Why the hold can be lifted' : 'Why it is put on hold'"
          [formField]="form.fields.reason"
        />
        @if (!held()) {
          <ct-tick [(value)]="below">and everything made of it</ct-tick>
        }
        <div class="row">
          <button class="stern" [ctRecord]="form" [needs]="[!reason().trim() && 'the reason']">
            {{ held() ? 'Lift the hold' : 'Hold ' + code() }}</button><button type="button" (click)="open.set(false)">
            Leave it
          </button>
        </div>
        <ct-refusal [message]="form.problem()" />
      </form>
    } @else {
      <button type="button" class="stern" (click)="open.set(true)">{{ held() ? 'Lift the hold …' : 'Hold …' }}</button>
    }
  `,
})
export class HoldForm {
  readonly lotId = input.required<string>();
  readonly code = input.required<string>();
  readonly held = input.required<boolean>();
  readonly kind = input('fill');
  protected readonly open = signal(false);
  protected readonly form = recordingForm('hold', {
    fields: { reason: '' },
    about: this.lotId,
    recorded: () => {
      this.open.set(false);
      this.reason.set('');
    },
  });
  protected readonly reason = this.form.values.reason;
  /** Also what was made of it: asked first for what goes on into others. */
  protected readonly below = untilChosen(
    () => this.kind() === 'supply' || this.kind() === 'batch' || this.kind() === 'preparation',
  );

  protected record(): void {
    if (this.reason().trim())
      this.form.record(
        this.held()
          ? this.form.entry('hold.lift', { lotId: this.lotId(), reason: this.reason().trim() })
          : this.form.entry('hold.place', {
              lotId: this.lotId(),
              reason: this.reason().trim(),
              ...(this.below() ? { downstream: true } : {}),
            }),
      );
  }
}

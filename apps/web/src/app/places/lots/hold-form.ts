import { Component, computed, input, linkedSignal, signal } from '@angular/core';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';
import { Tick } from '../../ui/tick';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { keepTyped } from '../../state/typed';

/** Hold and lift, each with its reason. */
@Component({
  selector: 'ct-hold-form',
  imports: [Refusal, Tick, TextField, TypedBeforeNote],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="typed" />
        <ct-text
          [label]="held() ? 'Why the hold can be lifted' : 'Why it is put on hold'"
          [value]="reason()"
          (valueChange)="reason.set($event); form.edited()"
        />
        @if (!held()) {
          <ct-tick [(value)]="below">and everything made of it</ct-tick>
        }
        <div class="row">
          <button class="stern" [disabled]="!reason().trim() || form.saving()">
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
  protected readonly reason = signal('');
  protected readonly typed = keepTyped(
    computed(() => `hold ${this.lotId()}`),
    { reason: this.reason },
  );
  /** Also what was made of it: asked first for what goes on into others. */
  protected readonly below = linkedSignal(
    () => this.kind() === 'supply' || this.kind() === 'batch' || this.kind() === 'preparation',
  );
  protected readonly form = recordingForm('hold', () => {
    this.typed.done();
    this.open.set(false);
    this.reason.set('');
  });

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

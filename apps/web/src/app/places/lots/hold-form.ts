import { Component, input, linkedSignal, signal } from '@angular/core';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';

/** Hold and lift, each with its reason. */
@Component({
  selector: 'ct-hold-form',
  imports: [Refusal],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <div>
          <label for="hold-reason">{{ held() ? 'Why the hold can be lifted' : 'Why it is put on hold' }}</label><input
            id="hold-reason"
            class="words"
            type="text"
            [value]="reason()"
            (input)="reason.set($any($event.target).value); form.edited()"
          />
        </div>
        @if (!held()) {
          <label class="tick"
            ><input type="checkbox" [checked]="below()" (change)="below.set($any($event.target).checked)" /> and
            everything made of it</label
          >
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
  styles:
    '.tick { display: flex; gap: 10px; align-items: center; min-height: 44px; color: var(--ink); } .tick input { width: 26px; height: 26px; accent-color: var(--brine); }',
})
export class HoldForm {
  readonly lotId = input.required<string>();
  readonly code = input.required<string>();
  readonly held = input.required<boolean>();
  readonly kind = input('fill');
  protected readonly open = signal(false);
  protected readonly reason = signal('');
  /** Also what was made of it: asked first for what goes on into others. */
  protected readonly below = linkedSignal(
    () => this.kind() === 'supply' || this.kind() === 'batch' || this.kind() === 'preparation',
  );
  protected readonly form = recordingForm('hold', () => {
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

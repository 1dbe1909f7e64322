import { Component, input, signal } from '@angular/core';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';

/** Hold and lift, each with its reason. */
@Component({
  selector: 'ct-hold-form',
  imports: [Refusal],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <div><label for="hold-reason">{{ held() ? 'Why the hold can be lifted' : 'Why it is put on hold' }}</label><input id="hold-reason" class="words" type="text" [value]="reason()" (input)="reason.set($any($event.target).value); form.edited()" /></div>
        <div class="row"><button class="stern" [disabled]="!reason().trim() || form.saving()">{{ held() ? 'Lift the hold' : 'Hold ' + code() }}</button><button type="button" (click)="open.set(false)">Leave it</button></div>
        <ct-refusal [message]="form.problem()" />
      </form>
    } @else { <button type="button" class="stern" (click)="open.set(true)">{{ held() ? 'Lift the hold …' : 'Hold …' }}</button> }
  `,
})
export class HoldForm {
  readonly lotId = input.required<string>();
  readonly code = input.required<string>();
  readonly held = input.required<boolean>();
  protected readonly open = signal(false);
  protected readonly reason = signal('');
  protected readonly form = recordingForm('hold', () => {
    this.open.set(false);
    this.reason.set('');
  });

  protected record(): void {
    if (this.reason().trim()) this.form.record(this.form.entry(this.held() ? 'hold.lift' : 'hold.place', { lotId: this.lotId(), reason: this.reason().trim() }));
  }
}

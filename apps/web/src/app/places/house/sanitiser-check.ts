import { Component, computed, input, output } from '@angular/core';
import type { EquipmentReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TypedBeforeNote } from '../../ui/typed-before';
import { NO_STRENGTH, strengthBody, StrengthFields, strengthNeeds } from './strength-fields';

/** How strong a batch of sanitiser is that is mixed already. */
@Component({
  selector: 'ct-sanitiser-check',
  imports: [RecordButton, Refusal, StrengthFields, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <h2>
        Check <span class="figure">{{ mix().code }}</span>
      </h2>
      <p class="soft">{{ mix().agent }}, {{ mix().dilution }}. {{ mix().strength ?? 'Not checked so far.' }}</p>
      <ct-typed-before [typed]="form.typed" />
      <ct-strength-fields [of]="form.fields.strength" />
      <ct-refusal [message]="form.problem()" />
      <div class="row">
        <button class="go" [ctRecord]="form" [needs]="needs()">Record its strength</button>
        <button type="button" (click)="done.emit()">Mix another</button>
      </div>
    </form>
  `,
})
export class SanitiserCheck {
  readonly mix = input.required<EquipmentReply['mixes'][number]>();
  readonly done = output();
  protected readonly form = recordingForm('sanitiser.check', {
    fields: { strength: NO_STRENGTH },
    about: computed(() => this.mix().id),
    recorded: () => {
      this.form.values.strength.set(NO_STRENGTH);
      this.done.emit();
    },
  });
  protected readonly needs = computed(() => strengthNeeds(this.form.values.strength()));

  protected record(): void {
    if (this.needs().some(Boolean)) return;
    this.form.record(
      this.form.entry('sanitiser.check', {
        mixId: this.mix().id,
        strength: strengthBody(this.form.values.strength()),
      }),
    );
  }
}

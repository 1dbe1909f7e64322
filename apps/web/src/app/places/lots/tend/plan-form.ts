import { Component, input, linkedSignal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { TypedBeforeNote } from '../../../ui/typed-before';
import type { Check } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';
import { PlanEditor } from '../../formulas/editor/plan-editor';

/** The check plan changed on the way, for this vessel or all of its batch. What was done stays done. */
@Component({
  selector: 'ct-plan-form',
  imports: [PlanEditor, Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    <ct-plan-editor [checks]="checks()" [done]="null" [doneShown]="false" (checksChange)="checks.set($event)" />
    <form class="row" (submit)="$event.preventDefault(); record(batchId())">
      <ct-typed-before [typed]="form.typed" />
      <ct-text style="flex: 1" label="Why it is changed" [formField]="form.fields.reason" />
      <button type="button" [ctRecord]="form" [needs]="[!reason().trim() && 'the reason']" (click)="record(lotId())">
        For this vessel</button
      ><button class="go" [ctRecord]="form" [needs]="[!reason().trim() && 'the reason']">For the whole batch</button>
    </form>
    <ct-refusal [message]="form.problem()" />
  `,
  styles: ':host { display: grid; gap: 12px; }',
})
export class PlanForm {
  readonly lotId = input.required<string>();
  readonly batchId = input.required<string>();
  readonly plan = input.required<readonly Check[]>();
  protected readonly checks = linkedSignal<readonly Check[]>(() => this.plan());
  protected readonly form = recordingForm('plan', {
    fields: { reason: '' },
    about: this.lotId,
    recorded: () => this.reason.set(''),
  });
  protected readonly reason = this.form.values.reason;

  protected record(lotId: string): void {
    if (this.reason().trim())
      this.form.record(
        this.form.entry('plan.change', {
          lotId,
          checks: this.checks().map((check) => ({ ...check })),
          reason: this.reason().trim(),
        }),
      );
  }
}

import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { EquipmentReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { CountInput } from '../../ui/count-input';
import { FigureInput } from '../../ui/figure-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { isSaid, NO_STRENGTH, strengthBody, StrengthFields, strengthNeeds } from './strength-fields';

const HOUR = 3_600_000;

/** A batch of sanitiser: mixed as its sheet says, its strength checked, used until a moment. */
@Component({
  selector: 'ct-sanitiser-form',
  imports: [CountInput, FigureInput, FormField, RecordButton, Refusal, StrengthFields, TextField, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <h2>Mix sanitiser</h2>
      <ct-typed-before [typed]="form.typed" />
      @if (last(); as mix) {
        @if (!form.values.agent()) {
          <button type="button" (click)="asBefore(mix)">As {{ mix.code }}: {{ mix.agent }}, {{ mix.dilution }}</button>
        }
      }
      <ct-text label="What it is" placeholder="peracetic acid" [formField]="form.fields.agent" />
      <ct-text label="How strong" placeholder="20 mL to 10 L" [formField]="form.fields.dilution" />
      <div class="pair">
        <ct-figure label="How much" unit="L" [least]="0.1" [most]="2000" [formField]="form.fields.litres" />
        <ct-count label="Good for, hours" [formField]="form.fields.hours" />
      </div>
      <ct-strength-fields [of]="form.fields.strength" />
      @if (!isChecked()) {
        <ct-text
          label="Or why it is not checked"
          placeholder="ready to use, out of a sealed bottle"
          [formField]="form.fields.unchecked"
        />
      }
      <p class="soft small">As its label and its sheet say. Chlorine and acid never meet.</p>
      <ct-refusal [message]="form.problem()" />
      <div>
        <button class="go" [ctRecord]="form" [needs]="needs()">Record the batch</button>
      </div>
    </form>
  `,
  styles: '.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; align-items: end; }',
})
export class SanitiserForm {
  readonly mixes = input.required<EquipmentReply['mixes']>();
  readonly done = output();
  protected readonly last = computed(() => this.mixes()[0] ?? null);
  protected readonly form = recordingForm('sanitiser', {
    fields: {
      agent: '',
      dilution: '',
      litres: null as number | null,
      hours: null as number | null,
      strength: NO_STRENGTH,
      unchecked: '',
    },
    recorded: () => {
      const v = this.form.values;
      [v.agent, v.dilution, v.unchecked].forEach((field) => field.set(''));
      [v.litres, v.hours].forEach((field) => field.set(null));
      v.strength.set(NO_STRENGTH);
      this.done.emit();
    },
  });
  protected readonly isChecked = computed(() => isSaid(this.form.values.strength()));
  protected readonly needs = computed(() => {
    const v = this.form.values;
    return [
      !v.agent().trim() && 'what it is',
      !v.dilution().trim() && 'how strong',
      !v.litres() && 'how much',
      !v.hours() && 'how long it is good for',
      ...(this.isChecked()
        ? strengthNeeds(v.strength())
        : [!v.unchecked().trim() && 'its strength, or why it is not checked']),
    ];
  });

  protected asBefore({
    agent,
    dilution,
    litres,
    at,
    goodUntil,
    strength,
    unchecked,
  }: EquipmentReply['mixes'][number]): void {
    const v = this.form.values;
    v.agent.set(agent);
    v.dilution.set(dilution);
    v.litres.set(litres);
    v.hours.set(Math.round((Date.parse(goodUntil) - Date.parse(at)) / HOUR));
    v.strength.set({ ...NO_STRENGTH, how: strength?.split(': ')[0] ?? '' });
    v.unchecked.set(unchecked ?? '');
  }

  protected record(): void {
    if (this.needs().some(Boolean)) return;
    const v = this.form.values;
    const entry = this.form.entry('sanitiser.mix', {
      mixId: newId(),
      agent: v.agent().trim(),
      dilution: v.dilution().trim(),
      litres: v.litres()!,
      strength: this.isChecked() ? strengthBody(v.strength()) : null,
      ...(this.isChecked() ? {} : { unchecked: v.unchecked().trim() }),
      goodUntil: new Date(0).toISOString(),
    });
    // From when it was mixed, which may be before now.
    const goodUntil = new Date(Date.parse(entry.happenedAt) + v.hours()! * HOUR).toISOString();
    this.form.record({ ...entry, body: { ...entry.body, goodUntil } } as typeof entry);
  }
}

import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { recordingForm } from '../../state/form';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';

/** Seals of a load, the day after: jars that are not tight are named one by one. */
@Component({
  selector: 'ct-seals-form',
  imports: [FormField, RecordButton, Refusal, Select, TextField],
  template: `
    <form class="row" (submit)="$event.preventDefault(); record()">
      <ct-text
        label="Seals: jars that are not tight"
        placeholder="none"
        [problem]="problem()"
        [formField]="form.fields.failed"
      />
      @if (failed().length > 0) {
        <ct-select
          label="They are"
          empty="choose"
          [options]="thens"
          [value]="form.values.then()"
          (valueChange)="form.values.then.set($event)"
        />
      }
      <button
        [ctRecord]="form"
        [needs]="[
          problem() && 'the numbers of jars',
          failed().length > 0 && !form.values.then() && 'what became of them',
        ]"
      >
        {{ failed().length === 0 ? 'All ' + (last() - first() + 1) + ' are tight' : failed().length + ' not tight' }}
      </button>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
  styles: 'form { align-items: end; } ct-text { min-width: 250px; } ct-select { min-width: 170px; }',
})
export class SealsForm {
  readonly loadId = input.required<string>();
  readonly first = input.required<number>();
  readonly last = input.required<number>();
  protected readonly form = recordingForm('heat.seals', {
    fields: { failed: '', then: '' as '' | 'chilled' | 'thrownOut' },
    about: this.loadId,
  });
  protected readonly thens = [
    ['chilled', 'kept cold'],
    ['thrownOut', 'thrown out'],
  ] as const;
  private readonly words = computed(() =>
    this.form.values
      .failed()
      .split(/[\s,;]+/)
      .filter(Boolean),
  );
  protected readonly failed = computed(() =>
    this.words().flatMap((word) => (/^\d{1,5}$/.test(word) ? [Number(word)] : [])),
  );
  protected readonly problem = computed(() => {
    const strange = this.words().find((word) => !/^\d{1,5}$/.test(word));
    if (strange !== undefined) return `“${strange}” was given; numbers of jars are read, as 3, 17.`;
    const outside = this.failed().find((serial) => serial < this.first() || serial > this.last());
    return outside === undefined ? null : `Jar ${outside} was given; this load has ${this.first()} to ${this.last()}.`;
  });

  protected record(): void {
    this.form.record(
      this.form.entry('heat.seals', {
        loadId: this.loadId(),
        failed: this.failed(),
        then: this.failed().length > 0 ? this.form.values.then() || null : null,
        note: null,
      }),
    );
  }
}

import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { BrineLeft } from './brine-left';

/** The last look before the making is closed: what is open, what was left out, what is in the bowls. */
@Component({
  selector: 'ct-close-batch',
  imports: [BrineLeft, Mark, Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    @let b = batch();
    <div class="stack">
      <h1>Close the batch {{ b.code }}</h1>
      @if (b.closedAt) {
        <p class="note">
          Closed {{ house.dates().moment(b.closedAt) }}. Nothing more goes into it; its vessels are followed one by one.
        </p>
      }
      <ul>
        @for (step of open(); track step.key) {
          <li>
            <ct-mark kind="due">{{ step.name }}: not done</ct-mark>
          </li>
        }
        @for (line of openLines(); track line.key) {
          <li>
            <ct-mark kind="due">{{ line.name }}: neither weighed, ticked nor left out</ct-mark>
          </li>
        }
        @for (step of skipped(); track step.key) {
          <li>
            <ct-mark kind="watch">{{ step.name }}: skipped, {{ step.note }}</ct-mark>
          </li>
        }
        @for (line of leftOut(); track line.key) {
          <li>
            <ct-mark kind="watch">{{ line.name }}: left out, {{ line.reason }}</ct-mark>
          </li>
        }
        @for (step of unticked(); track step.key) {
          <li>
            <ct-mark kind="watch"
              >{{ step.name }}: not ticked “{{ step.unchecked.join('”, “') }}”, {{ step.note }}</ct-mark
            >
          </li>
        }
        @if (open().length + openLines().length + skipped().length + leftOut().length + unticked().length === 0) {
          <li><ct-mark kind="met">Every step is done and every line is in.</ct-mark></li>
        }
      </ul>
      <p>
        In the bowls: <b class="figure">{{ mass(b.inBowlsGrams) }}</b> · labour
        <b class="figure">{{ minutes() }} min</b>
      </p>
      @if (b.inBowlsGrams > 0 && b.closedAt === null && b.fills.length > 0) {
        <div>
          <button type="button" [ctRecord]="loss" (click)="empty()">
            Record {{ mass(b.inBowlsGrams) }} as residue in bowls and on hands
          </button>
        </div>
        <ct-refusal [message]="loss.problem()" />
      }
      <ct-brine-left [batch]="b" />
      @if (b.closedAt === null) {
        <form class="stack rule" (submit)="$event.preventDefault(); close()">
          <ct-typed-before [typed]="form.typed" />
          <ct-text label="Note for the review" [formField]="form.fields.note" />
          <div><button class="go" [ctRecord]="form">Close the batch</button></div>
          <ct-refusal [message]="form.problem()" />
        </form>
      }
    </div>
  `,
  styles: 'li { padding: 5px 0; font-size: 18px; }',
})
export class CloseBatch {
  readonly batch = input.required<MakeReply>();
  protected readonly house = injectHouse();
  protected readonly form = recordingForm('batch.close', {
    fields: { note: '' },
    about: computed(() => this.batch().batchId),
  });
  protected readonly note = this.form.values.note;
  protected readonly loss = recordingForm('loss.record');
  protected readonly open = computed(() =>
    this.batch().steps.filter((step) => step.state === 'open' || step.state === 'begun'),
  );
  protected readonly skipped = computed(() => this.batch().steps.filter((step) => step.state === 'skipped'));
  protected readonly unticked = computed(() => this.batch().steps.filter((step) => step.unchecked.length > 0));
  protected readonly openLines = computed(() => this.batch().lines.filter((line) => line.state === 'open'));
  protected readonly leftOut = computed(() => this.batch().lines.filter((line) => line.state === 'leftOut'));
  protected readonly minutes = computed(() =>
    Math.round(this.batch().steps.reduce((sum, step) => sum + (step.labourMinutes ?? 0), 0)),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected empty(): void {
    this.loss.record(
      this.loss.entry('loss.record', {
        lotId: this.batch().batchId,
        sink: 'residue',
        grams: this.batch().inBowlsGrams,
        note: 'stayed in bowls and on hands',
      }),
    );
  }

  protected close(): void {
    this.form.record(
      this.form.entry('batch.close', { batchId: this.batch().batchId, note: this.note().trim() || null }),
    );
  }
}

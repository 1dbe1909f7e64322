import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { TypedBeforeNote } from '../../../ui/typed-before';
import type { WatchReply } from '@clear-tally/contract';
import { recordingForm } from '../../../state/form';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';

/** "Ready" is said by a person, with what is not met shown beside it. */
@Component({
  selector: 'ct-ready-form',
  imports: [Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      @if (!ready() && open().length > 0) {
        <div class="watch">
          <p>Not met:</p>
          <ul>
            @for (one of open(); track one.words) {
              <li>
                {{ one.words }} <span class="small">({{ one.now }})</span>
              </li>
            }
          </ul>
        </div>
      }
      <ct-text label="Note" [formField]="form.fields.note" />
      <div>
        <button [class.go]="!ready()" [ctRecord]="form">
          {{ ready() ? 'Not ready after all' : open().length > 0 ? 'It is ready all the same' : 'It is ready' }}
        </button>
      </div>
      <p class="soft small">Ready is a word about taste and time. Packing asks for its limits by itself.</p>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
})
export class ReadyForm {
  readonly lotId = input.required<string>();
  readonly ready = input.required<boolean>();
  readonly conditions = input.required<WatchReply['conditions']>();
  protected readonly form = recordingForm('ready', {
    fields: { note: '' },
    about: this.lotId,
    recorded: () => this.note.set(''),
  });
  protected readonly note = this.form.values.note;
  protected readonly open = computed(() => this.conditions().filter(({ state }) => state !== 'met'));

  protected record(): void {
    this.form.record(
      this.form.entry('lot.ready', { lotId: this.lotId(), ready: !this.ready(), note: this.note().trim() || null }),
    );
  }
}

import { Component, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../../ui/choices';
import { RecordButton } from '../../../ui/record-button';
import { TypedBeforeNote } from '../../../ui/typed-before';
import type { BodyOf } from '@clear-tally/contract';
import { recordingForm } from '../../../state/form';
import { CautionsAt } from '../../../ui/cautions-at';
import { Mark } from '../../../ui/mark';
import { Refusal } from '../../../ui/refusal';
import { QuantityInput } from '../../../ui/quantity-input';
import { TextField } from '../../../ui/text-field';
import { Tick } from '../../../ui/tick';

type Body = BodyOf<'taste.record'>;
const MARKS: [keyof Body['marks'], string][] = [
  ['salt', 'Salt'],
  ['sour', 'Sour'],
  ['fizz', 'Fizz'],
  ['crunch', 'Crunch'],
  ['heat', 'Heat'],
];
const NONE: Body['marks'] = { salt: null, sour: null, fizz: null, crunch: null, heat: null };

/** A tasting on a small scale. Nobody tastes above 4.6, unread, or on hold. */
@Component({
  selector: 'ct-taste-form',
  imports: [
    Choices,
    CautionsAt,
    Mark,
    QuantityInput,
    Refusal,
    TextField,
    Tick,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    @if (why(); as reason) {
      <p class="watch">
        <ct-mark kind="watch">Not now: {{ reason }}.</ct-mark>
      </p>
    } @else {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="form.typed" />
        <p class="soft small">A clean spoon, never back into the vessel. 0 none, 4 very much.</p>
        <ct-cautions-at place="tasting" />
        @for (one of marksOf; track one[0]) {
          <div class="scale">
            <span aria-hidden="true">{{ one[1] }}</span><ct-choices
              [label]="one[1]"
              [options]="steps"
              [value]="marks()[one[0]]"
              loose
              (letGo)="set(one[0], marks()[one[0]]!)"
              (picked)="set(one[0], $event)"
            />
          </div>
        }
        <div class="row">
          <ct-text style="flex: 1" label="Off-notes" placeholder="none" [formField]="form.fields.off" /><ct-quantity
            label="Taken out"
            [zero]="true"
            [formField]="form.fields.grams"
            [refusal]="form.problemAt('grams')"
          />
        </div>
        <ct-tick [formField]="form.fields.through">Colour all the way through</ct-tick>
        <div class="row">
          <button class="go" type="button" [ctRecord]="form" (click)="record('signedOff')">Taste signed off</button
          ><button type="button" [ctRecord]="form" (click)="record('wait')">Not yet: wait</button
          ><button type="button" [ctRecord]="form" (click)="record('backToRoom')">Back to the room</button>
        </div>
        <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
      </form>
    }
  `,
  styles:
    '.scale { display: grid; grid-template-columns: 84px auto; gap: 10px; align-items: center; justify-content: start; } .scale button { min-width: 52px; padding: 0; } .tick { display: flex; gap: 10px; align-items: center; min-height: 44px; color: var(--ink); } .tick input { width: 26px; height: 26px; accent-color: var(--brine); }',
})
export class TasteForm {
  readonly lotId = input.required<string>();
  readonly why = input<string | null>(null);
  protected readonly marksOf = MARKS;
  protected readonly steps = [0, 1, 2, 3, 4];
  protected readonly marks = signal<Body['marks']>(NONE);
  protected readonly form = recordingForm('taste', {
    fields: { grams: null as number | null, off: '', through: false },
    about: this.lotId,
    recorded: () => {
      this.marks.set(NONE);
      this.off.set('');
      this.grams.set(null);
    },
  });
  protected readonly off = this.form.values.off;
  protected readonly through = this.form.values.through;
  protected readonly grams = this.form.values.grams;

  protected set(key: keyof Body['marks'], step: number): void {
    this.marks.update((marks) => ({ ...marks, [key]: marks[key] === step ? null : step }));
  }

  protected record(says: Body['says'] = 'wait'): void {
    this.form.record(
      this.form.entry('taste.record', {
        lotId: this.lotId(),
        marks: this.marks(),
        offNotes: this.off().trim() || null,
        colourThrough: this.through(),
        says,
        grams: this.grams() ?? 0,
        note: null,
      }),
    );
  }
}

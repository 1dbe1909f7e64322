import { Component, computed, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { CHECK_KIND_KEYS, checkKindOf, effectsOf, type CheckKind } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { injectHouse } from '../../../state/house';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';

interface Deed {
  readonly what: CheckKind;
  readonly label: string;
  readonly quiet: boolean;
  readonly closures?: readonly string[];
}
/** What can be done to a vessel, due or not, as each kind of check says. */
const DEEDS: readonly Deed[] = CHECK_KIND_KEYS.flatMap((what) =>
  (checkKindOf(what).deeds ?? []).map(({ words, quiet, closures }) => ({
    what,
    label: words,
    quiet,
    closures: closures ?? checkKindOf(what).closures ?? undefined,
  })),
);

/** What a hand does to a vessel on the way, due or not. It counts for the round. */
@Component({
  selector: 'ct-care',
  imports: [Refusal, TextField, FormField, RecordButton],
  template: `
    <ct-text label="Note" placeholder="how much, how it looked" [formField]="form.fields.note" />
    <div class="row">
      @for (deed of deeds(); track deed.label) {
        <button type="button" [ctRecord]="form" (click)="record(deed)">{{ deed.label }}</button>
      }
    </div>
    @if (said(); as words) {
      <p class="note small" role="status">{{ words }}</p>
    }
    <ct-refusal [message]="form.problem()" />
  `,
  styles: ':host { display: grid; gap: 12px; }',
})
export class Care {
  readonly lotId = input.required<string>();
  readonly closure = input('');
  protected readonly form = recordingForm('care', {
    fields: { note: '' },
    about: this.lotId,
    recorded: () => {
      this.note.set('');
      this.said.set('It stands in the book.');
    },
  });
  protected readonly note = this.form.values.note;
  protected readonly said = signal<string | null>(null);
  private readonly house = injectHouse();
  /** Floaters by the way of this house. */
  private readonly floaters = computed(() =>
    effectsOf(this.house.house()?.rules ?? {}).floaters === 'out' ? 'Floaters taken out' : 'Pressed down',
  );
  protected readonly deeds = computed(() =>
    DEEDS.filter(({ closures }) => !closures || closures.includes(this.closure())).map((deed) =>
      deed.what === 'press' ? { ...deed, label: this.floaters() } : deed,
    ),
  );

  protected record(deed: Deed): void {
    this.said.set(null);
    this.form.record(
      this.form.entry('check.make', {
        lotId: this.lotId(),
        what: deed.what,
        words: null,
        quiet: deed.quiet,
        note: this.note().trim() || null,
      }),
    );
  }
}

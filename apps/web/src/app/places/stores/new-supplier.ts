import { Component, computed, output, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { newId, recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';

/** A grower, a mill, a plot of the house's own: its letters head the codes of its lots. */
@Component({
  selector: 'ct-new-supplier',
  imports: [Refusal, TextField, Tick, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); $event.stopPropagation(); add()">
        <ct-typed-before [typed]="form.typed" />
        <div class="row">
          <ct-text style="width: 280px" label="Supplier’s name" [formField]="form.fields.name" />
          <ct-text
            style="width: 190px"
            label="Letters of its lots"
            placeholder="CG"
            [value]="prefix()"
            [problem]="odd()"
            (valueChange)="prefix.set($event.toUpperCase()); form.edited()"
          />
          <ct-tick [formField]="form.fields.own">a plot of our own</ct-tick>
          <button [ctRecord]="form" [needs]="[!name().trim() && 'the name', !prefixFits() && 'two or three capitals']">
            Add {{ name().trim() || 'it' }}</button
          ><button type="button" class="plain" (click)="open.set(false)">Close</button>
        </div>
        <ct-refusal [message]="form.problem()" />
      </form>
    } @else {
      <button type="button" class="plain" (click)="open.set(true)">Another supplier</button>
    }
  `,
  styles:
    '.tick { display: inline-flex; gap: 8px; align-items: center; min-height: 48px; margin: 26px 0 0; color: var(--ink); } .tick input { width: 24px; height: 24px; accent-color: var(--brine); }',
})
export class NewSupplier {
  readonly added = output<string>();
  protected readonly open = signal(false);
  protected readonly form = recordingForm('supplier.add', {
    fields: { name: '', own: false },
    recorded: () => {
      this.open.set(false);
      this.name.set('');
      this.prefix.set('');
      this.own.set(false);
      this.added.emit(this.supplierId);
    },
  });
  protected readonly name = this.form.values.name;
  protected readonly prefix = signal('');
  protected readonly own = this.form.values.own;
  protected readonly odd = computed(() =>
    this.prefix() && !/^[A-Z]{2,3}$/.test(this.prefix()) ? 'Two or three letters, such as CG.' : null,
  );
  protected readonly prefixFits = computed(() => /^[A-Z]{2,3}$/.test(this.prefix()));
  protected readonly ready = computed(() => this.name().trim() !== '' && this.prefixFits());
  private supplierId = '';

  protected add(): void {
    if (!this.ready()) return;
    this.supplierId = newId();
    this.form.record(
      this.form.entry('supplier.add', {
        supplierId: this.supplierId,
        name: this.name().trim(),
        prefix: this.prefix(),
        ...(this.own() ? { ownPlot: true } : {}),
      }),
    );
  }
}

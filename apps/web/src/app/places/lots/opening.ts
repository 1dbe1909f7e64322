import { Component, computed, inject, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { type Need, RecordButton } from '../../ui/record-button';
import { Router } from '@angular/router';
import { dayProblem, isFillable } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';

/** What stood in the house before its ledger began: a live vessel, or jars on a shelf. */
@Component({
  selector: 'ct-opening',
  imports: [
    Choices,
    DayField,
    Choice,
    CountInput,
    QuantityInput,
    Refusal,
    TextField,
    TypedBeforeNote,
    FormField,
    RecordButton,
  ],
  template: `
    <div class="page">
      <div class="main stack">
        <h1>A lot from before these records</h1>
        <p class="soft">
          It comes in as it stands. What went in is not known here, and every trace says so. Packing asks for the same
          readings as for any other.
        </p>
        <form class="stack form" (submit)="$event.preventDefault(); record()">
          <ct-typed-before [typed]="form.typed" />
          <ct-choices
            label="What stands there"
            [options]="[
              ['vessel', 'A live vessel'],
              ['jars', 'Jars on a shelf'],
            ]"
            [value]="what()"
            (picked)="what.set($event)"
          />
          <ct-text label="What it is" [formField]="form.fields.name" />
          <ct-day label="Filled or packed on, if known" [latest]="today()" [formField]="form.fields.filledOn" />
          @if (what() === 'vessel') {
            <ct-choice label="Vessel" [options]="vessels()" [formField]="form.fields.vesselId" />
            <ct-quantity
              label="Stands in it"
              unit="kg"
              fixedUnit
              what="what stands in the vessel"
              [formField]="form.fields.grams"
              [refusal]="form.problemAt('grams')"
            />
          } @else {
            <div class="row">
              <ct-count label="Jars" [formField]="form.fields.count" />
              <ct-count label="Size, mL" [formField]="form.fields.sizeMl" />
              <ct-quantity label="Net, each" what="one jar" [formField]="form.fields.netGrams" />
            </div>
          }
          <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
          <div><button class="go" [ctRecord]="form" [needs]="missing()">Enter it as it stands</button></div>
        </form>
      </div>
    </div>
  `,
  styles: '.form { max-width: 620px; }',
})
export class Opening {
  private readonly router = inject(Router);
  private readonly house = injectHouse();
  protected readonly what = signal<'vessel' | 'jars'>('vessel');
  protected readonly form = recordingForm('lot.open', {
    fields: {
      grams: null as number | null,
      netGrams: null as number | null,
      count: null as number | null,
      sizeMl: 330 as number | null,
      name: '',
      vesselId: null as string | null,
      filledOn: '',
    },
    recorded: (recorded) => {
      void this.router.navigate(['/lots', String(recorded[0]?.facts['code'])]);
    },
  });
  protected readonly name = this.form.values.name;
  protected readonly filledOn = this.form.values.filledOn;
  protected readonly vesselId = this.form.values.vesselId;
  protected readonly grams = this.form.values.grams;
  protected readonly count = this.form.values.count;
  protected readonly sizeMl = this.form.values.sizeMl;
  protected readonly netGrams = this.form.values.netGrams;
  protected readonly today = computed(() => this.house.dates().today());
  protected readonly vessels = computed(() =>
    (this.house.house()?.vessels ?? [])
      .filter(isFillable)
      .map((vessel) => ({ id: vessel.id, label: `${vessel.tag} ${vessel.shape} ${vessel.brimMl / 1000} L` })),
  );
  protected readonly missing = computed((): readonly Need[] => [
    !this.name().trim() && 'what it is',
    dayProblem(this.filledOn(), this.today()) !== null && 'a day that can be read',
    ...(this.what() === 'vessel'
      ? [!this.vesselId() && 'which vessel', !this.grams() && 'how much']
      : [!this.count() && 'how many jars', !this.sizeMl() && 'their size', !this.netGrams() && 'what one holds']),
  ]);

  protected record(): void {
    if (this.missing().some(Boolean)) return;
    const common = { batchId: newId(), name: this.name().trim(), filledOn: this.filledOn() || null };
    this.form.record(
      this.form.entry(
        'lot.open',
        this.what() === 'vessel'
          ? { what: 'vessel', ...common, fillLotId: newId(), vesselId: this.vesselId()!, grams: this.grams()! }
          : {
              what: 'jars',
              ...common,
              runLotId: newId(),
              jars: [{ sizeMl: this.sizeMl()!, netGrams: this.netGrams()!, count: this.count()! }],
            },
      ),
    );
  }
}

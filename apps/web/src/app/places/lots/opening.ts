import { Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { dayProblem } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { keepTyped } from '../../state/typed';

/** What stood in the house before its ledger began: a live vessel, or jars on a shelf. */
@Component({
  selector: 'ct-opening',
  imports: [DayField, Choice, CountInput, QuantityInput, Refusal, TextField, TypedBeforeNote],
  template: `
    <div class="page">
      <div class="main stack">
        <h1>A lot from before the ledger</h1>
        <p class="soft">
          It comes in as it stands. What went in is not known here, and every trace says so. Packing asks for the same
          readings as for any other.
        </p>
        <form class="stack form" (submit)="$event.preventDefault(); record()">
          <ct-typed-before [typed]="typed" />
          <div class="choices" role="group" aria-label="What stands there">
            <button type="button" [attr.aria-pressed]="what() === 'vessel'" (click)="what.set('vessel')">
              A live vessel
            </button>
            <button type="button" [attr.aria-pressed]="what() === 'jars'" (click)="what.set('jars')">
              Jars on a shelf
            </button>
          </div>
          <ct-text label="What it is" [value]="name()" (valueChange)="name.set($event); form.edited()" />
          <ct-day label="Filled or packed on, if known" [latest]="today" [(value)]="filledOn" />
          @if (what() === 'vessel') {
            <ct-choice label="Vessel" [options]="vessels()" [(chosen)]="vesselId" (edited)="form.edited()" />
            <ct-quantity
              label="Stands in it"
              unit="kg"
              what="what stands in the vessel"
              [(grams)]="grams"
              [refusal]="form.problemAt('grams')"
              (edited)="form.edited()"
            />
          } @else {
            <div class="row">
              <ct-count label="Jars" [(count)]="count" />
              <ct-count label="Size, mL" [(count)]="sizeMl" />
              <ct-quantity label="Net, each" what="one jar" [(grams)]="netGrams" />
            </div>
          }
          <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
          <div><button class="go" [disabled]="!ready() || form.saving()">Enter it as it stands</button></div>
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
  protected readonly name = signal('');
  protected readonly filledOn = signal('');
  protected readonly vesselId = signal<string | null>(null);
  protected readonly grams = signal<number | null>(null);
  protected readonly count = signal<number | null>(null);
  protected readonly sizeMl = signal<number | null>(330);
  protected readonly netGrams = signal<number | null>(null);
  protected readonly typed = keepTyped(signal('opening'), {
    name: this.name,
    filledOn: this.filledOn,
    grams: this.grams,
    count: this.count,
    netGrams: this.netGrams,
  });
  protected readonly today = new Date().toISOString().slice(0, 10);
  protected readonly form = recordingForm('lot.open', (recorded) => {
    this.typed.done();
    void this.router.navigate(['/lots', String(recorded[0]?.facts['code'])]);
  });
  protected readonly vessels = computed(() =>
    (this.house.house()?.vessels ?? [])
      .filter((vessel) => vessel.inUse && !vessel.takenBy)
      .map((vessel) => ({ id: vessel.id, label: `${vessel.tag} ${vessel.shape} ${vessel.brimMl / 1000} L` })),
  );
  protected readonly ready = computed(
    () =>
      this.name().trim() !== '' &&
      dayProblem(this.filledOn(), this.today) === null &&
      (this.what() === 'vessel' ? this.vesselId() && this.grams() : this.count() && this.sizeMl() && this.netGrams()),
  );

  protected record(): void {
    if (!this.ready()) return;
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

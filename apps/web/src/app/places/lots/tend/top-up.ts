import { Choices } from '../../../ui/choices';
import { Component, computed, input, linkedSignal, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { TypedBeforeNote } from '../../../ui/typed-before';
import { effectsOf, formatGrams, formatPercent, saltBand, topUp } from '@clear-tally/core';
import { recordingForm } from '../../../state/form';
import { Choice } from '../../../ui/choice';
import { QuantityInput } from '../../../ui/quantity-input';
import { injectHouse } from '../../../state/house';
import { injectRights } from '../../../state/person';
import { Refusal } from '../../../ui/refusal';
import { TextField } from '../../../ui/text-field';
import { supplyChoices } from '../../make/supply-choices';

/** What ran over or evaporated, and the brine of the vessel's own strength that takes its place. Worked case W8. */
@Component({
  selector: 'ct-top-up',
  imports: [Choices, Choice, QuantityInput, Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <ct-choices
        label="What happened"
        [options]="[
          ['overflow', 'It ran over'],
          ['evaporation', 'It evaporated'],
        ]"
        [value]="how()"
        (picked)="how.set($event)"
      />
      <ct-quantity
        label="Lost"
        [what]="how() === 'overflow' ? 'brine' : 'water'"
        [gramsPerMl]="1.02"
        [formField]="form.fields.lost"
        [refusal]="form.problemAt('lostGrams')"
      />
      @if (answer(); as a) {
        @if (how() === 'overflow') {
          <ct-choices
            label="With what"
            [options]="[
              ['brine', 'With brine of its strength'],
              ['water', 'With plain water'],
            ]"
            [value]="using()"
            (picked)="using.set($event)"
          />
        }
        <p class="note">
          {{ how() === 'overflow' ? 'Salt went with it. ' : 'Only water is gone. ' }}In its place:
          <b class="figure">{{ a.saltGrams.toFixed(1) }} g</b> salt in
          <b class="figure">{{ mass(a.waterGrams) }}</b> water restores
          <b class="figure">{{ percent(a.before) }}</b> water-phase salt.
          @if (how() === 'overflow') {
            Plain water alone would give <b class="figure">{{ percent(a.withPlainWater) }}</b>.
          }
        </p>
        <div class="row">
          @if (dose().saltGrams > 0) {
            <ct-choice style="flex: 1" label="Salt from" [options]="salts.options()" [formField]="form.fields.salt" />
          }
          <ct-choice style="flex: 1" label="Water from" [options]="waters.options()" [formField]="form.fields.water" />
        </div>
        @if (band() !== 'usual') {
          <p [class.grave]="band() === 'weak'" [class.watch]="band() !== 'weak'">
            It would stand at <b class="figure">{{ percent(after()) }}</b>, {{ band() }}.
            @if (weak() && !rights.isOwner()) {
              It is thinned so only with a reviewer’s written reason.
            }
          </p>
          @if (weak() && rights.isOwner()) {
            <ct-text label="Why it is thinned so, for the record" [formField]="form.fields.reason" />
          }
        }
        <div>
          <button
            class="go"
            [ctRecord]="form"
            [needs]="[
              !water() && 'which water',
              dose().saltGrams > 0 && !salt() && 'which salt',
              weak() &&
                (!rights.isOwner() ? 'a reviewer, who may thin it so' : !reason().trim() && 'why it is so weak'),
            ]"
          >
            Top up with {{ mass(dose().saltGrams + dose().waterGrams) }}
          </button>
        </div>
        <p class="soft small">
          2 % of its contents or more makes it a new thing: what was read before no longer counts, until a blended
          reading.
        </p>
      } @else if (phase() === null) {
        <p class="watch">
          What went into this vessel is not known, so neither is its strength. Measure its salt first.
        </p>
      }
      <ct-refusal [message]="form.problemAt('lostGrams') ? null : form.problem()" />
    </form>
  `,
})
export class TopUp {
  readonly lotId = input.required<string>();
  /** What stands in it. */
  readonly phase = input.required<{ saltGrams: number; waterGrams: number } | null>();
  protected readonly how = signal<'overflow' | 'evaporation'>('overflow');
  protected readonly form = recordingForm('top up', {
    fields: { lost: null as number | null, reason: '', salt: null as string | null, water: null as string | null },
    about: this.lotId,
    recorded: () => this.lost.set(null),
  });
  protected readonly lost = this.form.values.lost;
  protected readonly salt = this.form.values.salt;
  protected readonly water = this.form.values.water;
  protected readonly salts = supplyChoices(signal('/api/supplies?kind=salt'));
  protected readonly waters = supplyChoices(signal('/api/supplies?kind=water'));
  protected readonly answer = computed(() => {
    const [phase, lost] = [this.phase(), this.lost()];
    return !phase || !lost || lost >= phase.saltGrams + phase.waterGrams
      ? null
      : topUp({ ...phase, lostGrams: lost, how: this.how() });
  });
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly reason = this.form.values.reason;
  /** As this house does it, until somebody chooses otherwise. */
  protected readonly using = linkedSignal<'brine' | 'water'>(
    () => effectsOf(this.house.house()?.rules ?? {}).topUpWith,
  );
  protected readonly dose = computed(() => {
    const answer = this.answer();
    if (!answer) return { saltGrams: 0, waterGrams: 0 };
    return this.how() === 'overflow' && this.using() === 'water'
      ? { saltGrams: 0, waterGrams: answer.saltGrams + answer.waterGrams }
      : { saltGrams: answer.saltGrams, waterGrams: answer.waterGrams };
  });
  protected readonly after = computed(() => {
    const answer = this.answer();
    return !answer ? 0 : this.how() === 'overflow' && this.using() === 'water' ? answer.withPlainWater : answer.before;
  });
  protected readonly band = computed(() => saltBand(this.after()));
  protected readonly weak = computed(
    () => this.band() === 'weak' && this.after() < (this.answer()?.before ?? 0) - 1e-9,
  );
  protected readonly mass = formatGrams;
  protected readonly percent = (value: number): string => formatPercent(value);

  protected record(): void {
    const answer = this.answer();
    if (!answer || !this.water()) return;
    const round = (grams: number): number => Math.round(grams * 10) / 10;
    this.form.record(
      this.form.entry('vessel.topUp', {
        lotId: this.lotId(),
        how: this.how(),
        lostGrams: this.lost()!,
        saltLotId: this.dose().saltGrams > 0 ? this.salt() : null,
        saltGrams: round(this.dose().saltGrams),
        waterLotId: this.water()!,
        waterGrams: round(this.dose().waterGrams),
        ...(this.weak() && this.reason().trim() ? { weakSaltReason: this.reason().trim() } : {}),
      }),
    );
  }
}

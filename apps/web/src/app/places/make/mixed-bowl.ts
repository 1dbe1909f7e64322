import { Component, computed, input, linkedSignal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { MakeReply } from '@clear-tally/contract';
import { formatWeighed, splitDose } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import type { LiveScale } from '../../state/scale';
import { Choice } from '../../ui/choice';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import type { SupplyOption } from './supply-choices';

/** Shares in whole per cents may miss a hundred by their roundings. */
const ROUNDING = 0.5;

/**
 * Several kinds of produce weighed together in one bowl: of each its lot and its share, as the formula has it until
 * somebody says otherwise. Each goes into the book as its share of what all of it weighed.
 */
@Component({
  selector: 'ct-mixed-bowl',
  imports: [Choice, FigureInput, FormField, QuantityInput, RecordButton, Refusal, TextField, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <h2>Weighed together</h2>
      <ct-typed-before [typed]="form.typed" />
      @for (part of parts(); track part.materialId) {
        <div class="row">
          <ct-choice
            style="flex: 1"
            [label]="part.name + ', from lot'"
            [options]="part.options"
            [value]="part.lotId"
            (valueChange)="chooseLot(part.materialId, $event)"
            [nothing]="'No lot of ' + part.name + ' is in the house'"
          />
          <ct-figure
            [label]="'Its share'"
            unit="%"
            [least]="0"
            [most]="100"
            [value]="part.percent"
            (valueChange)="say(part.materialId, $event)"
          />
          <p class="figure part" aria-live="polite">{{ part.grams === null ? '' : mass(part.grams) }}</p>
        </div>
      }
      @if (sum() !== null && sumIsOff()) {
        <p class="watch" role="status">The shares make {{ sum() }} %, not 100 %.</p>
      }
      <div class="row">
        <ct-quantity
          label="All together, on the scale"
          unit="kg"
          what="the trimmed produce"
          [planned]="planned()"
          [live]="scale().live()"
          [formField]="form.fields.all"
          [refusal]="form.problemAt('trimmedGrams')"
        />
        <button class="go" [ctRecord]="form" [needs]="needs()">
          Record {{ all() ? mass(all()!) : '' }} as {{ parts().length }} kinds
        </button>
      </div>
      <p class="soft small">The book says of each that it is its share of what was weighed together.</p>
      @if (form.problemAt('pastReason')) {
        <ct-text label="Why it goes in all the same" [formField]="form.fields.pastReason" />
      }
      @if (form.problemAt('frozenReason')) {
        <ct-text label="Why it goes in without a starter" [formField]="form.fields.frozenReason" />
      }
      <ct-refusal [message]="form.problemAt('trimmedGrams') ? null : form.problem()" />
    </form>
  `,
  styles: '.part { min-width: 110px; font-weight: 700; align-self: end; padding-bottom: 12px; }',
})
export class MixedBowl {
  readonly batch = input.required<MakeReply>();
  readonly options = input.required<readonly SupplyOption[]>();
  readonly scale = input.required<LiveScale>();
  protected readonly mass = formatWeighed;
  protected readonly form = recordingForm('produce.mixed', {
    fields: {
      all: null as number | null,
      lots: {} as Record<string, string | null>,
      percents: {} as Record<string, number | null>,
      pastReason: '',
      frozenReason: '',
    },
    about: computed(() => `mixed bowl of ${this.batch().batchId}`),
    recorded: () => {
      this.form.values.all.set(null);
      this.form.values.pastReason.set('');
      this.form.values.frozenReason.set('');
      this.scale().taken();
    },
  });
  private readonly lines = computed(() =>
    this.batch().planned.lines.flatMap(({ materialId, role, ...line }) =>
      role === 'produce' && materialId !== null ? [{ ...line, materialId }] : [],
    ),
  );
  protected readonly planned = computed(() => this.lines().reduce((sum, { grams }) => sum + (grams ?? 0), 0));
  protected readonly all = computed(() => this.scale().orReady(this.form.values.all()));
  /** The formula's shares, until somebody types others. */
  private readonly usual = linkedSignal(() =>
    Object.fromEntries(
      this.lines().map(({ materialId, grams }) => [
        materialId,
        Math.round(((grams ?? 0) / (this.planned() || 1)) * 1000) / 10,
      ]),
    ),
  );
  private readonly shares = computed(() =>
    this.lines().map(({ materialId, name }) => {
      const said = this.form.values.percents();
      const options = this.options().filter((option) => option.materialId === materialId);
      const free = options.filter(({ disabled }) => !disabled);
      return {
        materialId,
        name,
        options,
        lotId: this.form.values.lots()[materialId] ?? (free.length === 1 ? free[0]!.id : null),
        percent: materialId in said ? said[materialId]! : (this.usual()[materialId] ?? null),
      };
    }),
  );
  protected readonly sum = computed(() => {
    const percents = this.shares().map(({ percent }) => percent);
    return percents.some((one) => one === null)
      ? null
      : Math.round(percents.reduce<number>((sum, one) => sum + one!, 0) * 10) / 10;
  });
  protected readonly sumIsOff = computed(() => this.sum() === null || Math.abs(this.sum()! - 100) > ROUNDING);
  protected readonly parts = computed(() => {
    const all = this.all();
    const split =
      all && !this.sumIsOff()
        ? splitDose({
            doseGrams: Math.round(all * 10) / 10,
            shares: this.shares().map(({ percent }) => percent!),
            stepGrams: 0.1,
          })
        : null;
    return this.shares().map((part, index) => ({ ...part, grams: split ? split[index]! : null }));
  });
  protected readonly needs = computed(() => [
    ...this.shares().map(({ lotId, name }) => !lotId && `the lot of ${name}`),
    this.sumIsOff() && 'shares that make 100 %',
    !this.all() && 'how much',
  ]);

  protected chooseLot(materialId: string, lotId: string | null): void {
    this.form.values.lots.update((lots) => ({ ...lots, [materialId]: lotId }));
  }

  protected say(materialId: string, percent: number | null): void {
    this.form.values.percents.update((percents) => ({ ...percents, [materialId]: percent }));
  }

  protected record(): void {
    const all = this.all();
    if (!all || this.needs().some(Boolean)) return;
    const [past, frozen] = [this.form.values.pastReason().trim(), this.form.values.frozenReason().trim()];
    this.form.record(
      ...this.parts()
        .filter(({ grams }) => (grams ?? 0) > 0)
        .map(({ lotId, grams }) =>
          this.form.entry('produce.weigh', {
            batchId: this.batch().batchId,
            supplyLotId: lotId!,
            trimmedGrams: grams!,
            trimWasteGrams: 0,
            mixedGrams: all,
            ...(past ? { pastReason: past } : {}),
            ...(frozen ? { frozenReason: frozen } : {}),
            ...this.scale().used(this.form.values.all()),
          }),
        ),
    );
  }
}

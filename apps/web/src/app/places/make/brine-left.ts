import { Component, computed, input, linkedSignal, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { decideBrineClosed, formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { keptChoice } from '../../state/kept-choice';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';

/** Brine made, poured, left over: three numbers. The left-over asks whether it met the product. Worked case W12. */
@Component({
  selector: 'ct-brine-left',
  imports: [Choices, Choice, QuantityInput, Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (brine(); as brine) {
      <div class="rule stack">
        <h2>Brine of {{ brine.code }}</h2>
        <p class="figure numbers">
          <span
            >made <b>{{ mass(brine.madeGrams) }}</b></span
          ><span
            >poured <b>{{ mass(brine.pouredGrams) }}</b></span
          >
          @if (brine.elsewhereGrams > 0.5) {
            <span
              >used elsewhere, kept <b>{{ mass(brine.elsewhereGrams) }}</b></span
            >
          }
          @if (brine.lostGrams > 0.5) {
            <span
              >strained out, lost <b>{{ mass(brine.lostGrams) }}</b></span
            >
          }
          <span
            >left <b>{{ mass(brine.onHandGrams) }}</b></span
          >
        </p>
        @if (brine.spices.length > 0) {
          <p>
            In it, or boiled with it: <b>{{ brine.spices.join(', ') }}</b>. Their lots and allergens go wherever it
            goes.
          </p>
        }
        @if (brine.touched === 'never') {
          <p class="note">
            What is left never touched the product: it fills airlocks, tops up, or goes into another batch.
          </p>
        } @else if (brine.onHandGrams > 20) {
          <form class="stack" (submit)="$event.preventDefault()">
            <ct-typed-before [typed]="form.typed" />
            <p>Did what is left ever touch the product, or was it poured off it?</p>
            <div class="row">
              <ct-quantity
                label="Left, on the scale"
                unit="kg"
                what="the brine"
                [planned]="brine.onHandGrams"
                [zero]="true"
                [gramsPerMl]="1.03"
                [(value)]="grams"
                [refusal]="form.problemAt('grams')"
                (edited)="form.edited()"
              />
              @if (batch().fills.length > 1) {
                <ct-choice label="Poured off" [options]="fills()" [(value)]="fillId" />
              }
            </div>
            <div>
              <ct-choices
                shown
                label="Spices in it?"
                [options]="spiceAnswers"
                [value]="spices()"
                (picked)="spices.set($event); form.edited()"
              />
            </div>
            @if (differs(); as missing) {
              <div class="watch stack">
                <p>
                  Made and poured leave {{ mass(brine.onHandGrams) }}: <b>{{ mass(missing) }} is missing.</b> Weigh
                  again, or say where it went.
                </p>
                <ct-text label="Where the difference went" [formField]="form.fields.reason" />
              </div>
            }
            <div class="row">
              <button
                type="button"
                [ctRecord]="form"
                [needs]="[grams() === null && 'how much']"
                (click)="answer('never')"
              >
                It never touched it
              </button>
              <button
                type="button"
                [ctRecord]="form"
                [needs]="[grams() === null && 'how much', !fillId() && 'which vessel']"
                (click)="answer('pouredOff')"
              >
                Poured off it: keep as kept brine
              </button>
            </div>
            <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
          </form>
        }
      </div>
    }
  `,
  styles: '.numbers { display: flex; gap: 28px; } .numbers b { font-size: 20px; }',
})
export class BrineLeft {
  readonly batch = input.required<MakeReply>();
  protected readonly form = recordingForm('brine.left', {
    fields: { reason: '' },
    about: computed(() => this.batch().batchId),
  });
  protected readonly brine = computed(() => this.batch().preparations.find((row) => row.form === 'brine') ?? null);
  protected readonly grams = linkedSignal<number | null, number | null>({
    source: computed(() => this.brine()?.onHandGrams ?? null),
    computation: (left) => (left === null ? null : Math.round(left)),
  });
  protected readonly fills = computed(() => this.batch().fills.map((fill) => ({ id: fill.lotId, label: fill.code })));
  protected readonly fillId = keptChoice(this.fills, (fills) => (fills.length === 1 ? fills[0]!.id : null));
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly spiceAnswers = [
    ['none', 'None'],
    ['strained', 'Strained out'],
    ['in', 'Still in it'],
  ] as const;
  /** As its book has it, until somebody says otherwise. */
  protected readonly spices = linkedSignal<'none' | 'in' | 'strained'>(() =>
    this.brine()?.spices.length ? 'in' : 'none',
  );
  protected readonly reason = this.form.values.reason;
  /** What is missing beyond what weighing a brine is good for. */
  protected readonly differs = computed(() => {
    const [brine, left] = [this.brine(), this.grams()];
    return brine &&
      left !== null &&
      !decideBrineClosed({ code: brine.code, bookGrams: brine.onHandGrams, leftGrams: left }).ok
      ? brine.onHandGrams - left
      : null;
  });
  private readonly keptLotId = signal(newId());

  protected answer(touched: 'never' | 'pouredOff'): void {
    const off = touched === 'pouredOff';
    this.form.record(
      this.form.entry('brine.left', {
        brineLotId: this.brine()!.lotId,
        grams: this.grams()!,
        touched,
        fillLotId: off ? this.fillId() : null,
        keptLotId: off ? this.keptLotId() : null,
        spices: this.spices(),
        ...(this.differs() !== null ? { differenceReason: this.reason().trim() || null } : {}),
      }),
    );
  }
}

import { Component, computed, input, output } from '@angular/core';
import type { EntryReply, MetersReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { DayField } from '../../ui/day-field';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { TextField } from '../../ui/text-field';
import type { Field } from './fields';

const NOTHING = '-';

/** One field of an entry that is put right, as its kind wants it. */
@Component({
  selector: 'ct-correct-field',
  imports: [Choice, DayField, FigureInput, QuantityInput, TextField],
  template: `
    @switch (field().type) {
      @case ('mass') {
        <ct-quantity
          [label]="field().label"
          [value]="number()"
          [zero]="true"
          [refusal]="problem()"
          (valueChange)="say($event)"
        />
      }
      @case ('celsius') {
        <ct-figure
          [label]="field().label"
          kind="celsius"
          [value]="number()"
          [say]="problem()"
          (valueChange)="say($event)"
        />
      }
      @case ('percent') {
        <ct-figure
          [label]="field().label"
          kind="percent"
          [value]="number()"
          [say]="problem()"
          (valueChange)="say($event)"
        />
      }
      @case ('number') {
        <ct-figure [label]="field().label" [value]="number()" [say]="problem()" (valueChange)="say($event)" />
      }
      @case ('day') {
        <ct-day [label]="field().label" [value]="text()" (valueChange)="say($event || null)" />
      }
      @case ('yes') {
        <ct-choice
          [label]="field().label"
          [options]="yesNo"
          [value]="value() === undefined ? null : value() ? 'yes' : 'no'"
          (valueChange)="say($event === 'yes')"
        />
      }
      @case ('choice') {
        <ct-choice
          [label]="field().label"
          [options]="options()"
          [value]="text() || nothing"
          (valueChange)="say($event === nothing ? null : $event)"
        />
      }
      @case ('group') {
        <ct-choice
          [label]="field().label"
          [options]="saidOrNot"
          [value]="value() === null || value() === undefined ? 'no' : 'yes'"
          (valueChange)="said.emit($event === 'yes' ? (value() ?? {}) : field().blank)"
        />
      }
      @case ('more') {
        <div class="more">
          <button class="button" type="button" (click)="said.emit([...listedThings(), field().blank])">
            One more: {{ field().label }}
          </button>
          @if (listedThings().length > 0) {
            <button class="button" type="button" (click)="said.emit(listedThings().slice(0, -1))">
              Without the last
            </button>
          }
        </div>
      }
      @case ('listed') {
        <ct-choice [label]="field().label" [options]="listed()" [value]="text()" (valueChange)="say($event)" />
      }
      @case ('lot') {
        <ct-text
          [label]="field().label"
          [value]="code()"
          [problem]="problem()"
          say="its code"
          (valueChange)="lot.emit($event)"
        />
      }
      @default {
        <ct-text
          [label]="field().label"
          [value]="text()"
          [problem]="problem()"
          (valueChange)="say($event.trim() === '' && field().mayBeNothing ? null : $event)"
        />
      }
    }
  `,
  styles:
    ':host { display: block; min-width: 0; } ct-figure, ct-quantity { --figure-width: 100%; --quantity-width: 100%; }',
})
export class CorrectField {
  readonly field = input.required<Field>();
  readonly value = input<unknown>();
  readonly names = input.required<EntryReply['names']>();
  /** The code typed for a lot, while it is another than the recorded one. */
  readonly typedCode = input<string | null>(null);
  readonly problem = input<string | null>(null);
  readonly said = output<unknown>();
  readonly lot = output<string>();
  private readonly house = injectHouse();
  private readonly meters = shown<MetersReply>(computed(() => (this.field().of === 'meter' ? '/api/meters' : null)));
  protected readonly nothing = NOTHING;
  protected readonly yesNo = [
    { id: 'yes', label: 'Yes' },
    { id: 'no', label: 'No' },
  ];
  protected readonly saidOrNot = [
    { id: 'yes', label: 'Said' },
    { id: 'no', label: 'Not said' },
  ];
  protected readonly listedThings = computed(() => (Array.isArray(this.value()) ? (this.value() as unknown[]) : []));
  protected readonly number = computed(() => (typeof this.value() === 'number' ? (this.value() as number) : null));
  protected readonly text = computed(() => (typeof this.value() === 'string' ? (this.value() as string) : ''));
  protected readonly code = computed(() => this.typedCode() ?? this.names()[this.text()]?.name ?? '');
  protected readonly options = computed(() => [
    ...(this.field().mayBeNothing ? [{ id: NOTHING, label: 'Not said' }] : []),
    ...(this.field().options ?? []),
  ]);
  protected readonly listed = computed(() => {
    const house = this.house.house();
    switch (this.field().of) {
      case 'vessel':
        return (house?.vessels ?? []).map(({ id, tag }) => ({ id, label: tag }));
      case 'room':
        return (house?.rooms ?? []).map(({ id, name }) => ({ id, label: name }));
      case 'supplier':
        return (house?.suppliers ?? []).map(({ id, name }) => ({ id, label: name }));
      case 'meter':
        return (this.meters.data()?.meters ?? []).map(({ meterId, tag, name }) => ({
          id: meterId,
          label: tag,
          detail: name,
        }));
      default:
        return (house?.materials ?? []).map(({ id, name }) => ({ id, label: name }));
    }
  });

  /** A field that was left empty and may be stays as it was: left out. */
  protected say(value: unknown): void {
    this.said.emit(value === null && this.value() === undefined ? undefined : value);
  }
}

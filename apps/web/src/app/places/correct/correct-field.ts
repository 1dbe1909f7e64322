import { Component, computed, input, output, signal } from '@angular/core';
import type {
  CustomersReply,
  EntryReply,
  EquipmentReply,
  FormulasReply,
  MetersReply,
  PeopleReply,
} from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Choice, type Option } from '../../ui/choice';
import { DayField } from '../../ui/day-field';
import { FigureInput } from '../../ui/figure-input';
import { localMoment, momentAt } from '../../ui/moment-at';
import { QuantityInput } from '../../ui/quantity-input';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import type { Field } from './fields';

const NOTHING = '-';

/** One field of an entry that is put right, as its kind wants it. */
@Component({
  selector: 'ct-correct-field',
  imports: [Choice, DayField, FigureInput, QuantityInput, TextField, Tick],
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
        <ct-figure
          [label]="field().label"
          [unit]="field().unit || undefined"
          [value]="number()"
          [say]="problem()"
          (valueChange)="say($event)"
        />
      }
      @case ('day') {
        <ct-day [label]="field().label" [value]="text()" (valueChange)="say($event || null)" />
      }
      @case ('moment') {
        <div class="moment">
          <ct-day [label]="field().label" [value]="local().day" (valueChange)="sayMoment($event, local().time)" />
          <ct-text
            label="Time"
            [figures]="true"
            [value]="local().time"
            [problem]="halfTyped() ? 'like 14:05' : null"
            (valueChange)="sayMoment(local().day, $event)"
          />
        </div>
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
        <ct-choice [label]="field().label" [options]="options()" [value]="chosen()" (valueChange)="choose($event)" />
      }
      @case ('ticks') {
        <fieldset class="ticks">
          <legend class="label">{{ field().label }}</legend>
          @for (one of field().options; track one.id) {
            <ct-tick [value]="isTicked(one.id)" (valueChange)="tick(one.id, $event)">{{ one.label }}</ct-tick>
          }
        </fieldset>
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
        <ct-choice
          [label]="field().label"
          [options]="listed()"
          [value]="text() || (field().mayBeNothing ? nothing : null)"
          (valueChange)="say($event === nothing ? null : $event)"
        />
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
    @if (!saysItself() && problem()) {
      <span class="says beet small" aria-live="polite">{{ problem() }}</span>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    ct-figure,
    ct-quantity {
      --figure-width: 100%;
      --quantity-width: 100%;
    }
    .moment {
      display: flex;
      gap: 14px;
    }
    .moment ct-text {
      width: 110px;
    }
    .more {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .ticks {
      display: grid;
      gap: 8px;
      margin: 0;
      padding: 0;
      border: 0;
    }
    .says {
      display: block;
      padding-top: 6px;
    }
  `,
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
  private readonly customers = shown<CustomersReply>(
    computed(() => (this.field().of === 'customer' ? '/api/customers' : null)),
  );
  private readonly people = shown<PeopleReply>(computed(() => (this.field().of === 'person' ? '/api/people' : null)));
  private readonly formulas = shown<FormulasReply>(
    computed(() => (this.field().of === 'formula' ? '/api/formulas' : null)),
  );
  private readonly equipment = shown<EquipmentReply>(
    computed(() => (this.field().of === 'equipment' && !this.field().scale ? '/api/equipment' : null)),
  );
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
  protected readonly chosen = computed(() =>
    this.field().counted ? (this.number()?.toFixed() ?? NOTHING) : this.text() || NOTHING,
  );

  protected choose(option: string | null): void {
    const said = option === NOTHING ? null : option;
    this.say(said !== null && this.field().counted ? Number(said) : said);
  }

  protected isTicked(id: string): boolean {
    return this.listedThings().includes(id);
  }

  /** In the order of what is offered; what is offered no more, of another step, goes. */
  protected tick(id: string, on: boolean): void {
    const options = this.field().options ?? [];
    this.said.emit(options.map((one) => one.id).filter((one) => (one === id ? on : this.isTicked(one))));
  }

  protected readonly number = computed(() => (typeof this.value() === 'number' ? (this.value() as number) : null));
  protected readonly text = computed(() => (typeof this.value() === 'string' ? (this.value() as string) : ''));
  private readonly zone = computed(() => this.house.house()?.timeZone ?? 'UTC');
  /** A day and a time that are no moment yet: kept as they are typed. */
  protected readonly halfTyped = signal<{ readonly day: string; readonly time: string } | null>(null);
  protected readonly local = computed(
    () =>
      this.halfTyped() ??
      (Number.isNaN(Date.parse(this.text())) ? { day: '', time: '' } : localMoment(this.text(), this.zone())),
  );
  protected readonly code = computed(() => this.typedCode() ?? this.names()[this.text()]?.name ?? '');
  protected readonly options = computed(() => [
    ...(this.field().mayBeNothing ? [{ id: NOTHING, label: 'Not said' }] : []),
    ...(this.field().options ?? []),
  ]);
  protected readonly listed = computed(() => [
    ...(this.field().mayBeNothing ? [{ id: NOTHING, label: 'Not said' }] : []),
    ...this.things(),
  ]);
  /** The others show no words of their own beside what was chosen. */
  protected readonly saysItself = computed(() =>
    ['mass', 'celsius', 'percent', 'number', 'lot', 'text'].includes(this.field().type),
  );
  private readonly things = computed((): Option[] => {
    const house = this.house.house();
    switch (this.field().of) {
      case 'vessel':
        return (house?.vessels ?? []).map(({ id, tag, inUse, takenBy, details }) => ({
          id,
          label: tag,
          detail: !inUse ? (details.out === 'gone' ? 'gone' : 'under repair') : takenBy ? `holds ${takenBy}` : 'free',
        }));
      case 'equipment':
        return (this.field().scale ? (house?.scales ?? []) : (this.equipment.data()?.equipment ?? [])).map(
          ({ id, tag, name }) => ({ id, label: tag, detail: name }),
        );
      case 'customer':
        return (this.customers.data()?.customers ?? []).map(({ customerId, name, closed }) => ({
          id: customerId,
          label: name,
          detail: closed ? 'nothing more is sent' : '',
        }));
      case 'formula':
        return (this.formulas.data()?.formulas ?? []).map(({ formulaId, number, name, version }) => ({
          id: formulaId,
          label: name,
          detail: `formula ${number}, version ${version}`,
        }));
      case 'person':
        return (this.people.data()?.people ?? []).map(({ id, name, initials }) => ({
          id,
          label: name,
          detail: initials,
        }));
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

  /** What is no moment is sent as it stands, and refused in words at its field. */
  protected sayMoment(day: string, time: string): void {
    const at = momentAt(day, time, this.zone());
    this.halfTyped.set(at === null ? { day, time } : null);
    this.say(at ?? (day === '' && time === '' ? null : `${day} ${time}`.trim()));
  }

  /** Nothing is written as its kind writes it: left out, or said to be none. */
  protected say(value: unknown): void {
    const { mayBeNothing, nothing } = this.field();
    this.said.emit(
      value === null && mayBeNothing && (nothing === undefined || this.value() === undefined) ? undefined : value,
    );
  }
}

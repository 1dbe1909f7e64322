import { Component, computed, effect, input, output, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { EquipmentReply } from '@clear-tally/contract';
import { EQUIPMENT_KINDS, EQUIPMENT_WORDS, type EquipmentKind } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { CountInput } from '../../ui/count-input';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';

const WORDS_OF: Readonly<Record<EquipmentKind, readonly [string, string]>> = {
  scale: ['Anything else', 'stands on the bench'],
  tool: ['Made of', 'stainless steel'],
  parts: ['Which', 'glass weights, 70 mm'],
  water: ['How it is treated', 'boiled and cooled'],
};

/** A scale, a tool, loose parts or a water source: a new one, or one that is otherwise from now on. */
@Component({
  selector: 'ct-equipment-form',
  imports: [CountInput, FormField, QuantityInput, RecordButton, Refusal, Select, TextField, Tick, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); keep()">
      <h2>{{ piece() ? 'Change ' + piece()!.tag : 'A new one' }}</h2>
      <ct-typed-before [typed]="form.typed" />
      @if (!piece()) {
        <ct-select
          label="What it is"
          [options]="kinds"
          [value]="form.values.kind()"
          (valueChange)="form.values.kind.set($event)"
        />
        <ct-text
          label="Tag"
          placeholder="S1"
          [value]="form.values.tag()"
          (valueChange)="form.values.tag.set($event.toUpperCase())"
        />
      }
      <ct-text label="Name" placeholder="bench scale" [formField]="form.fields.name" />
      @switch (form.values.kind()) {
        @case ('scale') {
          <ct-quantity label="Weighs up to" [formField]="form.fields.capacity" />
          <ct-quantity label="Smallest step" [formField]="form.fields.step" />
        }
        @case ('parts') {
          <ct-count label="How many" [formField]="form.fields.count" />
        }
      }
      <ct-text [label]="wordsOf()[0]" [placeholder]="wordsOf()[1]" [formField]="form.fields.words" />
      <ct-select
        label="Kept in"
        empty="no room of its own"
        [options]="rooms()"
        [value]="form.values.roomId()"
        (valueChange)="form.values.roomId.set($event)"
      />
      @if (piece()) {
        <ct-tick [formField]="form.fields.inUse">it is in use</ct-tick>
        <ct-text label="Why, for the book" [formField]="form.fields.reason" />
      }
      <button class="go" [ctRecord]="form" [needs]="needs()">
        {{ piece() ? 'Keep it so' : 'Add ' + (form.values.tag() || 'it') }}
      </button>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
})
export class EquipmentForm {
  readonly piece = input<EquipmentReply['equipment'][number] | null>(null);
  readonly done = output();
  private readonly house = injectHouse();
  protected readonly kinds = EQUIPMENT_KINDS.map((kind) => [kind, EQUIPMENT_WORDS[kind]] as const);
  protected readonly rooms = computed(() =>
    (this.house.house()?.rooms ?? []).map(({ id, name }) => [id, name] as const),
  );
  protected readonly form = recordingForm('equipment', {
    fields: {
      kind: 'scale' as EquipmentKind,
      tag: '',
      name: '',
      capacity: null as number | null,
      step: null as number | null,
      count: null as number | null,
      words: '',
      roomId: '',
      inUse: true,
      reason: '',
    },
    about: computed(() => this.piece()?.id ?? 'new'),
    recorded: () => {
      const v = this.form.values;
      [v.tag, v.name, v.words, v.reason].forEach((field) => field.set(''));
      [v.capacity, v.step, v.count].forEach((field) => field.set(null));
      this.done.emit();
    },
  });
  protected readonly wordsOf = computed(() => WORDS_OF[this.form.values.kind()]);
  protected readonly needs = computed(() => {
    const v = this.form.values;
    return [
      !this.piece() && !/^[A-Z][A-Z0-9]{0,5}$/.test(v.tag().trim()) && 'a tag such as S1',
      !v.name().trim() && 'its name',
      v.kind() === 'scale' && v.capacity() === null && 'what it weighs at most',
      v.kind() === 'scale' && v.step() === null && 'its smallest step',
      v.kind() === 'parts' && v.count() === null && 'how many there are',
    ];
  });

  constructor() {
    // The form of one that is chosen begins with what is known of it.
    effect(() => {
      const of = this.piece();
      untracked(() => of && this.fill(of));
    });
  }

  private fill(of: EquipmentReply['equipment'][number]): void {
    const v = this.form.values;
    v.kind.set(of.kind);
    v.name.set(of.name);
    v.capacity.set(of.capacityGrams);
    v.step.set(of.stepGrams);
    v.count.set(of.count);
    v.words.set(of.words ?? '');
    v.roomId.set(of.roomId ?? '');
    v.inUse.set(of.inUse);
  }

  protected keep(): void {
    if (this.needs().some(Boolean)) return;
    const of = this.piece();
    const v = this.form.values;
    const isScale = v.kind() === 'scale';
    const body = {
      kind: v.kind(),
      tag: of?.tag ?? v.tag().trim(),
      name: v.name().trim(),
      roomId: v.roomId() || null,
      capacityGrams: isScale ? v.capacity() : null,
      stepGrams: isScale ? v.step() : null,
      count: v.kind() === 'parts' ? v.count() : null,
      words: v.words().trim() || null,
      inUse: of ? v.inUse() : true,
    };
    this.form.record(
      of
        ? this.form.entry('equipment.change', { ...body, equipmentId: of.id, reason: v.reason().trim() || null })
        : this.form.entry('equipment.add', { ...body, equipmentId: newId() }),
    );
  }
}

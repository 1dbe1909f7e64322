import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { allowedWords, besideAllowed, parseTemperature } from '@clear-tally/core';
import type { FloorVessel } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectDecimalMark, injectHouse } from '../../state/house';
import { TextField } from '../../ui/text-field';
import { Refusal } from '../../ui/refusal';
import { openChecks } from './round';

/** The thermometer on the wall: one reading for every vessel of the room that wants its temperature. */
@Component({
  selector: 'ct-room-warmth',
  imports: [Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (wanting().length > 0) {
      <form (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="form.typed" />
        <span class="soft small"
          >Room temperature,<br />for {{ wanting().length }} {{ wanting().length === 1 ? 'vessel' : 'vessels' }}</span
        >
        <ct-text
          [bare]="true"
          [label]="'Temperature of ' + room()"
          [figures]="true"
          unit="°C"
          [formField]="form.fields.typed"
          [problem]="problem()"
        />
        <button [ctRecord]="form" [needs]="[celsius() === null && 'the temperature']">
          Record {{ celsius() === null ? '' : celsius()!.toFixed(1) + ' °C' }}
        </button>
      </form>
      @if (beside(); as words) {
        <p class="watch" role="status">{{ words }}</p>
      }
      <ct-refusal [message]="form.problem()" />
    }
  `,
  styles: 'form { display: flex; flex-wrap: wrap; gap: 12px; align-items: center; } ct-text { width: 130px; }',
})
export class RoomWarmth {
  readonly vessels = input.required<readonly FloorVessel[]>();
  readonly room = input.required<string>();
  readonly recorded = output();
  private readonly house = injectHouse();
  private readonly mark = injectDecimalMark();
  protected readonly form = recordingForm('room', {
    fields: { typed: '' },
    about: this.room,
    recorded: () => {
      this.typed.set('');
      this.recorded.emit();
    },
  });
  protected readonly typed = this.form.values.typed;
  private readonly parsed = computed(() =>
    this.typed().trim() === '' ? null : parseTemperature({ text: this.typed(), decimalMark: this.mark() }),
  );
  protected readonly problem = computed(() => {
    const parsed = this.parsed();
    return parsed && !parsed.ok ? parsed.refusal.message : null;
  });
  protected readonly celsius = computed(() => {
    const parsed = this.parsed();
    return parsed?.ok ? parsed.value : null;
  });
  /** The room as it was set up says what is allowed in it. */
  protected readonly beside = computed(() => {
    const celsius = this.celsius();
    const details = this.house.house()?.rooms.find(({ name }) => name === this.room())?.details;
    const beside = celsius === null || !details ? null : besideAllowed(celsius, details);
    return (
      beside &&
      `That is ${beside} than ${this.room()} allows: ${allowedWords(details!)}. Read it again; if it is so, look at the vessels first that sour or soften soonest.`
    );
  });
  protected readonly wanting = computed(() =>
    this.vessels().filter((vessel) => openChecks(vessel).some(({ what }) => what === 'temperature')),
  );

  protected record(): void {
    const celsius = this.celsius();
    if (celsius !== null)
      this.form.record(
        ...this.wanting()
          .slice(0, 120)
          .map(({ lotId }) => this.form.entry('temperature.read', { lotId, celsius })),
      );
  }
}

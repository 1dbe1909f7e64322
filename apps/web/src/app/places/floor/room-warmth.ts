import { Component, computed, input, output, signal } from '@angular/core';
import type { FloorVessel } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { FigureInput } from '../../ui/figure-input';
import { Refusal } from '../../ui/refusal';
import { openChecks } from './round';

/** The thermometer on the wall: one reading for every vessel of the room that wants its temperature. */
@Component({
  selector: 'ct-room-warmth',
  imports: [FigureInput, Refusal],
  template: `
    @if (wanting().length > 0) {
      <form class="row" (submit)="$event.preventDefault(); record()">
        <ct-figure [label]="'Room temperature, for ' + wanting().length + (wanting().length === 1 ? ' vessel' : ' vessels')" kind="celsius" [least]="-5" [most]="45" [(value)]="celsius" />
        <button [disabled]="celsius() === null || form.saving()">Record {{ celsius() === null ? '' : celsius()!.toFixed(1) + ' °C' }}</button>
      </form>
      <ct-refusal [message]="form.problem()" />
    }
  `,
  styles: ':host { display: block; --figure-width: 264px; }',
})
export class RoomWarmth {
  readonly vessels = input.required<readonly FloorVessel[]>();
  readonly recorded = output();
  protected readonly celsius = signal<number | null>(null);
  protected readonly form = recordingForm('room', () => {
    this.celsius.set(null);
    this.recorded.emit();
  });
  protected readonly wanting = computed(() => this.vessels().filter((vessel) => openChecks(vessel).some(({ what }) => what === 'temperature')));

  protected record(): void {
    const celsius = this.celsius();
    if (celsius !== null) this.form.record(...this.wanting().slice(0, 120).map(({ lotId }) => this.form.entry('temperature.read', { lotId, celsius })));
  }
}

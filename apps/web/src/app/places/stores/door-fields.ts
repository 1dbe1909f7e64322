import { Component, input, output } from '@angular/core';
import { type AtDoor, DOOR_STATES, type DoorAsk } from '@clear-tally/core';
import { Choices } from '../../ui/choices';
import { FigureInput } from '../../ui/figure-input';
import { TextField } from '../../ui/text-field';

/** What was seen at the door, as far as the material asks for it. */
@Component({
  selector: 'ct-door-fields',
  imports: [Choices, FigureInput, TextField],
  template: `
    @if (asks().includes('variety')) {
      <ct-text
        style="width: 240px"
        label="Variety"
        [value]="door().variety ?? ''"
        (valueChange)="seen.emit({ variety: $event })"
      />
    }
    @if (asks().includes('state')) {
      <ct-choices
        label="It came"
        shown
        [options]="states"
        [value]="door().state ?? null"
        (picked)="seen.emit({ state: $event })"
      />
    }
    @if (asks().includes('celsius')) {
      <ct-figure
        label="Its temperature"
        unit="°C"
        [least]="-40"
        [most]="60"
        [value]="door().celsius ?? null"
        (valueChange)="seen.emit({ celsius: $event })"
      />
    }
  `,
  host: { class: 'row' },
})
export class DoorFields {
  readonly asks = input.required<readonly DoorAsk[]>();
  readonly door = input.required<AtDoor>();
  /** What was said of it, and nothing else. */
  readonly seen = output<AtDoor>();
  protected readonly states = DOOR_STATES;
}

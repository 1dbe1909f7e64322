import { writeHello, writeTemperature } from '@clear-tally/core';
import { seeded, type SimulatedDevice } from './device.js';

/** A kettle on a strong fire comes up in about so long, ms; off the fire it takes its time. */
const HEATS_MS = 20_000;
const COOLS_MS = 120_000;
const ROOM_C = 20;
/** How far two readings of a steady kettle lie apart, °C. */
const FLICKER_C = 0.2;

/** A probe at the cold spot of a kettle. `SIM heat 88` puts the kettle on, `SIM cool` takes it off the fire. */
export class SimulatedThermometer implements SimulatedDevice {
  unplugged = false;
  private celsius = ROOM_C;
  private aim = ROOM_C;
  private silent = false;
  private readonly random: () => number;

  constructor(
    private readonly name: string,
    seed = 1,
  ) {
    this.random = seeded(seed);
  }

  hello(): string {
    return writeHello({ kind: 'thermometer', name: this.name, simulated: true });
  }

  pass(milliseconds: number): string[] {
    const slow = this.aim > this.celsius ? HEATS_MS : COOLS_MS;
    this.celsius = this.aim + (this.celsius - this.aim) * Math.exp(-milliseconds / slow);
    return this.silent ? [] : [writeTemperature(this.celsius + (this.random() - 0.5) * FLICKER_C)];
  }

  hear(line: string): string[] {
    const [verb, action = '', figure = ''] = line.trim().split(' ');
    if (verb !== 'SIM') return [`NO ${verb || 'LINE'} unknown`];
    switch (action) {
      case 'heat': {
        const celsius = Number(figure);
        if (figure === '' || !(celsius > ROOM_C && celsius <= 105)) return ['NO SIM amount'];
        this.aim = celsius;
        return ['DONE SIM'];
      }
      case 'cool':
        this.aim = ROOM_C;
        return ['DONE SIM'];
      case 'silent':
        this.silent = !this.silent;
        return ['DONE SIM'];
      case 'drop':
        this.unplugged = true;
        return ['DONE SIM'];
      case 'plug':
        this.unplugged = false;
        return ['DONE SIM'];
      default:
        return ['NO SIM unknown'];
    }
  }
}

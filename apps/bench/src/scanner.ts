import { writeHello } from '@clear-tally/core';
import type { SimulatedDevice } from './device.js';

/** A code scanner: says what it was pointed at. */
export class SimulatedScanner implements SimulatedDevice {
  unplugged = false;
  private readonly seen: string[] = [];

  constructor(private readonly name: string) {}

  hello(): string {
    return writeHello({ kind: 'scanner', name: this.name, simulated: true });
  }

  hear(line: string): string[] {
    const [verb, action, ...code] = line.trim().split(' ');
    if (verb !== 'SIM') return [`NO ${verb || 'LINE'} unknown`];
    if (action === 'scan' && code.length > 0) this.seen.push(code.join(' '));
    else if (action === 'drop') this.unplugged = true;
    else if (action === 'plug') this.unplugged = false;
    else return ['NO SIM unknown'];
    return ['DONE SIM'];
  }

  pass(): string[] {
    return this.seen.splice(0).map((code) => `SCAN ${code}`);
  }
}

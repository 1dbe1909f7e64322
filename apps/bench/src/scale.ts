import { rangeFor, UNIT_GRAMS, writeHello, writeReading, type ScaleRange, type ScaleUnit } from '@clear-tally/core';
import { seeded, type SimulatedDevice } from './device.js';

/** A pan comes to rest in about so long, ms. */
const SETTLING_MS = 160;
/** Standing still for so long it calls itself settled, ms. */
const STILL_MS = 300;

/**
 * A bench scale with two ranges: it settles, trembles a little, is tared, overloads, can be switched to ounces,
 * fall silent, garble a line. `SIM` lines are what a hand does to it.
 */
export class SimulatedScale implements SimulatedDevice {
  unplugged = false;
  private load = 0;
  private shown = 0;
  private tare = 0;
  private unit: ScaleUnit = 'g';
  private stillFor = 0;
  private silent = false;
  private garbling = 0;
  private readonly random: () => number;

  constructor(
    private readonly name: string,
    private readonly ranges: readonly ScaleRange[],
    seed = 1,
  ) {
    this.random = seeded(seed);
  }

  hello(): string {
    return writeHello({ kind: 'scale', name: this.name, simulated: true, ranges: this.ranges });
  }

  pass(milliseconds: number): string[] {
    this.shown = this.load + (this.shown - this.load) * Math.exp(-milliseconds / SETTLING_MS);
    const still = Math.abs(this.shown - this.load) < this.step() / 2;
    this.stillFor = still ? this.stillFor + milliseconds : 0;
    if (this.silent) return [];
    if (this.garbling > 0) {
      this.garbling -= 1;
      return [writeReading(this.reading()).slice(0, 9)];
    }
    return [rangeFor(this.ranges, this.shown) === null ? 'OVER' : writeReading(this.reading())];
  }

  hear(line: string): string[] {
    const [verb, action = '', amount = ''] = line.trim().split(' ');
    if (verb === 'TARE')
      return this.settled()
        ? this.done('TARE', () => {
            this.tare = this.round(this.load);
          })
        : ['NO TARE moving'];
    if (verb === 'ZERO')
      return this.settled()
        ? this.done('ZERO', () => {
            this.tare = 0;
            this.load = 0;
            this.shown = 0;
          })
        : ['NO ZERO moving'];
    if (verb === 'UNIT')
      return action in UNIT_GRAMS
        ? this.done('UNIT', () => {
            this.unit = action as ScaleUnit;
          })
        : ['NO UNIT unknown'];
    if (verb !== 'SIM') return [`NO ${verb || 'LINE'} unknown`];
    const grams = Number(amount);
    switch (action) {
      case 'put':
      case 'take':
        return Number.isFinite(grams) && grams > 0
          ? this.done('SIM', () => {
              this.move(action === 'put' ? grams : -grams);
            })
          : ['NO SIM amount'];
      case 'clear':
        return this.done('SIM', () => {
          this.move(-this.load);
        });
      case 'silent':
        return this.done('SIM', () => {
          this.silent = !this.silent;
        });
      case 'garble':
        return this.done('SIM', () => {
          this.garbling = 6;
        });
      case 'drop':
        return this.done('SIM', () => {
          this.unplugged = true;
        });
      case 'plug':
        return this.done('SIM', () => {
          this.unplugged = false;
        });
      default:
        return ['NO SIM unknown'];
    }
  }

  private reading() {
    const range = rangeFor(this.ranges, this.shown) ?? this.ranges.length - 1;
    const tremble = this.settled() ? 0 : (this.random() - 0.5) * this.step() * 2;
    const net = this.round(this.shown + tremble) - this.tare;
    const value = this.unit === 'g' ? net : Math.round((net / UNIT_GRAMS[this.unit]) * 1000) / 1000;
    return {
      value: Math.round(value * 1000) / 1000,
      unit: this.unit,
      settled: this.settled(),
      tareGrams: this.tare,
      range: range + 1,
    };
  }

  private move(grams: number): void {
    this.load = Math.max(0, this.load + grams);
    this.stillFor = 0;
  }

  private done(what: string, change: () => void): string[] {
    change();
    return [`DONE ${what}`];
  }

  private settled = (): boolean => this.stillFor >= STILL_MS;
  private step = (): number => this.ranges[rangeFor(this.ranges, this.shown) ?? this.ranges.length - 1]!.stepGrams;
  private round = (grams: number): number => Math.round(grams / this.step()) * this.step();
}

import { millivoltsOf, phOf, writeHello, writePh } from '@clear-tally/core';
import { seeded, type SimulatedDevice } from './device.js';

/** A gel-filled electrode comes to rest in about so long, ms. */
const SLOW_MS = 900;
/** Closer to its end than this it calls itself settled, mV. */
const STILL_MILLIVOLTS = 0.6;
/** How fast its zero wanders and its slope tires, each hour. */
const DRIFT_MILLIVOLTS = -1.2;
const TIRES_PERCENT = 0.05;

/**
 * A pH meter with a slow electrode that drifts and tires, so that it needs its buffers: out of the drawer it
 * reads a quarter of a pH off. `SIM` lines dip it, `CAL slope offset` gives it a calibration.
 */
export class SimulatedPhMeter implements SimulatedDevice {
  unplugged = false;
  private sample = { ph: 7, celsius: 20, dry: true };
  private electrode = { slopePercent: 95.5, offsetMillivolts: -9 };
  private calibration = { slopePercent: 100, offsetMillivolts: 0 };
  private millivolts = 0;
  private silent = false;
  private readonly random: () => number;

  constructor(
    private readonly name: string,
    seed = 1,
  ) {
    this.random = seeded(seed);
  }

  hello(): string {
    return writeHello({ kind: 'phMeter', name: this.name, simulated: true });
  }

  pass(milliseconds: number): string[] {
    const hours = milliseconds / 3_600_000;
    this.electrode = {
      slopePercent: this.electrode.slopePercent - TIRES_PERCENT * hours,
      offsetMillivolts: this.electrode.offsetMillivolts + DRIFT_MILLIVOLTS * hours,
    };
    const end = this.end();
    this.millivolts = end + (this.millivolts - end) * Math.exp(-milliseconds / SLOW_MS);
    if (this.silent) return [];
    const settled = !this.sample.dry && Math.abs(this.millivolts - end) < STILL_MILLIVOLTS;
    const shown = this.millivolts + (this.random() - 0.5) * (this.sample.dry ? 30 : settled ? 0.2 : 2);
    const ph = phOf({ millivolts: shown, celsius: this.sample.celsius, ...this.calibration });
    return [writePh({ ph: Math.min(14, Math.max(0, ph)), millivolts: shown, celsius: this.sample.celsius, settled })];
  }

  hear(line: string): string[] {
    const [verb, action = '', figure = '', warmth = ''] = line.trim().split(' ');
    if (verb === 'CAL') {
      const [slopePercent, offsetMillivolts] = [Number(action), Number(figure)];
      if (!(slopePercent > 50 && slopePercent < 150 && Math.abs(offsetMillivolts) < 200)) return ['NO CAL unlikely'];
      this.calibration = { slopePercent, offsetMillivolts };
      return ['DONE CAL'];
    }
    if (verb !== 'SIM') return [`NO ${verb || 'LINE'} unknown`];
    switch (action) {
      case 'dip': {
        const ph = Number(figure);
        const celsius = warmth === '' ? this.sample.celsius : Number(warmth);
        if (!(ph >= 0 && ph <= 14 && celsius >= -2 && celsius <= 60)) return ['NO SIM amount'];
        this.sample = { ph, celsius, dry: false };
        return ['DONE SIM'];
      }
      case 'lift':
        this.sample = { ...this.sample, dry: true };
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

  private end(): number {
    return this.sample.dry ? 40 : millivoltsOf({ ph: this.sample.ph, celsius: this.sample.celsius, ...this.electrode });
  }
}

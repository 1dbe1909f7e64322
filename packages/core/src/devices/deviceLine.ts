import { firstOf, shownText } from '../typing/index.js';
import { UNIT_GRAMS, type ScaleUnit } from './scaleUnits.js';

export const DEVICE_KINDS = ['scale', 'printer', 'scanner', 'phMeter', 'thermometer'] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];
export const PRINTER_STATES = ['ready', 'jammed', 'empty'] as const;
export type PrinterState = (typeof PRINTER_STATES)[number];

/** A range of a scale: up to so many grams, in steps of so many. */
export interface ScaleRange {
  readonly capacityGrams: number;
  readonly stepGrams: number;
}

/** What the scale says: net of its tare, in the unit it is switched to. */
export interface ScaleReading {
  /** In `unit`. */
  readonly value: number;
  readonly unit: ScaleUnit;
  readonly grams: number;
  readonly settled: boolean;
  readonly tareGrams: number;
  readonly range: number;
}

/** What a pH meter says: by its own calibration, with what its electrode gives and the temperature of the sample. */
export interface PhReading {
  readonly ph: number;
  readonly millivolts: number;
  readonly celsius: number;
  readonly settled: boolean;
}

/** One line of a device, understood. `garbled` is a line that was cut, mixed or is of no verb known. */
export type DeviceLine =
  | {
      readonly verb: 'hello';
      readonly kind: DeviceKind;
      readonly name: string;
      readonly simulated: boolean;
      readonly ranges: readonly ScaleRange[];
    }
  | { readonly verb: 'read'; readonly reading: ScaleReading }
  | { readonly verb: 'over' }
  | { readonly verb: 'ph'; readonly reading: PhReading }
  /** A probe at the cold spot of a kettle or a bath, °C. */
  | { readonly verb: 'temp'; readonly celsius: number }
  | { readonly verb: 'state'; readonly state: PrinterState; readonly labels: number }
  | { readonly verb: 'printed'; readonly job: string; readonly labels: number }
  | { readonly verb: 'paper'; readonly job: string; readonly svg: string }
  | { readonly verb: 'scan'; readonly code: string }
  | { readonly verb: 'done'; readonly command: string }
  | { readonly verb: 'no'; readonly command: string; readonly why: string }
  | { readonly verb: 'garbled'; readonly text: string };

/**
 * Reads a line of the bench's plain-text protocol, as docs/bench-protocol.md has it.
 * @example readDeviceLine('READ 192 g settled tare=214 range=1') //=> { verb: 'read', reading: { value: 192, unit: 'g', grams: 192, settled: true, tareGrams: 214, range: 1 } }
 */
export function readDeviceLine(text: string): DeviceLine {
  const garbled: DeviceLine = { verb: 'garbled', text: firstOf(shownText(text), 120) };
  const words = text.trim().split(' ');
  const [verb, first = '', second = '', third = ''] = words;
  const value = (name: string): string | undefined =>
    words.find((word) => word.startsWith(`${name}=`))?.slice(name.length + 1);
  switch (verb) {
    case 'HELLO': {
      const kind = DEVICE_KINDS.find((one) => one === first);
      const name = value('name')?.replaceAll('_', ' ');
      if (!kind || !name) return garbled;
      return {
        verb: 'hello',
        kind,
        name,
        simulated: value('simulated') === 'yes',
        ranges: readRanges(value('ranges')),
      };
    }
    case 'READ': {
      const figure = /^-?\d+(\.\d+)?$/.test(first) ? Number(first) : NaN;
      const tareGrams = Number(value('tare') ?? 'x');
      const range = Number(value('range') ?? '1');
      if (
        !Number.isFinite(figure) ||
        !(second in UNIT_GRAMS) ||
        (third !== 'settled' && third !== 'moving') ||
        !Number.isFinite(tareGrams) ||
        !Number.isInteger(range)
      )
        return garbled;
      const unit = second as ScaleUnit;
      return {
        verb: 'read',
        reading: {
          value: figure,
          unit,
          grams: Math.round(figure * UNIT_GRAMS[unit] * 1000) / 1000,
          settled: third === 'settled',
          tareGrams,
          range,
        },
      };
    }
    case 'PH': {
      const figures = [first, value('mv') ?? '', value('c') ?? ''].map((text) =>
        /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : NaN,
      );
      const standing = words.at(-1);
      if (figures.some((figure) => !Number.isFinite(figure)) || (standing !== 'settled' && standing !== 'moving'))
        return garbled;
      return {
        verb: 'ph',
        reading: { ph: figures[0]!, millivolts: figures[1]!, celsius: figures[2]!, settled: standing === 'settled' },
      };
    }
    case 'TEMP':
      return /^-?\d{1,3}(\.\d+)?$/.test(first) ? { verb: 'temp', celsius: Number(first) } : garbled;
    case 'OVER':
      return { verb: 'over' };
    case 'STATE': {
      const state = PRINTER_STATES.find((one) => one === first);
      const labels = Number(value('labels') ?? 'x');
      return state && Number.isInteger(labels) ? { verb: 'state', state, labels } : garbled;
    }
    case 'PRINTED': {
      const labels = Number(value('labels') ?? 'x');
      return first && Number.isInteger(labels) ? { verb: 'printed', job: first, labels } : garbled;
    }
    // What a simulated printer put on its paper, as an SVG picture in base64.
    case 'PAPER':
      return /^[A-Za-z0-9+/=]+$/.test(second) ? { verb: 'paper', job: first, svg: second } : garbled;
    case 'SCAN':
      return words.length > 1 ? { verb: 'scan', code: words.slice(1).join(' ') } : garbled;
    case 'DONE':
      return first ? { verb: 'done', command: first } : garbled;
    case 'NO':
      return first ? { verb: 'no', command: first, why: words.slice(2).join(' ') } : garbled;
    default:
      return garbled;
  }
}

/** A scale's reading as its line. `readDeviceLine(writeReading(r))` is `r`. */
export const writeReading = (reading: Omit<ScaleReading, 'grams'>): string =>
  `READ ${reading.value} ${reading.unit} ${reading.settled ? 'settled' : 'moving'} tare=${reading.tareGrams} range=${reading.range}`;

/** A pH meter's reading as its line: `PH 3.68 mv=191.4 c=19.2 settled`. */
export const writePh = (reading: PhReading): string =>
  `PH ${reading.ph.toFixed(2)} mv=${reading.millivolts.toFixed(1)} c=${reading.celsius.toFixed(1)} ${reading.settled ? 'settled' : 'moving'}`;

/** A probe's reading as its line: `TEMP 84.6`. */
export const writeTemperature = (celsius: number): string => `TEMP ${celsius.toFixed(1)}`;

/** What a device says first. Blanks in names are written as underscores. */
export const writeHello = (device: {
  kind: DeviceKind;
  name: string;
  simulated: boolean;
  ranges?: readonly ScaleRange[];
}): string =>
  [
    `HELLO ${device.kind} name=${device.name.replaceAll(' ', '_')} simulated=${device.simulated ? 'yes' : 'no'}`,
    ...(device.ranges?.length
      ? [`ranges=${device.ranges.map((range) => `${range.capacityGrams}x${range.stepGrams}`).join(',')}`]
      : []),
  ].join(' ');

function readRanges(text: string | undefined): ScaleRange[] {
  return (text ?? '').split(',').flatMap((part) => {
    const [capacityGrams, stepGrams] = part.split('x').map(Number);
    return capacityGrams && stepGrams ? [{ capacityGrams, stepGrams }] : [];
  });
}

import { readDeviceLine, slopeAndOffset, type PhReading } from '@clear-tally/core';
import { SimulatedPhMeter } from '../src/phMeter.js';

const read = (meter: SimulatedPhMeter, milliseconds: number): PhReading => {
  let last: PhReading | null = null;
  for (let passed = 0; passed < milliseconds; passed += 100) {
    const line = readDeviceLine(meter.pass(100)[0]!);
    if (line.verb === 'ph') last = line.reading;
  }
  return last!;
};

describe('the simulated pH meter', () => {
  it('says what it is', () =>
    expect(readDeviceLine(new SimulatedPhMeter('pH meter').hello())).toEqual(
      jasmine.objectContaining({ verb: 'hello', kind: 'phMeter', simulated: true }),
    ));
  it('its electrode is slow: it moves before it settles', () => {
    const meter = new SimulatedPhMeter('pH meter');
    expect(meter.hear('SIM dip 3.7 14')).toEqual(['DONE SIM']);
    expect(read(meter, 300).settled).toBeFalse();
    expect(read(meter, 12_000)).toEqual(jasmine.objectContaining({ settled: true, celsius: 14 }));
  });
  it('out of the drawer it is off; two buffers put it right', () => {
    const meter = new SimulatedPhMeter('pH meter');
    meter.hear('SIM dip 3.7 20');
    expect(Math.abs(read(meter, 12_000).ph - 3.7)).toBeGreaterThan(0.1);
    const buffers = [7, 4.01].map((ph) => {
      meter.hear(`SIM dip ${ph} 20`);
      return { ph, millivolts: read(meter, 12_000).millivolts };
    });
    const { slopePercent, offsetMillivolts } = slopeAndOffset({ buffers: [buffers[0]!, buffers[1]!], celsius: 20 });
    expect(slopePercent).toBeCloseTo(95.5, 0);
    expect(meter.hear(`CAL ${slopePercent.toFixed(2)} ${offsetMillivolts.toFixed(2)}`)).toEqual(['DONE CAL']);
    meter.hear('SIM dip 3.7 20');
    expect(read(meter, 12_000).ph).toBeCloseTo(3.7, 1);
  });
  it('drifts: a day later it wants its buffers again', () => {
    const meter = new SimulatedPhMeter('pH meter');
    meter.hear('CAL 95.5 -9');
    meter.hear('SIM dip 4.01 20');
    const fresh = read(meter, 12_000).ph;
    meter.pass(24 * 3_600_000);
    expect(Math.abs(read(meter, 12_000).ph - fresh)).toBeGreaterThan(0.2);
  });
  it('in the air nothing settles; nonsense is refused', () => {
    const meter = new SimulatedPhMeter('pH meter');
    meter.hear('SIM lift');
    expect(read(meter, 12_000).settled).toBeFalse();
    expect([meter.hear('SIM dip 15'), meter.hear('CAL 900 0'), meter.hear('TARE')]).toEqual([
      ['NO SIM amount'],
      ['NO CAL unlikely'],
      ['NO TARE unknown'],
    ]);
  });
  it('a cut line is garbled', () => expect(readDeviceLine('PH 3.68 mv=19').verb).toBe('garbled'));
});

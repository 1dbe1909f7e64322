import { readDeviceLine } from '@clear-tally/core';
import { SimulatedThermometer } from '../src/thermometer.js';

const after = (kettle: SimulatedThermometer, seconds: number): number => {
  let last = NaN;
  for (let passed = 0; passed < seconds * 10; passed += 1) {
    const line = readDeviceLine(kettle.pass(100)[0]!);
    if (line.verb === 'temp') last = line.celsius;
  }
  return last;
};

describe('the simulated kettle thermometer', () => {
  it('says what it is', () =>
    expect(readDeviceLine(new SimulatedThermometer('Kettle').hello())).toEqual(
      jasmine.objectContaining({ verb: 'hello', kind: 'thermometer', simulated: true }),
    ));
  it('comes up on the fire, stays there, and cools slower than it came up', () => {
    const kettle = new SimulatedThermometer('Kettle');
    expect(kettle.hear('SIM heat 88')).toEqual(['DONE SIM']);
    expect(after(kettle, 10)).toBeLessThan(70);
    expect(after(kettle, 120)).toBeCloseTo(88, 0);
    kettle.hear('SIM cool');
    expect(after(kettle, 20)).toBeGreaterThan(70);
  });
  it('nonsense is refused; silent is silent', () => {
    const kettle = new SimulatedThermometer('Kettle');
    expect(['SIM heat', 'SIM heat 400', 'SIM heat x', 'TARE', 'SIM boil'].flatMap((line) => kettle.hear(line))).toEqual(
      ['NO SIM amount', 'NO SIM amount', 'NO SIM amount', 'NO TARE unknown', 'NO SIM unknown'],
    );
    kettle.hear('SIM silent');
    expect(kettle.pass(100)).toEqual([]);
  });
});

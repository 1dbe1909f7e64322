import { connect } from 'node:net';
import { readDeviceLine, writeLabel, type DeviceLine, type ScaleReading } from '@clear-tally/core';
import { SimulatedPrinter } from '../src/printer.js';
import { SimulatedScale } from '../src/scale.js';
import { SimulatedScanner } from '../src/scanner.js';
import { serve } from '../src/serve.js';

const RANGES = [
  { capacityGrams: 3000, stepGrams: 1 },
  { capacityGrams: 15_000, stepGrams: 5 },
];

describe('the simulated scale', () => {
  let scale: SimulatedScale;
  const after = (milliseconds: number): DeviceLine => {
    let line: DeviceLine = { verb: 'garbled', text: '' };
    for (let gone = 0; gone < milliseconds; gone += 50) line = readDeviceLine(scale.pass(50)[0] ?? '');
    return line;
  };
  const reading = (line: DeviceLine): ScaleReading => (line.verb === 'read' ? line.reading : (fail(line) as never));
  beforeEach(() => {
    scale = new SimulatedScale('Scale A', RANGES, 3);
  });

  it('comes to rest on what was put on it', () => {
    scale.hear('SIM put 406');
    expect(reading(after(100)).settled).toBeFalse();
    expect(reading(after(2500))).toEqual(jasmine.objectContaining({ grams: 406, settled: true, range: 1 }));
  });
  it('tared with a bowl, it shows what is in the bowl; the bowl lifted is below nought', () => {
    scale.hear('SIM put 214');
    after(2500);
    expect(scale.hear('TARE')).toEqual(['DONE TARE']);
    scale.hear('SIM put 192');
    expect(reading(after(2500))).toEqual(jasmine.objectContaining({ grams: 192, tareGrams: 214 }));
    scale.hear('SIM clear');
    expect(reading(after(2500)).grams).toBe(-214);
  });
  it('is not tared while it moves', () => {
    scale.hear('SIM put 500');
    after(50);
    expect(scale.hear('TARE')).toEqual(['NO TARE moving']);
  });
  it('over 3 kg it weighs in steps of 5 g, over 15 kg not at all', () => {
    scale.hear('SIM put 4003');
    expect(reading(after(2500))).toEqual(jasmine.objectContaining({ grams: 4005, range: 2 }));
    scale.hear('SIM put 12000');
    expect(after(2500).verb).toBe('over');
  });
  it('switched to ounces it says so', () => {
    scale.hear('SIM put 192');
    after(2500);
    scale.hear('UNIT oz');
    expect(reading(after(50))).toEqual(jasmine.objectContaining({ unit: 'oz', value: 6.773 }));
    expect(scale.hear('UNIT stone')).toEqual(['NO UNIT unknown']);
  });
  it('falls silent, and garbles a line, without becoming a figure', () => {
    scale.hear('SIM garble');
    expect(after(50).verb).toBe('garbled');
    after(400);
    scale.hear('SIM silent');
    expect(scale.pass(50)).toEqual([]);
  });
  it('refuses what it does not know', () =>
    expect([scale.hear('DANCE'), scale.hear('SIM put much'), scale.hear('SIM fly')]).toEqual([
      ['NO DANCE unknown'],
      ['NO SIM amount'],
      ['NO SIM unknown'],
    ]));
});

describe('the simulated label printer', () => {
  const label = {
    widthMm: 62,
    heightMm: 29,
    texts: [{ xMm: 27, yMm: 2, points: 15, bold: true, words: 'NY26-327-A-D1 <&>' }],
    symbol: { xMm: 2, yMm: 3, mm: 22, content: 'http://127.0.0.1/lots/NY26-327-A-D1' },
  };
  const send = (printer: SimulatedPrinter, job = '1'): string[] =>
    writeLabel(job, label).flatMap((line) => printer.hear(line));
  it('prints, shows its paper, and counts its roll', () => {
    const printer = new SimulatedPrinter('Labels', 2);
    expect(send(printer)).toEqual([]);
    const said = [...printer.pass(200), ...printer.pass(200)].map(readDeviceLine);
    expect(said.map((line) => line.verb)).toEqual(['state', 'paper', 'printed', 'state']);
    const paper = said.find((line) => line.verb === 'paper')!;
    const svg = paper.verb === 'paper' ? Buffer.from(paper.svg, 'base64').toString() : '';
    expect(svg).toContain('NY26-327-A-D1 &#60;&#38;&#62;');
    expect(svg).toContain('<svg x="20" y="30" width="220"');
  });
  it('jammed, it prints nothing and says so; cleared, it goes on', () => {
    const printer = new SimulatedPrinter('Labels', 2);
    send(printer);
    printer.hear('SIM jam');
    expect(printer.pass(400)).toEqual(['NO LABEL jammed', 'STATE jammed labels=2']);
    expect(send(printer)).toEqual(['NO LABEL jammed']);
    printer.hear('SIM clear');
    expect(send(printer)).toEqual([]);
    expect(printer.pass(400).some((line) => line.startsWith('PRINTED'))).toBeTrue();
  });
  it('an empty roll is no printed label', () => {
    const printer = new SimulatedPrinter('Labels', 0);
    expect(send(printer)).toEqual(['NO LABEL empty']);
    printer.hear('SIM refill');
    expect(send(printer)).toEqual([]);
  });
  it('a label cut short is refused', () => {
    const printer = new SimulatedPrinter('Labels');
    expect(['LABEL 1 62x29', 'TEXT broken', 'END'].flatMap((line) => printer.hear(line))).toEqual([
      'NO LABEL unreadable',
    ]);
  });
});

describe('the simulated scanner', () => {
  it('says what it was pointed at, once', () => {
    const scanner = new SimulatedScanner('Scanner');
    scanner.hear('SIM scan SWP01');
    expect([scanner.pass(), scanner.pass()]).toEqual([['SCAN SWP01'], []]);
  });
});

describe('a device on its port', () => {
  it('greets, speaks, hears; a line may come in pieces', async () => {
    const served = await serve(new SimulatedScale('Scale A', RANGES, 5), 0);
    const socket = connect(served.port, '127.0.0.1');
    const heard: string[] = [];
    const until = (wanted: RegExp): Promise<void> =>
      new Promise((resolve) => {
        const look = (): void => {
          if (heard.some((line) => wanted.test(line))) {
            socket.off('data', look);
            resolve();
          }
        };
        socket.on('data', look);
      });
    socket.setEncoding('utf8').on('data', (text) => heard.push(...String(text).trim().split('\n')));
    await until(/^READ/);
    expect(heard[0]).toBe('HELLO scale name=Scale_A simulated=yes ranges=3000x1,15000x5');
    socket.write('SIM pu');
    socket.write('t 120\n');
    await until(/^DONE SIM/);
    await until(/^READ 120 g settled/);
    socket.destroy();
    served.close();
  });
});

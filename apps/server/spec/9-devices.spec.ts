import { createServer, type Server, type Socket } from 'node:net';
import { writeHello, type Label } from '@clear-tally/core';
import type { DeviceNote } from '@clear-tally/contract';
import { deviceAddresses } from '../src/devices/addresses.js';
import { Bench } from '../src/devices/bench.js';

/** The other end of a line, played by the spec. */
class FarEnd {
  private constructor(
    readonly server: Server,
    readonly port: number,
    readonly heard: readonly string[],
    private readonly sockets: Set<Socket>,
  ) {}

  static async open(greeting: string, answer: (line: string) => string[] = () => []): Promise<FarEnd> {
    const sockets = new Set<Socket>();
    const heard: string[] = [];
    const server = createServer((socket) => {
      sockets.add(socket);
      socket.write(`${greeting}\n`);
      socket.on('error', () => undefined).on('close', () => sockets.delete(socket));
      socket.setEncoding('utf8').on('data', (text) => {
        for (const line of String(text).split('\n').filter(Boolean)) {
          heard.push(line);
          for (const said of answer(line)) socket.write(`${said}\n`);
        }
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return new FarEnd(server, (server.address() as { port: number }).port, heard, sockets);
  }

  say(line: string): void {
    this.sockets.forEach((socket) => socket.write(line));
  }
  hangUp(): void {
    this.sockets.forEach((socket) => socket.destroy());
  }
  close(): void {
    this.hangUp();
    this.server.close();
  }
}

describe('the bench’s devices', () => {
  let bench: Bench;
  let far: FarEnd;
  let notes: DeviceNote[];
  const until = async (met: () => boolean): Promise<void> => {
    for (let turn = 0; turn < 300 && !met(); turn += 1) await new Promise((resolve) => setTimeout(resolve, 10));
    expect(met())
      .withContext(JSON.stringify(notes.at(-1) ?? bench.list()))
      .toBeTrue();
  };
  const scale = () => bench.list()[0]?.scale;
  const open = async (greeting: string, answer?: (line: string) => string[], now?: () => number): Promise<void> => {
    far = await FarEnd.open(greeting, answer);
    bench = new Bench([{ id: 'one', host: '127.0.0.1', port: far.port }], now);
    notes = [];
    bench.subscribe((note) => notes.push(note));
    await until(() => bench.list().length === 1);
  };
  const SCALE = writeHello({
    kind: 'scale',
    name: 'Real scale',
    simulated: false,
    ranges: [{ capacityGrams: 6000, stepGrams: 1 }],
  });
  const refusal = (work: Promise<unknown>): Promise<{ code: string; message: string }> =>
    work.then(
      () => ({ code: 'done', message: '' }),
      (error: { refusal: { code: string; message: string } }) => error.refusal,
    );

  afterEach(() => {
    bench.close();
    far.close();
  });

  it('a scale that speaks the lines is on the bench, simulated or not', async () => {
    await open(SCALE);
    expect(bench.list()[0]).toEqual(
      jasmine.objectContaining({ id: 'one', kind: 'scale', name: 'Real scale', simulated: false, connected: true }),
    );
    far.say('READ 192 g settled tare=214 range=1\n');
    await until(() => scale()?.state === 'reading');
    expect(notes.at(-1)!.device.scale).toEqual({
      state: 'reading',
      reading: { value: 192, unit: 'g', grams: 192, settled: true, tareGrams: 214, range: 1 },
    });
  });
  it('a line in two pieces is one line; a garbled one is counted and is no figure', async () => {
    await open(SCALE);
    far.say('READ 40 g sett');
    far.say('led tare=0 range=1\nREAD 4x g settled\n');
    await until(() => bench.list()[0]!.garbled === 1);
    expect(scale()).toEqual(jasmine.objectContaining({ state: 'reading' }));
  });
  it('a scale that falls silent has no figure any more', async () => {
    let now = 0;
    await open(
      SCALE,
      () => [],
      () => now,
    );
    far.say('READ 40 g settled tare=0 range=1\n');
    await until(() => scale()?.state === 'reading');
    now = 5000;
    await until(() => scale()?.state === 'silent');
  });
  it('what only trembles is told twice a second, its last figure always; what comes to rest is told at once', async () => {
    await open(writeHello({ kind: 'phMeter', name: 'Meter', simulated: false }));
    const told = () => notes.flatMap(({ device }) => (device.ph ? [device.ph.ph] : []));
    far.say('PH 5.01 mv=115.1 c=19.2 moving\n');
    await until(() => told().length === 1);
    for (let turn = 2; turn < 10; turn += 1) far.say(`PH 5.0${turn} mv=115.${turn} c=19.2 moving\n`);
    await until(() => bench.list()[0]!.ph?.ph === 5.09);
    expect(told()).toEqual([5.01]);
    await until(() => told().length === 2);
    expect(told()).toEqual([5.01, 5.09]);
    far.say('PH 5.10 mv=115.3 c=19.2 moving\nPH 5.11 mv=115.4 c=19.2 settled\n');
    await until(() => bench.list()[0]!.ph?.settled === true);
    expect(told()).toEqual([5.01, 5.09, 5.11]);
  });
  it('unplugged and plugged in again, it is called again', async () => {
    await open(SCALE);
    far.hangUp();
    await until(() => !bench.list()[0]!.connected);
    await until(() => bench.list()[0]!.connected);
    far.say('READ 7 g settled tare=0 range=1\n');
    await until(() => scale()?.state === 'reading');
  });
  it('its “no” is told in words; its silence too', async () => {
    await open(SCALE, (line) => (line === 'TARE' ? ['NO TARE moving'] : line === 'UNIT g' ? ['DONE UNIT'] : []));
    expect((await refusal(bench.command('one', 'TARE'))).message).toContain('still moves');
    expect((await refusal(bench.command('one', 'UNIT g'))).code).toBe('done');
    expect((await refusal(bench.command('one', 'ZERO'))).code).toBe('device.silent');
    expect(await bench.command('two', 'TARE').catch((error: { refusal: { code: string } }) => error.refusal.code)).toBe(
      'device.unknown',
    );
  });
  it('what a scanner saw is told once', async () => {
    await open(writeHello({ kind: 'scanner', name: 'Scanner', simulated: false }));
    far.say('SCAN SWP01\n');
    await until(() => notes.some((note) => note.scanned === 'SWP01'));
    expect(notes.filter((note) => note.scanned).length).toBe(1);
  });

  describe('the label printer', () => {
    const label: Label = {
      widthMm: 62,
      heightMm: 29,
      texts: [{ xMm: 27, yMm: 2, points: 15, bold: true, words: 'D1' }],
      symbol: null,
    };
    const PRINTER = writeHello({ kind: 'printer', name: 'Labels', simulated: false });
    it('is done when the label is out, not when it was sent', async () => {
      await open(PRINTER, (line) => (line === 'END' ? ['PRINTED 1 labels=9'] : []));
      await bench.print('one', label);
      expect(far.heard).toEqual(['LABEL 1 62x29', 'TEXT 27 2 15 bold D1', 'END']);
      expect(bench.list()[0]!.printer).toEqual({ state: 'ready', labels: 9 });
    });
    it('a jam is no printed label', async () => {
      await open(PRINTER, (line) => (line === 'END' ? ['NO LABEL jammed'] : []));
      expect(await refusal(bench.print('one', label))).toEqual(
        jasmine.objectContaining({ code: 'device.refused', message: jasmine.stringContaining('jammed') }),
      );
    });
  });

  it('addresses that are none are refused before the server starts', async () => {
    await open(SCALE);
    expect(deviceAddresses(undefined)).toEqual([]);
    expect(deviceAddresses('[{"id":"a","host":"127.0.0.1","port":4281}]')).toEqual([
      { id: 'a', host: '127.0.0.1', port: 4281 },
    ]);
    expect(() => deviceAddresses('[{"id":"a","host":"127.0.0.1"}]')).toThrowError(/CLEAR_TALLY_DEVICES/);
  });
});

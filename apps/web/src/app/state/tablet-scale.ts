import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { readDeviceLine, SILENT_AFTER_MS, type DeviceLine } from '@clear-tally/core';
import type { DeviceReply } from '@clear-tally/contract';
import { devicesPage, devicesWire } from './devices';

/** As much of the browser's serial interface as is used here. */
interface SerialPort {
  readonly readable: ReadableStream<Uint8Array>;
  readonly writable: WritableStream<Uint8Array>;
  open(options: { baudRate: number }): Promise<void>;
}
const serial = (): { requestPort(): Promise<SerialPort> } | undefined =>
  (navigator as unknown as { serial?: { requestPort(): Promise<SerialPort> } }).serial;

const BARE: DeviceReply = {
  id: 'tablet',
  kind: 'scale',
  name: 'Scale on this tablet',
  simulated: false,
  connected: true,
  ranges: [],
  scale: { state: 'silent' },
  ph: null,
  celsius: null,
  printer: null,
  garbled: 0,
};

/** A scale on this tablet's own serial port, where the browser has that interface. It speaks the lines of the bench. */
@Injectable({ providedIn: 'root' })
export class TabletScale {
  static readonly ID = 'tablet';
  private readonly store = inject(Store);
  private port: SerialPort | null = null;
  private device = BARE;
  private heardAt = 0;
  readonly offered = serial() !== undefined;
  readonly problem = signal<string | null>(null);

  async connect(): Promise<void> {
    this.problem.set(null);
    try {
      const port = await serial()!.requestPort();
      await port.open({ baudRate: 9600 });
      this.port = port;
      this.change(BARE);
      this.store.dispatch(devicesPage.scaleChosen({ id: TabletScale.ID }));
      const watch = setInterval(() => {
        if (Date.now() - this.heardAt > SILENT_AFTER_MS && this.device.scale?.state !== 'silent')
          this.change({ ...this.device, scale: { state: 'silent' } });
      }, 500);
      await this.readAll(port).finally(() => clearInterval(watch));
    } catch (error) {
      // Closing the chooser is an answer too.
      if ((error as Error).name !== 'NotFoundError')
        this.problem.set('The scale on this tablet cannot be read. Look at its cable, and connect it again.');
    }
    this.change({ ...this.device, connected: false, scale: { state: 'silent' } });
  }

  async say(line: string): Promise<void> {
    const writer = this.port?.writable.getWriter();
    await writer?.write(new TextEncoder().encode(`${line}\n`));
    writer?.releaseLock();
  }

  /** What a line changes; also what the specs speak to. */
  hear(line: DeviceLine): void {
    this.heardAt = Date.now();
    if (line.verb === 'hello')
      this.change({ ...this.device, name: `${line.name}, on this tablet`, ranges: [...line.ranges], connected: true });
    if (line.verb === 'read')
      this.change({ ...this.device, connected: true, scale: { state: 'reading', reading: line.reading } });
    if (line.verb === 'over') this.change({ ...this.device, connected: true, scale: { state: 'over' } });
    if (line.verb === 'garbled') this.change({ ...this.device, garbled: this.device.garbled + 1 });
  }

  private async readAll(port: SerialPort): Promise<void> {
    const reader = port.readable.getReader();
    const decoder = new TextDecoder();
    let rest = '';
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return;
      const lines = (rest + decoder.decode(value, { stream: true })).split(/\r?\n/);
      rest = lines.pop()!.slice(-400);
      for (const line of lines) if (line.trim() !== '') this.hear(readDeviceLine(line));
    }
  }

  private change(device: DeviceReply): void {
    this.device = device;
    this.store.dispatch(devicesWire.noteArrived({ note: { id: TabletScale.ID, device } }));
  }
}

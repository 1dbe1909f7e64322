import { connect, type Socket } from 'node:net';
import split2 from 'split2';
import { readDeviceLine, type DeviceLine } from '@clear-tally/core';

export interface DeviceAddress {
  readonly id: string;
  readonly host: string;
  readonly port: number;
}

/** What arrives from a device, or that its line is gone. */
export type LinkEvent = DeviceLine | { readonly verb: 'gone' };

/** Waits so long before it calls again, ms. */
const AGAIN_MS = 1000;
/** A line longer than this is no device. A picture of a label is the longest one. */
const MOST = 256 * 1024;
/** What is longer is passed over, and the next line is heard: its types do not know the second word yet. */
const LINES: split2.Options = { maxLength: MOST, ...{ skipOverflow: true } };

/** A standing line to one device. It calls again for as long as it is not closed; what it hears is read by core. */
export class DeviceLink {
  private socket: Socket | null = null;
  private closed = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    readonly address: DeviceAddress,
    private readonly heard: (event: LinkEvent) => void,
  ) {
    this.call();
  }

  /** False when nobody is at the other end. */
  say(...lines: string[]): boolean {
    if (!this.socket || this.socket.connecting || this.socket.destroyed) return false;
    return (this.socket.write(`${lines.join('\n')}\n`), true);
  }

  close(): void {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    this.socket?.destroy();
  }

  private call(): void {
    const socket = connect(this.address.port, this.address.host);
    this.socket = socket;
    socket.setNoDelay(true);
    socket.pipe(split2(/\r?\n/, LINES)).on('data', (line: string) => this.read(line));
    socket.on('error', () => undefined);
    socket.on('close', () => {
      this.heard({ verb: 'gone' });
      if (this.closed) return;
      this.timer = setTimeout(() => this.call(), AGAIN_MS);
      this.timer.unref();
    });
  }

  private read(line: string): void {
    if (line.trim() !== '') this.heard(readDeviceLine(line));
  }
}

import { isDeepStrictEqual } from 'node:util';
import type { DeviceNote, DeviceReply } from '@clear-tally/contract';
import { type Label, SILENT_AFTER_MS, writeLabel } from '@clear-tally/core';
import { refused } from '../journal/refused.js';
import { type DeviceAddress, DeviceLink, type LinkEvent } from './link.js';

const NOBODY: Omit<DeviceReply, 'id'> = {
  kind: null,
  name: '',
  simulated: false,
  connected: false,
  ranges: [],
  ph: null,
  celsius: null,
  scale: null,
  printer: null,
  garbled: 0,
};

/** A printer that does not answer in so long has not printed, ms. */
const PRINT_WAIT_MS = 4000;

/**
 * What only trembles is told so often, ms: an eye reads no faster, and each telling wakes every tablet of the house,
 * also those on which nobody looks at the bench.
 */
const TREMBLE_MS = 500;

/** Whether two standings differ only in how a meter's or a probe's figure flickers. */
function onlyTrembles(was: DeviceReply, is: DeviceReply): boolean {
  const still = (device: DeviceReply): unknown => ({
    ...device,
    ph: device.ph && { settled: device.ph.settled },
    celsius: device.celsius !== null,
  });
  return isDeepStrictEqual(still(was), still(is));
}

/**
 * The devices of the bench, as they stand now. Readings are not entries: they pass through to whoever looks, and
 * become an entry when a person takes one.
 */
export class Bench {
  private readonly links: DeviceLink[];
  private readonly devices = new Map<string, DeviceReply>();
  private readonly heardAt = new Map<string, number>();
  private readonly listeners = new Set<(note: DeviceNote) => void>();
  private readonly answers = new Set<(id: string, event: LinkEvent) => void>();
  private readonly trembling = new Map<string, NodeJS.Timeout>();
  private readonly watch: NodeJS.Timeout;
  private jobs = 0;

  constructor(
    addresses: readonly DeviceAddress[],
    private readonly now: () => number = Date.now,
  ) {
    for (const { id } of addresses) this.devices.set(id, { ...NOBODY, id });
    this.links = addresses.map((address) => new DeviceLink(address, (event) => this.heard(address.id, event)));
    this.watch = setInterval(() => this.noticeSilence(), 500);
    this.watch.unref();
  }

  list(): DeviceReply[] {
    return [...this.devices.values()].filter((device) => device.kind !== null);
  }

  subscribe(listener: (note: DeviceNote) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** A word to a device: `TARE`, `UNIT g`, or what a hand does to a simulated one. Its answer, or a refusal. */
  async command(id: string, line: string): Promise<void> {
    const answer = await this.ask(id, [line], (event) => event.verb === 'done' || event.verb === 'no', 1500);
    if (answer?.verb === 'no')
      throw refused(
        'device.refused',
        answer.why === 'moving'
          ? 'The scale still moves. Wait until it stands, then again.'
          : `${this.nameOf(id)} says no: ${answer.why || 'it does not know this word'}.`,
      );
    if (!answer)
      throw refused('device.silent', `${this.nameOf(id)} does not answer. Look at its cable and its switch.`);
  }

  /** Prints one label; done when the printer says it is out. */
  async print(id: string, label: Label): Promise<void> {
    const job = String((this.jobs += 1));
    const answer = await this.ask(
      id,
      writeLabel(job, label),
      (event) => (event.verb === 'printed' && event.job === job) || (event.verb === 'no' && event.command === 'LABEL'),
      PRINT_WAIT_MS,
    );
    if (answer?.verb === 'no') {
      throw refused(
        'device.refused',
        {
          jammed: 'The printer is jammed: open it, take the label out, close it. Nothing is marked as printed.',
          empty: 'The roll is empty. Put a new one in; nothing is marked as printed.',
        }[answer.why] ?? `The printer could not read the label (${answer.why}).`,
      );
    }
    if (!answer)
      throw refused(
        'device.silent',
        `${this.nameOf(id)} does not answer. Print the label as a sheet instead, or look at its cable.`,
      );
  }

  close(): void {
    clearInterval(this.watch);
    this.trembling.forEach((timer) => clearTimeout(timer));
    this.links.forEach((link) => link.close());
    this.listeners.clear();
  }

  private ask(
    id: string,
    lines: string[],
    isAnswer: (event: LinkEvent) => boolean,
    waitMs: number,
  ): Promise<(LinkEvent & { why: string }) | (LinkEvent & { verb: 'done' | 'printed' }) | null> {
    const link = this.links.find((one) => one.address.id === id);
    if (!link) throw refused('device.unknown', `There is no device “${id}” on this bench.`);
    return new Promise((resolve) => {
      const end = (event: LinkEvent | null): void => {
        clearTimeout(timer);
        this.answers.delete(listen);
        resolve(event as never);
      };
      const listen = (from: string, event: LinkEvent): void => {
        if (from === id && isAnswer(event)) end(event);
      };
      const timer = setTimeout(() => end(null), waitMs);
      this.answers.add(listen);
      if (!link.say(...lines)) end(null);
    });
  }

  private nameOf = (id: string): string => this.devices.get(id)?.name || id;

  private heard(id: string, event: LinkEvent): void {
    this.heardAt.set(id, this.now());
    const was = this.devices.get(id)!;
    this.answers.forEach((answer) => answer(id, event));
    switch (event.verb) {
      case 'hello':
        return this.change({
          ...was,
          kind: event.kind,
          name: event.name,
          simulated: event.simulated,
          ranges: [...event.ranges],
          connected: true,
        });
      case 'read':
        return this.change({ ...was, connected: true, scale: { state: 'reading', reading: event.reading } });
      case 'ph':
        return this.change({ ...was, connected: true, ph: event.reading });
      case 'temp':
        return this.change({ ...was, connected: true, celsius: event.celsius });
      case 'over':
        return this.change({ ...was, connected: true, scale: { state: 'over' } });
      case 'state':
        return this.change({ ...was, connected: true, printer: { state: event.state, labels: event.labels } });
      case 'printed':
        return this.change({ ...was, printer: { state: was.printer?.state ?? 'ready', labels: event.labels } });
      case 'garbled':
        return this.change({ ...was, garbled: was.garbled + 1 });
      case 'scan':
        return this.note({ id, device: was, scanned: event.code });
      case 'paper':
        return this.note({ id, device: was, paper: { job: event.job, svg: event.svg } });
      case 'gone':
        return this.change({
          ...was,
          connected: false,
          ph: null,
          celsius: null,
          scale: was.scale ? { state: 'silent' } : null,
        });
      default:
        return undefined;
    }
  }

  /** A scale that stops speaking is silent, whatever its last figure was: no figure is taken from memory. */
  private noticeSilence(): void {
    for (const [id, device] of this.devices) {
      if (device.scale && device.scale.state !== 'silent' && this.now() - (this.heardAt.get(id) ?? 0) > SILENT_AFTER_MS)
        this.change({ ...device, scale: { state: 'silent' } });
      if (device.ph && this.now() - (this.heardAt.get(id) ?? 0) > SILENT_AFTER_MS) this.change({ ...device, ph: null });
      if (device.celsius !== null && this.now() - (this.heardAt.get(id) ?? 0) > SILENT_AFTER_MS)
        this.change({ ...device, celsius: null });
    }
  }

  private change(device: DeviceReply): void {
    const was = this.devices.get(device.id)!;
    this.devices.set(device.id, device);
    if (isDeepStrictEqual(was, device)) return;
    if (onlyTrembles(was, device)) this.tellSoon(device.id);
    else this.note({ id: device.id, device });
  }

  /** As it stands in a moment, together with all that trembles until then. */
  private tellSoon(id: string): void {
    if (this.trembling.has(id)) return;
    const timer = setTimeout(() => {
      this.trembling.delete(id);
      this.note({ id, device: this.devices.get(id)! });
    }, TREMBLE_MS);
    this.trembling.set(id, timer);
  }

  private note(note: DeviceNote): void {
    clearTimeout(this.trembling.get(note.id));
    this.trembling.delete(note.id);
    this.listeners.forEach((listener) => listener(note));
  }
}

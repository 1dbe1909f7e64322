/** A small generator with a fixed seed: the demo house is the same on every machine. Mulberry32. */
export class Seeded {
  private state: number;
  constructor(seed: number) {
    this.state = seed;
  }

  /** In [0, 1). */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** Around zero, mostly within ± spread. */
  around(spread: number): number {
    return (this.next() + this.next() + this.next() - 1.5) * (spread / 0.75);
  }

  /** An id shaped like a client's UUIDv7. */
  uuid(at: Date): string {
    const time = at.getTime().toString(16).padStart(12, '0');
    const hex = (digits: number) =>
      Array.from({ length: digits }, () => Math.floor(this.next() * 16).toString(16)).join('');
    return `${time.slice(0, 8)}-${time.slice(8)}-7${hex(3)}-${'89ab'[Math.floor(this.next() * 4)]}${hex(3)}-${hex(12)}`;
  }
}

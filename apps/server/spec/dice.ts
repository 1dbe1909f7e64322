/** Figures out of a seed: the same house from the same number. */
export class Dice {
  constructor(private state: number) {}

  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  between(least: number, most: number): number {
    return least + this.next() * (most - least);
  }
  whole(least: number, most: number): number {
    return Math.floor(this.between(least, most + 1));
  }
  one<T>(list: readonly T[]): T {
    return list[this.whole(0, list.length - 1)]!;
  }
  chance(share: number): boolean {
    return this.next() < share;
  }
  id(): string {
    const hex = Array.from({ length: 32 }, () => this.whole(0, 15).toString(16)).join('');
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-7${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20)}`;
  }
}

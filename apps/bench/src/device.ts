/** What a simulated device is to the outside: lines in, lines out, and time. No clock of its own. */
export interface SimulatedDevice {
  /** What it says first to whoever connects. */
  hello(): string;
  /** A line from the house. Answers at once. */
  hear(line: string): string[];
  /** So many milliseconds pass. What it says of itself. */
  pass(milliseconds: number): string[];
  /** Asked for, from `SIM drop`: the cable is pulled. */
  readonly unplugged: boolean;
}

/** A small seeded generator, so that a run can be repeated. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A scanner types faster than any person: keys closer than this belong to one code. */
const FASTEST_HAND_MS = 60;
/** Some scanners wait a moment before their Enter. */
const ENTER_MS = 160;

/** Recognises a scanner's burst of keys, ended by Enter, wherever it comes. */
export class ScannerBurst {
  private text = '';
  private last = -Infinity;

  /** The text of a finished burst, or null. */
  key(key: string, at: number): string | null {
    const together = at - this.last <= (key === 'Enter' ? ENTER_MS : FASTEST_HAND_MS);
    this.last = at;
    if (key === 'Enter') {
      const burst = together ? this.text : '';
      this.text = '';
      return burst === '' ? null : burst;
    }
    if (key.length !== 1) return null;
    this.text = together ? this.text + key : key;
    return null;
  }
}

/** The shortest code worth acting on without a field. */
export const isBurst = (text: string): boolean => text.length >= 6;

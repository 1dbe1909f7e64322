import { Injectable } from '@angular/core';

/** Two short tones every two seconds: heard over running water, not over the whole street. */
@Injectable({ providedIn: 'root' })
export class Ringing {
  private context: AudioContext | null = null;

  /** Rings until the answer is called. A browser that allows no sound before a touch stays silent; the band is seen. */
  start(): () => void {
    const ring = (): void => {
      try {
        this.context ??= new AudioContext();
        void this.context.resume();
        [0, 0.22].forEach((after) => this.tone(this.context!, after));
      } catch {
        /* no sound on this machine: the band is there */
      }
    };
    ring();
    const timer = setInterval(ring, 2000);
    return () => clearInterval(timer);
  }

  private tone(context: AudioContext, after: number): void {
    const oscillator = context.createOscillator();
    const volume = context.createGain();
    oscillator.frequency.value = 880;
    volume.gain.value = 0.25;
    oscillator.connect(volume).connect(context.destination);
    oscillator.start(context.currentTime + after);
    oscillator.stop(context.currentTime + after + 0.15);
  }
}

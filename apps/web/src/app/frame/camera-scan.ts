import {
  afterNextRender,
  Component,
  DestroyRef,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { codeInPicture } from './code-from-image';

/** How often the picture is looked at: a hand that holds a jar still for half a second is enough. */
const LOOK_MS = 180;
/** A label that stays before the camera is one scan. */
const SAME_MS = 2500;

/**
 * The camera as a scanner: what it sees is read on this device and goes nowhere. Where the page takes the code it stays
 * open for the next jar; where the code opens its trace it closes.
 */
@Component({
  selector: 'ct-camera-scan',
  template: `<dialog #box aria-label="Scan with the camera" (close)="closed.emit()" (cancel)="closed.emit()">
    @if (problem(); as said) {
      <p class="grave" role="alert">{{ said }}</p>
    } @else {
      <video #film playsinline muted></video>
      <p role="status">{{ words() }}</p>
    }
    <button type="button" (click)="box.close()">Close</button>
  </dialog>`,
  styles: `
    dialog {
      border: 2px solid var(--ink);
      padding: 16px;
      width: min(560px, 94vw);
      background: var(--sheet);
      color: var(--ink);
    }
    dialog[open] {
      display: grid;
      gap: 12px;
    }
    dialog::backdrop {
      background: rgb(27 42 47 / 0.55);
    }
    video {
      width: 100%;
      aspect-ratio: 4 / 3;
      object-fit: cover;
      background: var(--ink);
    }
  `,
})
export class CameraScan {
  /** Takes a code, and says whether its page took it here or something was opened for it. */
  readonly take = input.required<(text: string) => 'here' | 'opened'>();
  readonly closed = output();
  protected readonly problem = signal<string | null>(null);
  protected readonly words = signal('The camera starts …');
  private readonly box = viewChild.required<ElementRef<HTMLDialogElement>>('box');
  private readonly film = viewChild<ElementRef<HTMLVideoElement>>('film');
  private stream: MediaStream | null = null;
  private ended = false;
  private last = { text: '', at: -SAME_MS };

  constructor() {
    afterNextRender(() => {
      this.box().nativeElement.showModal();
      void this.start();
    });
    inject(DestroyRef).onDestroy(() => {
      this.ended = true;
      this.stopFilm();
    });
  }

  private async start(): Promise<void> {
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: { ideal: 'environment' }, width: { ideal: 1280 } },
        audio: false,
      });
    } catch (error) {
      this.problem.set(whyNot(error));
      return;
    }
    const film = this.film()?.nativeElement;
    // Closed while the browser asked whether it may.
    if (this.ended || !film) return this.stopFilm();
    film.srcObject = this.stream;
    await film.play().catch(() => undefined);
    this.words.set('Hold the symbol of a jar, a vessel or a lot before the camera.');
    await this.watch(film);
  }

  private async watch(film: HTMLVideoElement): Promise<void> {
    while (!this.ended) {
      if (film.videoWidth > 0) {
        const text = await codeInPicture(film, film.videoWidth, film.videoHeight).catch(() => null);
        if (text !== null && !this.ended) this.saw(text);
      }
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
  }

  private saw(text: string): void {
    const now = performance.now();
    const same = text === this.last.text && now - this.last.at < SAME_MS;
    this.last = { text, at: now };
    if (same) return;
    navigator.vibrate?.(60);
    if (this.take()(text) === 'opened') this.box().nativeElement.close();
    else this.words.set(`${text.split('/').pop()} is taken. The next one, or close.`);
  }

  private stopFilm(): void {
    for (const track of this.stream?.getTracks() ?? []) track.stop();
  }
}

function whyNot(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  if (name === 'NotAllowedError')
    return 'The browser may not use the camera here. Allow it in the browser’s settings for this page, and try again; or type the code.';
  if (name === 'NotFoundError' || name === 'OverconstrainedError')
    return 'This device has no camera that can be used. Type the code, or use a scanner.';
  return 'The camera does not start: another program may be using it. Close that, and try again; or type the code.';
}

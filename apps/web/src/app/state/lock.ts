import { DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { filter } from 'rxjs';
import { House } from './house';
import { sessionFeature, sessionWire } from './session';

const KEY = 'clear-tally.locked';
/** Touched in any of these ways, somebody is there. */
const TOUCHES = ['pointerdown', 'keydown', 'wheel'] as const;

/**
 * A shared tablet asks who is there: when somebody hands it over, and after as many untouched minutes as the house wants.
 * What is typed stays beneath; a page that is read again is asked again.
 */
@Injectable()
export class Lock {
  readonly locked = signal(stored());
  private readonly minutes = inject(House).house;
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  private touched = Date.now();

  constructor() {
    const touch = (): unknown => (this.touched = Date.now());
    TOUCHES.forEach((kind) => document.addEventListener(kind, touch, { passive: true, capture: true }));
    // A tablet that slept for an hour wakes late: the clock is asked, not a countdown.
    const watch = setInterval(() => this.look(), 5000);
    inject(DestroyRef).onDestroy(() => {
      clearInterval(watch);
      TOUCHES.forEach((kind) => document.removeEventListener(kind, touch, { capture: true }));
    });
    const came = toSignal(
      inject(Actions).pipe(
        ofType(sessionWire.signedIn),
        filter(({ stay }) => stay === true),
      ),
    );
    effect(() => {
      if (came()) this.say(false);
    });
  }

  lock(): void {
    this.say(true);
  }

  /** Looks whether it lay untouched too long. */
  look(now = Date.now()): void {
    const minutes = this.minutes()?.settings.lockMinutes ?? null;
    if (minutes !== null && this.person() !== null && now - this.touched >= minutes * 60_000) this.say(true);
  }

  private say(locked: boolean): void {
    this.touched = Date.now();
    this.locked.set(locked);
    if (!locked) return openLock();
    try {
      localStorage.setItem(KEY, 'yes');
    } catch {
      /* A tablet that keeps nothing is asked while its page is open. */
    }
  }
}

/** Whoever signs in at the door was asked there: the page behind it does not ask again. */
export function openLock(): void {
  try {
    localStorage.removeItem(KEY);
  } catch {
    /* Nothing was kept. */
  }
}

function stored(): boolean {
  try {
    return localStorage.getItem(KEY) !== null;
  } catch {
    return false;
  }
}

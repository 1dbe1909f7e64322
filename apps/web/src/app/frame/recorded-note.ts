import { Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { Actions, ofType } from '@ngrx/effects';
import { filter, switchMap, tap, timer } from 'rxjs';
import { recordingWire } from '../state/recording';

const SHOWN_MS = 7000;

/** What was just recorded from this tablet, with the way to put it right. It lies over the page and moves nothing. */
@Component({
  selector: 'ct-recorded-note',
  imports: [RouterLink],
  template: `<div aria-live="polite">
    @if (note(); as now) {
      <p>
        <b>{{ now.again ? 'Recorded already.' : 'Recorded.' }}</b>
        {{ now.again ? 'It stands in the book once.' : now.many > 1 ? now.many + ' entries' : '' }}
        <a [routerLink]="['/correct', now.id]" (click)="note.set(null)">Show or put right</a>
        <button type="button" class="plain" (click)="note.set(null)" aria-label="Close this note">×</button>
      </p>
    }
  </div>`,
  styles: `
    :host {
      position: fixed;
      right: 16px;
      bottom: 70px;
      z-index: 30;
    }
    p {
      display: flex;
      gap: 12px;
      align-items: center;
      padding: 0 8px 0 16px;
      min-height: var(--touch);
      background: var(--ink);
      color: #fff;
    }
    a,
    button {
      color: #fff;
    }
    button {
      min-width: var(--touch);
      font-size: 22px;
    }
  `,
})
export class RecordedNote {
  protected readonly note = signal<{ id: string; many: number; again: boolean } | null>(null);

  constructor() {
    inject(Actions)
      .pipe(
        ofType(recordingWire.recorded),
        filter(({ recorded }) => recorded.length > 0),
        tap(({ recorded }) =>
          this.note.set({
            id: recorded[0]!.id,
            many: recorded.length,
            again: recorded.every(({ repeated }) => repeated),
          }),
        ),
        switchMap(() => timer(SHOWN_MS)),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.note.set(null));
  }
}

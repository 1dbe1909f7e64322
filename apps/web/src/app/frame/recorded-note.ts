import { Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { Actions, ofType } from '@ngrx/effects';
import { filter, switchMap, tap, timer } from 'rxjs';
import type { Change } from '@clear-tally/contract';
import { injectHouse } from '../state/house';
import { isOfNow, When } from '../state/when';
import { recordingForm } from '../state/form';
import { recordingWire } from '../state/recording';

const SHOWN_MS = 9000;
/** What changed after the fact is read first. */
const READ_MS = 40_000;

/**
 * What was just recorded from this tablet, with the way to see it, put it right, or take a slip back at once. It lies
 * over the page and moves nothing.
 */
@Component({
  selector: 'ct-recorded-note',
  imports: [RouterLink],
  template: `<div aria-live="polite">
    @if (form.problem(); as why) {
      <p>
        <span><b>It stands.</b> {{ why }}</span>
        <a [routerLink]="['/correct', stands()]" (click)="close()">Put it right</a>
        <button type="button" class="plain" (click)="close()" aria-label="Close this note">×</button>
      </p>
    } @else if (note(); as now) {
      @if (now.changes.length > 0) {
        <ul aria-label="What it changed after the fact">
          @for (change of now.changes; track $index) {
            <li>
              <b class="figure">{{ change.code }}</b> {{ change.what }}: <s>{{ change.was }}</s> {{ change.now }}
            </li>
          }
        </ul>
      }
      <p>
        <b>{{ now.back ? 'Put right.' : now.again ? 'Recorded already.' : 'Recorded.' }}</b>
        {{
          now.back
            ? 'Both stay in the book.'
            : now.again
              ? 'It stands in the book once.'
              : now.ids.length === 1
                ? now.of && 'Of ' + now.of + '.'
                : now.ids.length + ' entries' + (now.of ? ', of ' + now.of : '') + '.'
        }}
        <a [routerLink]="['/correct', now.ids[0]]" (click)="close()">Show or put right</a>
        @if (!now.back && !now.again) {
          <button type="button" class="plain" [disabled]="form.saving()" (click)="takeBack(now.ids)">
            Take it back
          </button>
        }
        <button type="button" class="plain" (click)="close()" aria-label="Close this note">×</button>
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
    ul {
      display: grid;
      gap: 4px;
      max-width: 620px;
      /* What lies below is still pressed through it. */
      pointer-events: none;
      padding: 10px 16px;
      background: var(--mustard-wash);
      border: 2px solid var(--mustard);
      color: #5c3c08;
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
  protected readonly note = signal<{
    ids: readonly string[];
    again: boolean;
    back: boolean;
    /** Of which past moment, and what it changed after the fact. */
    of: string | null;
    changes: readonly Change[];
  } | null>(null);
  private readonly when = inject(When);
  private readonly house = injectHouse();
  /** Its own corrections are told by it alone. */
  protected readonly form = recordingForm('take back');
  private readonly asked = signal<readonly string[]>([]);
  protected readonly stands = computed(() => this.asked()[0] ?? null);

  constructor() {
    inject(Actions)
      .pipe(
        ofType(recordingWire.recorded),
        filter(({ recorded }) => recorded.length > 0),
        tap(({ recorded, form, changes }) => {
          const back = form.startsWith('take back#');
          this.form.edited();
          this.note.set({
            ids: back ? this.asked() : recorded.map(({ id }) => id),
            again: recorded.every(({ repeated }) => repeated),
            // What puts right is put right on its own page.
            back: back || recorded.some(({ kind }) => kind === 'entry.correct'),
            // Settings and signatures are of the moment they are said at, whatever is recorded around them.
            of: recorded.every(({ kind }) => isOfNow(kind)) ? null : this.pastMoment(),
            changes,
          });
        }),
        switchMap(({ changes }) => timer(changes.length > 0 ? READ_MS : SHOWN_MS)),
        takeUntilDestroyed(),
      )
      .subscribe(() => {
        if (!this.form.saving()) this.note.set(null);
      });
  }

  /** The last of them first: what was built on another goes before it. */
  protected takeBack(ids: readonly string[]): void {
    this.asked.set(ids);
    this.form.record(
      ...[...ids]
        .reverse()
        .map((corrects) =>
          this.form.entry('entry.correct', { corrects, reason: 'A slip, taken back at once', instead: null }),
        ),
    );
  }

  private pastMoment(): string | null {
    const at = this.when.at();
    return at === null ? null : this.house.dates().moment(new Date(at).toISOString());
  }

  protected close(): void {
    this.form.edited();
    this.note.set(null);
  }
}

import { OverlayModule } from '@angular/cdk/overlay';
import { Component, computed, inject, signal, ViewEncapsulation } from '@angular/core';
import { readMoment } from '@clear-tally/core';
import { injectHouse } from '../state/house';
import { When } from '../state/when';
import { Panel } from './panel';
import { TextField } from './text-field';
import { agoWords } from './time-ago';

/** Whoever types a moment further back than a year and a bit has more often typed a wrong year. */
const LONG_AGO_MS = 400 * 86_400_000;

/** When it happened, beside the button that records it: now, or a moment typed as people write it. */
@Component({
  selector: 'ct-when-line',
  imports: [OverlayModule, Panel, TextField],
  template: `
    <button
      type="button"
      class="plain"
      cdkOverlayOrigin
      #origin="cdkOverlayOrigin"
      [class.past]="when.at() !== null"
      [attr.aria-expanded]="open()"
      (click)="show()"
    >
      <svg viewBox="0 0 20 20" width="18" height="18" aria-hidden="true">
        <path d="M10 2a8 8 0 1 0 .01 0zM10 5v5l4 2" fill="none" stroke="currentColor" stroke-width="2" />
      </svg>
      <span>When: {{ says() }}</span>
    </button>
    <ct-panel
      look="ct-when-panel"
      label="When it happened"
      [origin]="origin"
      [open]="open()"
      (closed)="open.set(false)"
    >
      @if (open()) {
        <form (submit)="$event.preventDefault(); take()">
          <ct-text
            label="When it happened"
            placeholder="yesterday 17:40"
            [value]="typed()"
            (valueChange)="typed.set($event); sure.set(false)"
            [problem]="tried() ? read().problem : null"
            [say]="understood()"
          />
          <div class="near">
            @for (one of near(); track one.words) {
              <button type="button" (click)="typed.set(one.typed)">{{ one.words }}</button>
            }
          </div>
          @if (sure()) {
            <p class="watch" role="alert">That is {{ understood() }}. Is the year right?</p>
          }
          <div class="ends">
            <button class="go">{{ sure() ? 'Yes, as of then' : 'Record as of then' }}</button>
            <button type="button" (click)="now()">Now</button>
          </div>
          <p class="small soft">
            All that is recorded from this tablet is of then until it is “Now” again, or nothing was recorded for 20
            minutes. When it was typed is kept beside it.
          </p>
        </form>
      }
    </ct-panel>
  `,
  styleUrl: './when-line.less',
  encapsulation: ViewEncapsulation.None,
})
export class WhenLine {
  private readonly house = injectHouse();
  protected readonly when = inject(When);
  protected readonly open = signal(false);
  protected readonly typed = signal('');
  protected readonly tried = signal(false);
  /** A moment long past is asked about once more. */
  protected readonly sure = signal(false);
  private readonly zone = computed(() => this.house.house()?.timeZone ?? 'UTC');
  protected readonly read = computed(() => readMoment({ text: this.typed(), now: Date.now(), timeZone: this.zone() }));
  protected readonly says = computed(() => {
    const at = this.when.at();
    return at === null ? 'now' : this.house.dates().moment(new Date(at).toISOString());
  });
  protected readonly understood = computed(() => {
    const { at } = this.read();
    return at === null ? '' : `${this.house.dates().moment(new Date(at).toISOString())}, ${agoWords(Date.now() - at)}`;
  });
  /** What is asked for most: an hour ago, and this time yesterday. */
  protected readonly near = computed(() => {
    const clock = this.house.dates().time(new Date().toISOString());
    return [
      { words: 'Half an hour ago', typed: 'half an hour ago' },
      { words: 'An hour ago', typed: 'an hour ago' },
      { words: `Yesterday ${clock}`, typed: `yesterday ${clock}` },
      { words: 'Yesterday 18:00', typed: 'yesterday 18:00' },
    ];
  });

  protected show(): void {
    const at = this.when.at();
    this.typed.set(at === null ? '' : this.house.dates().moment(new Date(at).toISOString()));
    this.tried.set(false);
    this.sure.set(false);
    this.open.update((open) => !open);
  }

  protected take(): void {
    this.tried.set(true);
    const { at } = this.read();
    if (at === null) return;
    if (Date.now() - at > LONG_AGO_MS && !this.sure()) return this.sure.set(true);
    this.when.choose(at);
    this.open.set(false);
  }

  protected now(): void {
    this.when.choose(null);
    this.open.set(false);
  }
}

import { checkKindOf, type CheckAnswer, type CheckKind } from '@clear-tally/core';
import { RecordButton } from '../../ui/record-button';
import { Component, computed, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FloorVessel } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { Mark } from '../../ui/mark';
import { PhotoField } from '../../ui/photo-field';
import { Refusal } from '../../ui/refusal';
import { ReadingForm } from '../lots/reading-form';
import { OwnCheck } from './own-check';
import { openChecks, quietChecks } from './round';

/** The vessel in hand on the round: everything due is recorded here, most of it with one tap. */
@Component({
  selector: 'ct-vessel-panel',
  imports: [Mark, OwnCheck, PhotoField, ReadingForm, Refusal, RouterLink, RecordButton],
  template: `
    <div class="stack">
      @if (vessel().hold; as reason) {
        <p class="grave small">
          <ct-mark kind="hold"><b>On hold:</b> {{ reason }}. Do not taste.</ct-mark>
        </p>
      }
      @if (vessel().seen; as seen) {
        <p class="watch small">
          <ct-mark kind="watch"
            ><b>{{ seen.verdict === 'act' ? 'Act' : 'Watch' }}:</b> {{ seen.name }}</ct-mark
          >
        </p>
      }
      @if (vessel().odd) {
        <p class="watch small">More than 0.3 apart from its sisters today: look at this one.</p>
      }
      @if (vessel().temperature.verdict === 'act' || vessel().temperature.verdict === 'watch') {
        <p class="watch small">
          <b>{{ vessel().temperature.verdict === 'act' ? 'Act' : 'Watch' }}:</b> {{ vessel().temperature.words }}.
        </p>
      }
      @for (check of waiting(); track check.key) {
        <p class="soft small">{{ check.name }}: {{ check.why }}</p>
      }
      @if (mayRecord()) {
        @if (quiet().length > 0) {
          <button type="button" class="go wide" [ctRecord]="form" (click)="allQuiet()">
            All quiet: {{ quietNames() }}
          </button>
        }
        @for (check of asking(); track check.key) {
          <ct-own-check [lotId]="vessel().lotId" [check]="check" (recorded)="recorded.emit()" />
        }
        @for (check of gas(); track check.key) {
          <div class="row ask">
            <span>{{ answer(check.what) === 'gas' ? 'Burped:' : check.name + ':' }}</span>
            @if (answer(check.what) === 'gas') {
              <button type="button" [ctRecord]="form" (click)="made(check, true)">no gas</button
              ><button type="button" [ctRecord]="form" (click)="made(check, false)">gas</button>
            } @else if (answer(check.what) === 'swelling') {
              @for (step of SWELLING; track step) {
                <button
                  type="button"
                  class="step"
                  [ctRecord]="form"
                  [attr.aria-label]="'Swelling ' + step"
                  (click)="made(check, step === 0, step)"
                >
                  {{ step }}
                </button>
              }
            } @else if (answer(check.what) === 'photo') {
              <ct-photo label="Photo of the day" (taken)="photo.set($event)" /><button
                type="button"
                [ctRecord]="form"
                [needs]="[!photo() && 'the photo']"
                (click)="made(check, true)"
              >
                Keep it
              </button>
            } @else if (answer(check.what) === 'salt') {
              <a class="button" [routerLink]="['/lots', vessel().code]" [queryParams]="{ do: 'measure' }">Measure …</a>
            } @else if (answer(check.what) === 'move') {
              <a class="button" [routerLink]="['/lots', vessel().code]" [queryParams]="{ do: 'move' }">Move …</a
              ><button type="button" [ctRecord]="form" (click)="made(check, true)">It stays</button>
            } @else {
              <button type="button" [ctRecord]="form" (click)="made(check, true)">done</button>
            }
          </div>
        }
        @if (wantsReading()) {
          @if (repeat(); as why) {
            <p class="watch small">{{ why }}</p>
          }
          <ct-reading-form
            [compact]="true"
            [lotId]="vessel().lotId"
            [lastSample]="vessel().trend.sample"
            [brought]="brought()"
            (recorded)="recorded.emit()"
            (wasOther)="wasOther.emit($event)"
          />
        }
        @if (wantsTaste()) {
          <a class="button" [routerLink]="['/lots', vessel().code]" [queryParams]="{ do: 'taste' }">Taste …</a>
        }
        <div class="row">
          <a class="button" routerLink="/guide" [queryParams]="{ lot: vessel().code }">Something seen …</a>
          @if (!wantsReading()) {
            <button type="button" (click)="reading.set(true)">pH, °C</button>
          }
          <button type="button" (click)="next.emit()">Next vessel</button>
        </div>
        <ct-refusal [message]="form.problem()" />
      }
      <p class="small">
        <a [routerLink]="['/lots', vessel().code]">Its book</a> ·
        <span class="soft"
          >{{ vessel().lateness.words }}{{ LATENESS[vessel().lateness.state]
          }}{{ vessel().lateness.unread ? ', nobody looked in time' : '' }}</span
        >
        @if (missed(); as many) {
          <span class="soft"> · {{ many }} missed</span>
        }
      </p>
    </div>
  `,
  styles:
    '.wide { width: 100%; min-height: 56px; } .ask { align-items: center; } .step { min-width: 48px; padding: 0 6px; } :host { --reading-width: 104px; }',
})
export class VesselPanel {
  readonly vessel = input.required<FloorVessel>();
  readonly mayRecord = input(true);
  readonly brought = input<string | null>(null);
  readonly recorded = output();
  readonly next = output();
  readonly wasOther = output<{ tag: string; ph: string }>();
  /** Each kind of check says itself how it is answered. */
  protected readonly answer = (what: CheckKind): CheckAnswer => checkKindOf(what).answer;
  protected readonly SWELLING = [0, 1, 2, 3, 4];
  protected readonly LATENESS = {
    met: ', met',
    metLate: ', met too late',
    pending: '',
    late: ': past its deadline',
    throwOut: ': throw out',
  };
  protected readonly reading = signal(false);
  protected readonly photo = signal<string | null>(null);
  protected readonly form = recordingForm('round', () => {
    this.photo.set(null);
    this.recorded.emit();
  });
  private readonly open = computed(() => openChecks(this.vessel()));
  /** What is held is not called quiet: each look by its own line. */
  protected readonly quiet = computed(() => (this.vessel().hold === null ? quietChecks(this.vessel()) : []));
  protected readonly quietNames = computed(() =>
    this.quiet()
      .map(({ name }) => name)
      .join(', '),
  );
  /** In the house's own words, with a figure or words to be given. */
  protected readonly asking = computed(() => this.open().filter(({ asks }) => asks !== null));
  protected readonly gas = computed(() =>
    this.open().filter(
      ({ what, mayBeQuiet, asks }) =>
        !asks && (!mayBeQuiet || this.vessel().hold !== null) && !['reading', 'taste'].includes(this.answer(what)),
    ),
  );
  protected readonly wantsReading = computed(
    () => this.reading() || this.brought() !== null || this.open().some(({ what }) => this.answer(what) === 'reading'),
  );
  protected readonly wantsTaste = computed(() => this.open().some(({ what }) => this.answer(what) === 'taste'));
  protected readonly repeat = computed(() => this.open().find(({ what, why }) => what === 'ph' && why)?.why ?? null);
  protected readonly waiting = computed(() => this.vessel().checks.filter(({ state }) => state === 'waits'));
  protected readonly missed = computed(() => this.vessel().checks.reduce((sum, { missed }) => sum + missed, 0));

  protected allQuiet(): void {
    this.form.record(
      this.form.entry('round.quiet', {
        lots: [{ lotId: this.vessel().lotId, checks: this.quiet().map(({ what, words }) => ({ what, words })) }],
      }),
    );
  }

  protected made(
    check: { what: FloorVessel['checks'][number]['what']; words: string | null },
    quiet: boolean,
    figure: number | null = null,
  ): void {
    this.form.record(
      this.form.entry('check.make', {
        lotId: this.vessel().lotId,
        what: check.what,
        words: check.words,
        quiet,
        figure,
        ...(check.what === 'photo' ? { photo: this.photo() } : {}),
      }),
    );
  }
}

import { Component, computed, inject, input } from '@angular/core';
import { formatGrams, scaleTooCoarse } from '@clear-tally/core';
import type { LiveScale } from '../state/scale';
import { TabletScale } from '../state/tablet-scale';
import { Select } from './select';
import { rangeWords, WeighedOn } from './weighed-on';

const PLUG = 'plug';

const rangesWords = (ranges: readonly { capacityGrams: number; stepGrams: number }[]): string =>
  ranges.map(rangeWords).join(' · ');

/** The scale that is weighed on: which, what it shows, its tare; and what is the matter with it. */
@Component({
  selector: 'ct-scale-bar',
  imports: [Select, WeighedOn],
  template: `
    @let now = scale();
    @if (now.device(); as device) {
      <div class="bar" [class.silent]="standing().state !== 'reading'">
        @if (now.scales().length > 1 || mayPlug()) {
          <ct-select
            label="Scale"
            [bare]="true"
            [options]="scaleOptions()"
            [value]="device.id"
            (valueChange)="choose($event)"
          />
        } @else {
          <b>{{ device.name }}</b>
        }
        <ct-weighed-on [which]="now.which" />
        @if (now.which.scale() === null) {
          <span class="soft small figure">{{ ranges() }}</span>
        }
        <span class="on figure" role="status">{{ shows() }}</span>
        <span class="small state">{{ stateWords() }}</span>
        <button type="button" (click)="now.say('TARE')" [disabled]="standing().state !== 'reading'">Tare</button>
      </div>
      @if (standing().state === 'silent') {
        <p class="watch">{{ device.name }} says nothing. Look at its cable and its switch, or type the figure.</p>
      } @else if (standing().state === 'over') {
        <p class="watch">More is on {{ device.name }} than it can weigh. Weigh in portions: they add up here.</p>
      } @else if (foreign(); as words) {
        <div class="watch row">
          <p style="flex: 1">{{ words }}</p>
          <button type="button" (click)="now.say('UNIT g')">Switch it to grams</button
          ><button type="button" (click)="now.confirmUnit()">That is what is meant</button>
        </div>
      }
      @if (finer(); as other) {
        <div class="watch row">
          <p style="flex: 1">{{ coarseWords() }}</p>
          <button type="button" (click)="now.choose(other.id)">Use {{ other.name }}</button>
        </div>
      } @else if (coarse()) {
        <p class="watch">{{ coarseWords() }} Weigh for several vessels at once, or on a finer scale.</p>
      }
      @if (now.problem(); as said) {
        <p class="watch" role="alert">{{ said }}</p>
      }
    } @else if (now.which.offered().length > 0 || tablet.offered) {
      <div class="bar own">
        <ct-weighed-on [which]="now.which" />
        @if (tablet.offered) {
          <button type="button" class="plain small" (click)="tablet.connect()">
            A scale is plugged into this tablet
          </button>
        }
      </div>
      @if (coarse()) {
        <p class="watch">{{ coarseWords() }} {{ finerOwn() ?? 'Weigh for several vessels at once.' }}</p>
      }
    }
    @if (tablet.problem(); as said) {
      <p class="watch" role="alert">{{ said }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      justify-items: start;
    }
    .bar {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 14px;
      align-items: center;
      width: 100%;
      border-bottom: 1px solid var(--hair);
      padding-bottom: 8px;
    }
    select {
      width: auto;
      max-width: 240px;
      min-height: 44px;
      font: 600 17px var(--text) !important;
    }
    .on {
      font-size: 24px;
      font-weight: 700;
      margin-left: auto;
    }
    .state {
      min-width: 76px;
      color: var(--soft);
    }
    .silent .on {
      color: var(--soft);
    }
    .watch {
      width: 100%;
      align-items: center;
    }
    .bar.own {
      border: 0;
      padding: 0;
    }
    .bar button {
      min-height: 44px;
    }
  `,
})
export class ScaleBar {
  readonly scale = input.required<LiveScale>();
  /** What is to be weighed, grams: a scale too coarse for it says so. */
  readonly dose = input<number | null>(null);
  protected readonly tablet = inject(TabletScale);
  protected readonly standing = computed(() => this.scale().standing());
  protected readonly ranges = computed(() => rangesWords(this.scale().device()?.ranges ?? []));
  protected readonly shows = computed(() => {
    const now = this.standing();
    return now.state === 'reading' ? `${now.reading.value} ${now.reading.unit}` : now.state === 'over' ? 'over' : '–';
  });
  protected readonly stateWords = computed(() => {
    const now = this.standing();
    if (now.state !== 'reading') return now.state === 'over' ? '' : 'silent';
    return `${now.reading.settled ? 'stands' : 'moves'}${now.reading.tareGrams > 0 ? `, tare ${formatGrams(now.reading.tareGrams)}` : ''}`;
  });
  protected readonly foreign = computed(() => {
    const now = this.standing();
    if (
      now.state !== 'reading' ||
      now.reading.unit === 'g' ||
      now.reading.unit === 'kg' ||
      this.scale().unitConfirmed()
    )
      return null;
    return `The scale is switched to ${now.reading.unit}: ${now.reading.value} ${now.reading.unit} are ${formatGrams(now.reading.grams)}.`;
  });
  /** The step it is weighed in: of the scale that speaks, or of the one that is said to be used. */
  private readonly step = computed(
    () => this.scale().device()?.ranges[0]?.stepGrams ?? this.scale().which.scale()?.stepGrams ?? null,
  );
  protected readonly coarse = computed(() => this.step() !== null && this.tooCoarse(this.step()!));
  /** A scale of the house that is fine enough, where none speaks. */
  protected readonly finerOwn = computed(() => {
    const dose = this.dose() ?? 0;
    const finer = this.scale()
      .which.offered()
      .find(({ stepGrams, capacityGrams }) => !this.tooCoarse(stepGrams) && capacityGrams >= dose);
    return finer ? `${finer.tag} ${finer.name} is fine enough.` : null;
  });
  /** Another scale of the bench that is fine enough and large enough. */
  protected readonly finer = computed(() =>
    this.coarse()
      ? (this.scale()
          .scales()
          .find((one) =>
            one.ranges.some((range) => !this.tooCoarse(range.stepGrams) && range.capacityGrams >= (this.dose() ?? 0)),
          ) ?? null)
      : null,
  );
  protected readonly coarseWords = computed(
    () => `${formatGrams(this.dose() ?? 0)} on steps of ${this.step()} g is off by more than 2 % of the dose.`,
  );

  protected readonly mayPlug = computed(
    () =>
      this.tablet.offered &&
      !this.scale()
        .scales()
        .some((one) => one.id === TabletScale.ID),
  );

  protected choose(id: string): void {
    if (id === PLUG) void this.tablet.connect();
    else this.scale().choose(id);
  }

  protected readonly scaleOptions = computed(() => [
    ...this.scale()
      .scales()
      .map(({ id, name }) => ({ id, label: name })),
    ...(this.mayPlug() ? [{ id: PLUG, label: 'One plugged into this tablet …' }] : []),
  ]);

  private tooCoarse(stepGrams: number): boolean {
    const dose = this.dose();
    return dose !== null && dose > 0 && scaleTooCoarse({ doseGrams: dose, stepGrams }).tooCoarse;
  }
}

import { Component, computed, input, output, signal } from '@angular/core';
import {
  assumedInner,
  burpInterval,
  formatGrams,
  headspaceMm,
  type VesselFit as Fit,
  type VesselSet,
} from '@clear-tally/core';
import type { HouseReply } from '@clear-tally/contract';

export type HouseVessel = HouseReply['vessels'][number];

/** The vessels a batch goes into, each with its window and where it would stand; other sets below. */
@Component({
  selector: 'ct-vessel-fit',
  template: `
    @if (fit(); as f) {
      @if (chosen(); as set) {
        <p>
          <b>{{ names(set) }}</b>
          @if (set.leftoverMl > 1) {
            · <span class="mustard">{{ litres(set.leftoverMl) }} left over</span>
          } @else {
            · nothing left over
          }
        </p>
        @for (row of rows(); track row.tag) {
          <div class="vessel">
            <b class="figure">{{ row.tag }}</b>
            <svg viewBox="0 0 100 24" preserveAspectRatio="none" role="img" [attr.aria-label]="row.words">
              <rect x="0" y="4" width="100" height="16" fill="var(--wash)" />
              <rect [attr.x]="row.from" y="4" [attr.width]="row.to - row.from" height="16" fill="var(--brine-wash)" />
              <rect x="0" y="9" [attr.width]="row.at" height="6" fill="var(--brine)" />
              <path
                [attr.d]="'M' + row.from + ' 1v22M' + row.to + ' 1v22'"
                stroke="var(--ink)"
                stroke-width="0.7"
                vector-effect="non-scaling-stroke"
              />
            </svg>
            <span class="figure">{{ row.contents }}</span>
            <span class="small soft wide"
              >full to {{ row.fill }}, window {{ row.window }} · headspace {{ row.headspace }}{{ row.gas }}</span
            >
          </div>
        }
        @if (choosable()) {
          <div><button type="button" (click)="used.emit(ids(set))">Use these vessels</button></div>
        }
      } @else {
        <p class="watch">Nothing free holds this.</p>
      }
      @if (would(); as words) {
        <p class="watch">{{ words }}</p>
      }
      @if (f.sets.length > 1) {
        <p class="soft small">Also possible:</p>
        <ul>
          @for (set of f.sets; track $index) {
            @if ($index !== index()) {
              <li>
                <button type="button" class="plain" (click)="index.set($index)">{{ names(set) }}</button>&ngsp;<span
                  class="soft small"
                  >{{ set.leftoverMl > 1 ? litres(set.leftoverMl) + ' left' : 'full to ' + share(set) }}</span
                >
              </li>
            }
          }
        </ul>
      }
    } @else {
      <p class="soft">Fitting …</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    .vessel {
      display: grid;
      grid-template-columns: 44px 1fr 84px;
      gap: 8px;
      align-items: center;
    }
    svg {
      width: 100%;
      height: 24px;
    }
    .vessel .figure:last-of-type {
      text-align: right;
    }
    .wide {
      grid-column: 2 / -1;
      margin-top: -6px;
    }
    li {
      padding: 2px 0;
    }
  `,
})
export class VesselFit {
  readonly fit = input.required<Fit | null>();
  readonly vessels = input.required<readonly HouseVessel[]>();
  /** g per mL of what stands in them, for words in kilograms. */
  readonly gramsPerMl = input(1);
  readonly choosable = input(false);
  readonly used = output<string[]>();
  protected readonly index = signal(0);

  protected readonly chosen = computed(() => this.fit()?.sets[this.index()] ?? this.fit()?.sets[0] ?? null);
  protected readonly rows = computed(() =>
    (this.chosen()?.parts ?? []).map((part) => {
      const vessel = this.vessels().find((one) => one.id === part.id)!;
      const inner = vessel.inner ?? assumedInner({ kind: vessel.shape, brimMl: vessel.brimMl });
      const gas =
        vessel.closure === 'sealed' ? burpInterval({ contentsGrams: part.contentsMl, headspaceMl: part.airMl }) : null;
      const per = (fraction: number): string => `${Math.round(fraction * 100)} %`;
      return {
        tag: vessel.tag,
        contents: this.litres(part.contentsMl),
        from: vessel.minFill * 100,
        to: vessel.maxFill * 100,
        at: part.fillFraction * 100,
        fill: per(part.fillFraction),
        window: `${per(vessel.minFill)} to ${per(vessel.maxFill)}`,
        headspace: `${vessel.inner ? '' : 'about '}${Math.round(headspaceMm(inner, part.airMl))} mm, ${Math.round(part.airMl)} mL`,
        gas: gas
          ? ` · sealed: up to ${Math.round(gas.kpaPerDay)} kPa a day, burp every ${Math.max(1, Math.floor(gas.hours))} h`
          : '',
        words: `${vessel.tag} filled to ${per(part.fillFraction)}, its window is ${per(vessel.minFill)} to ${per(vessel.maxFill)}`,
      };
    }),
  );
  protected readonly would = computed(() => {
    const { moreMl, brimMl } = this.fit()?.wouldFit ?? { moreMl: null, brimMl: null };
    const ways = [
      moreMl === null
        ? null
        : `another ${formatGrams(moreMl * this.gramsPerMl())} of filling would reach the next set of vessels`,
      brimMl === null
        ? null
        : `a vessel of ${this.litres(brimMl.from)} to ${this.litres(brimMl.to)} would take what is left`,
    ].filter(Boolean);
    return ways.length > 0 ? `What would fit: ${ways.join('; ')}.` : null;
  });

  protected names(set: VesselSet): string {
    return set.parts.map((part) => this.vessels().find((one) => one.id === part.id)?.tag ?? '?').join(' + ');
  }

  protected ids = (set: VesselSet): string[] => set.parts.map(({ id }) => id);
  protected share = (set: VesselSet): string => `${Math.round((set.parts[0]?.fillFraction ?? 0) * 100)} %`;
  protected litres = (ml: number): string =>
    ml < 1000 ? `${Math.round(ml)} mL` : `${(ml / 1000).toFixed(ml < 10_000 ? 2 : 1)} L`;
}

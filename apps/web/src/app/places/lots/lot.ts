import { WindowWords } from './window-words';
import { Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { formatGrams, formatPercent } from '@clear-tally/core';
import type { LotReply, WatchReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { sessionFeature } from '../../state/session';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { TallyView } from '../../ui/tally-view';
import { VesselDrawing } from '../../ui/vessel-drawing';
import { Waiting } from '../../ui/waiting';
import { Book } from './book';
import { Conditions } from './conditions';
import { CountForm } from './count-form';
import { HoldForm } from './hold-form';
import { Holds } from './holds';
import { Pictures } from './pictures';
import { Sisters } from './sisters';
import { Tend } from './tend/tend';
import { PhChart } from './ph-chart';
import { ReadingForm } from './reading-form';
import { Ahead } from '../release/ahead';

const KIND_WORDS: Record<string, string> = {
  supply: 'supply lot',
  batch: 'batch',
  preparation: 'preparation',
  fill: 'vessel',
  run: 'packing run',
};

const EVENT_WORDS: Record<string, string> = {
  'vessel.topUp': 'topped up',
  'find.record': '',
  'hold.place': 'hold',
  'hold.byRule': 'hold, by rule',
  'hold.anew': 'decided anew',
  'hold.lift': 'lifted',
  'vessel.split': 'split',
  'lot.transfer': 'merged',
  'vessel.throwOut': 'thrown out',
};

/** The book of one lot: its chart, its lines, its tally, what stands before and after it. */
@Component({
  selector: 'ct-lot',
  imports: [
    WindowWords,
    Ahead,
    Book,
    Conditions,
    CountForm,
    HoldForm,
    Holds,
    Pictures,
    Sisters,
    Tend,
    Mark,
    PhChart,
    ReadingForm,
    RouterLink,
    TallyView,
    VesselDrawing,
    Waiting,
  ],
  templateUrl: './lot.html',
  styles: `
    .head {
      display: flex;
      gap: 20px;
      align-items: flex-end;
    }
    h1 .figure {
      font-weight: 700;
    }
    .relatives {
      display: grid;
      gap: 2px;
    }
    .relatives li {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 10px;
      padding: 6px 0;
      border-bottom: 1px solid var(--hair);
      font-size: 16px;
    }
  `,
})
export class Lot {
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly read = shown<LotReply>(computed(() => `/api/lots/${encodeURIComponent(this.code())}`));
  protected readonly lot = this.read.data;
  /** What a link asks to do. */
  readonly do = input<string>();
  private readonly watched = shown<WatchReply>(
    computed(() => (this.lot()?.kind === 'fill' ? `/api/watch/${encodeURIComponent(this.lot()!.code)}` : null)),
  );
  protected readonly watch = computed(() => (this.lot()?.kind === 'fill' ? this.watched.data() : null));
  protected readonly deadline = computed(() => {
    const lateness = this.watch()?.lateness;
    return lateness && lateness.reachedAt !== Date.parse(this.lot()!.at) ? lateness.hours / 24 : null;
  });
  /** What is written over the chart: what ran over, what was seen, what held it. */
  protected readonly events = computed(() =>
    (this.lot()?.lines ?? []).flatMap((line) => {
      const words = EVENT_WORDS[line.kind];
      return words === undefined || line.lotCode !== this.lot()!.code
        ? []
        : [
            {
              day: Math.max(0, (Date.parse(line.at) - Date.parse(this.lot()!.at)) / 86_400_000),
              words: line.kind === 'find.record' ? line.what.replace('Seen: ', '').split(/[,:]/)[0]! : words,
              grave: line.kind.startsWith('hold') || line.kind === 'vessel.throwOut',
            },
          ];
    }),
  );
  protected readonly iso = (at: number): string => new Date(at).toISOString();
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  protected readonly mayRecord = computed(() => this.person()?.role !== 'inspector');
  protected readonly kindWords = computed(() => KIND_WORDS[this.lot()?.kind ?? ''] ?? '');
  protected readonly drawn = computed(() => {
    const lot = this.lot();
    return lot?.vessel
      ? {
          ...lot.vessel,
          fill: lot.tally.onHandGrams / lot.vessel.brimMl,
          hold: lot.hold !== null,
          formulaNumber: this.house.shelf()?.vessels.find((row) => row.code === lot.code)?.formulaNumber ?? null,
        }
      : null;
  });
  /** pH and temperatures of this lot alone, not of its batch. */
  protected readonly readings = computed(() =>
    (this.lot()?.lines ?? []).filter(
      (line) =>
        line.value !== null &&
        (line.kind === 'ph.read' || line.kind === 'temperature.read') &&
        line.lotCode === this.lot()!.code,
    ),
  );
  protected readonly takesReadings = computed(
    () => this.lot() !== null && ['fill', 'run', 'preparation'].includes(this.lot()!.kind) && !this.lot()!.closed,
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly percent = formatPercent;
  /** Every row of its list, not only those that packing asks. */
  protected readonly allMet = computed(() => this.watch()?.conditions.every(({ state }) => state === 'met') ?? false);
}

import { Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { formatGrams, formatPercent } from '@clear-tally/core';
import type { LotReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { sessionFeature } from '../../state/session';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { TallyView } from '../../ui/tally-view';
import { VesselDrawing } from '../../ui/vessel-drawing';
import { Waiting } from '../../ui/waiting';
import { Book } from './book';
import { CountForm } from './count-form';
import { HoldForm } from './hold-form';
import { KeepBrine } from './keep-brine';
import { PhChart } from './ph-chart';
import { ReadingForm } from './reading-form';

const KIND_WORDS: Record<string, string> = { supply: 'supply lot', batch: 'batch', preparation: 'preparation', fill: 'vessel', run: 'packing run' };

/** The book of one lot: its chart, its lines, its tally, what stands before and after it. */
@Component({
  selector: 'ct-lot',
  imports: [Book, CountForm, HoldForm, KeepBrine, Mark, PhChart, ReadingForm, RouterLink, TallyView, VesselDrawing, Waiting],
  templateUrl: './lot.html',
  styles: `
    .head { display: flex; gap: 20px; align-items: flex-end; } h1 .figure { font-weight: 700; }
    .relatives { display: grid; gap: 2px; } .relatives li { display: grid; grid-template-columns: 1fr auto; gap: 10px; padding: 6px 0; border-bottom: 1px solid var(--hair); font-size: 16px; }
  `,
})
export class Lot {
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly read = shown<LotReply>(computed(() => `/api/lots/${encodeURIComponent(this.code())}`));
  protected readonly lot = this.read.data;
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  protected readonly mayRecord = computed(() => this.person()?.role !== 'inspector');
  protected readonly kindWords = computed(() => KIND_WORDS[this.lot()?.kind ?? ''] ?? '');
  protected readonly drawn = computed(() => {
    const lot = this.lot();
    return lot?.vessel ? { ...lot.vessel, fill: lot.tally.onHandGrams / lot.vessel.brimMl, hold: lot.hold !== null, formulaNumber: this.house.shelf()?.vessels.find((row) => row.code === lot.code)?.formulaNumber ?? null } : null;
  });
  /** pH and temperatures of this lot alone, not of its batch. */
  protected readonly readings = computed(() => (this.lot()?.lines ?? []).filter((line) => line.value !== null && (line.kind === 'ph.read' || line.kind === 'temperature.read') && line.lotCode === this.lot()!.code));
  protected readonly takesReadings = computed(() => this.lot() !== null && ['fill', 'run', 'preparation'].includes(this.lot()!.kind) && !this.lot()!.closed);
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly percent = formatPercent;
}

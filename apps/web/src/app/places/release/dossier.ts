import { Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { counted, doorWords, formatGrams, formatPercent, STORAGE_WORDS } from '@clear-tally/core';
import type { BookLine, DossierReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Waiting } from '../../ui/waiting';
import { Book } from '../lots/book';
import { PhChart } from '../lots/ph-chart';
import { PackNav } from '../pack/pack-nav';

const KINDS: Readonly<Record<string, string>> = { batch: 'Batch', preparation: 'Preparation', fill: 'Vessel' };
const STANDS = { met: 'meets its process', notMet: 'does not meet its process', missing: 'lacks something' } as const;

/** Everything an inspector asks of one run, on one page: from its supplies to who has its jars. */
@Component({
  selector: 'ct-dossier',
  imports: [Book, Mark, PackNav, PhChart, RouterLink, Waiting],
  templateUrl: './dossier.html',
  styleUrl: './dossier.less',
})
export class Dossier {
  protected readonly counted = counted;
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly read = shown<DossierReply>(computed(() => `/api/runs/${encodeURIComponent(this.code())}/dossier`));
  protected readonly pdf = computed(() => `/api/runs/${encodeURIComponent(this.code())}/dossier.pdf`);
  protected readonly storageWords = STORAGE_WORDS;
  protected readonly stands = STANDS;
  protected readonly doorWords = doorWords;
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly percent = formatPercent;
  protected readonly kind = (kind: string): string => KINDS[kind] ?? kind;
  protected readonly conditions = computed(
    () => this.read.data()?.run.conditions.filter(({ key }) => key !== 'review') ?? [],
  );
  protected readonly sections = computed(() => [
    ['supplies', 'Supplies'],
    ['lots', 'Lots on its way'],
    ['salt', 'Salt'],
    ['vessels', 'Vessels'],
    ...((this.read.data()?.heat.loads.length ?? 0) > 0 ? [['heat', 'Heat']] : []),
    ['release', 'Release'],
    ['jars', 'Jars'],
    ['book', 'Book'],
    ['ledger', 'Ledger'],
  ]);

  /** Readings of one vessel as its chart takes them. */
  protected chartOf({ phs, celsius, code }: DossierReply['vessels'][number]): BookLine[] {
    const line = (kind: string, { at, value, by, sample }: (typeof phs)[number], index: number): BookLine => ({
      entryId: `${code} ${kind} ${index}`,
      seq: index,
      kind,
      at,
      recordedAt: at,
      by,
      what: kind,
      figure: null,
      struck: [],
      words: null,
      struckOut: false,
      correctable: false,
      value,
      sample,
      lotCode: code,
    });
    return [
      ...phs.map((one, i) => line('ph.read', one, i)),
      ...celsius.map((one, i) => line('temperature.read', one, i)),
    ];
  }

  protected goTo(section: string): void {
    document.getElementById(section)?.scrollIntoView({ block: 'start' });
  }
}

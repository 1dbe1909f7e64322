import { Component, computed, input, linkedSignal, signal } from '@angular/core';
import { lacking, NOTHING_MORE, packedWith, type PackMore, PackMoreForm } from './pack-more';
import { PackNav } from './pack-nav';
import { FormField } from '@angular/forms/signals';
import { Nothing } from '../../ui/nothing';
import { Choices } from '../../ui/choices';
import { type Need, RecordButton } from '../../ui/record-button';
import { RouterLink } from '@angular/router';
import {
  BRINE_AT_PACKING_WORDS,
  BRINES_AT_PACKING,
  decideRest,
  effectsOf,
  formatGrams,
  STORAGE_WORDS,
  STORAGES,
  tally,
} from '@clear-tally/core';
import type { PackableReply, Recorded } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectDecimalMark } from '../../state/house';
import { injectScale } from '../../state/scale';
import { shown } from '../../state/shown';
import { CautionsAt } from '../../ui/cautions-at';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { saltWords } from '../../ui/salt-words';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TallyView } from '../../ui/tally-view';
import { Waiting } from '../../ui/waiting';
import { TypedBeforeNote } from '../../ui/typed-before';
import { untilChosen } from '../../state/until-chosen';
import { Ahead } from '../release/ahead';

type Fill = PackableReply['fills'][number];
interface Issued {
  readonly sizeMl: number;
  readonly count: number;
  readonly first: string;
  readonly last: string;
}

/** Jars by size from one or several vessels of a batch; the tally while it is typed; jar codes issued. */
@Component({
  selector: 'ct-pack',
  imports: [
    Nothing,
    Choices,
    Ahead,
    PackNav,
    CautionsAt,
    CountInput,
    Mark,
    QuantityInput,
    Refusal,
    RouterLink,
    TallyView,
    TextField,
    PackMoreForm,
    Tick,
    Waiting,
    TypedBeforeNote,
    FormField,
    RecordButton,
  ],
  templateUrl: './pack.html',
  styles: `
    @media (min-width: 1001px) {
      .page {
        grid-template-columns: 410px minmax(0, 1fr) !important;
      }
    }
    .fill {
      width: 100%;
      display: grid;
      grid-template-columns: 24px minmax(0, 1fr) auto;
      gap: 10px;
      align-items: center;
      justify-items: start;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      min-height: 64px;
      height: auto;
      padding: 8px;
      text-align: left;
      font-weight: 600;
    }
    .fill small {
      display: block;
      font-weight: 400;
      color: var(--soft);
      line-height: 1.3;
    }
    .fill.on {
      background: var(--brine-wash);
    }
    .fill:disabled {
      background: none;
    }
    .fill .figure {
      font-size: 18px;
    }
    .of-run {
      gap: 6px;
    }
    .of-run > span {
      color: var(--soft);
      font-weight: 600;
      font-size: 15px;
    }
    .small-masses {
      --quantity-width: 156px;
    }
    .codes {
      display: grid;
      gap: 10px;
    }
    .two {
      display: grid;
      grid-template-columns: minmax(0, 1fr) min(300px, 100%);
      gap: 28px;
      align-items: start;
    }
    /* What is done stays in sight, however much is written beside it. */
    .deed {
      position: sticky;
      top: 0;
    }
  `,
})
export class Pack {
  /** Code of the vessel to begin with. */
  readonly from = input<string>();
  protected readonly read = shown<PackableReply>(signal('/api/packable'));
  private readonly picked = signal<readonly string[] | null>(null);
  protected readonly chosen = computed(
    () =>
      this.picked() ??
      this.fills()
        .filter((fill) => fill.code === this.from() && !fill.refusal)
        .map((fill) => fill.lotId),
  );
  protected readonly fills = computed(() => this.read.data()?.fills ?? []);
  /** What the house's answers ask of what is packed now. */
  protected readonly asks = computed(() =>
    effectsOf({ ...this.rules(), brine: this.brine(), storage: this.storage() }).packing.map(({ words }) => words),
  );
  protected readonly brines = BRINES_AT_PACKING;
  protected readonly brineWords = BRINE_AT_PACKING_WORDS;
  protected readonly storages = STORAGES;
  protected readonly storageWords = STORAGE_WORDS;
  private readonly rules = computed(() => this.taking()[0]?.rules ?? {});
  /** As the house does it, until somebody says otherwise for this run. */
  protected readonly brine = untilChosen(
    () => effectsOf(this.rules()).brineAtPacking,
    () => this.taking()[0]?.batchCode,
  );
  protected readonly storage = untilChosen(
    () => effectsOf(this.rules()).storage,
    () => this.taking()[0]?.batchCode,
  );
  private readonly mark = injectDecimalMark();
  private readonly jarScale = injectScale('a jar');
  protected readonly saltIn = saltWords;
  /** What goes into the jars themselves counts as taken. */
  private readonly addedGrams = computed(() =>
    Object.values(this.form.values.more().added).reduce((sum, { lotId, grams }) => sum + (lotId ? (grams ?? 0) : 0), 0),
  );
  /** Stable while the same vessels are chosen. */
  protected readonly takingIds = computed(() => this.taking().map(({ lotId }) => lotId), {
    equal: (a, b) => a.join() === b.join(),
  });
  protected readonly taking = computed(() => this.fills().filter((fill) => this.chosen().includes(fill.lotId)));
  private readonly batchOf = computed(() => this.taking()[0]?.batchCode ?? null);
  /** Sizes of the formula; each with its own count. */
  protected readonly sizes = computed(() => this.taking()[0]?.jarSizes ?? []);
  protected readonly grams = linkedSignal<string, Readonly<Record<string, number | null>>>({
    source: () => this.chosen().join(),
    computation: (_, last) => ({ ...(last?.value ?? {}) }),
  });
  protected readonly emptied = signal<Readonly<Record<string, boolean>>>({});
  protected readonly rest = signal<Readonly<Record<string, number | null>>>({});
  protected readonly restReason = signal<Readonly<Record<string, string>>>({});
  protected readonly form = recordingForm('pack.run', {
    fields: {
      counts: {} as Readonly<Record<number, number | null>>,
      sample: null as number | null,
      leftover: null as number | null,
      waste: null as number | null,
      reason: '',
      closeLater: false,
      more: NOTHING_MORE as PackMore,
    },
    recorded: (recorded) => this.done(recorded),
  });
  protected readonly counts = this.form.values.counts;
  protected readonly sample = this.form.values.sample;
  protected readonly leftover = this.form.values.leftover;
  protected readonly waste = this.form.values.waste;
  protected readonly reason = this.form.values.reason;
  protected readonly issued = signal<{ code: string; jars: Issued[] } | null>(null);

  protected readonly inGrams = computed(() =>
    this.taking().reduce((sum, fill) => sum + (this.grams()[fill.lotId] ?? 0), 0),
  );
  protected readonly jarCount = computed(() =>
    this.sizes().reduce((sum, size) => sum + (this.counts()[size.sizeMl] ?? 0), 0),
  );
  private readonly jarGrams = computed(() =>
    this.sizes().reduce((sum, size) => sum + (this.counts()[size.sizeMl] ?? 0) * size.fillGrams, 0),
  );
  protected readonly tally = computed(() =>
    this.inGrams() > 0
      ? tally({
          stage: 'upToJars',
          inGrams: this.inGrams() + this.addedGrams(),
          outGrams: 0,
          lossGrams: (this.sample() ?? 0) + (this.leftover() ?? 0) + (this.waste() ?? 0),
          countedGrams: this.jarGrams(),
        })
      : null,
  );
  protected readonly missing = computed((): readonly Need[] => [
    this.taking().length === 0 && 'what is packed',
    this.taking().some((fill) => !((this.grams()[fill.lotId] ?? 0) > 0)) && 'how much goes in',
    this.taking().some((fill) => this.empties(fill) && !this.restOf(fill).ok) && 'what became of the rest',
    this.jarCount() === 0 && 'how many jars',
    this.jarCount() > 0 && !this.tally()?.clear && !this.reason().trim() && 'why the tally is not clear',
    ...lacking(
      this.form.values.more(),
      this.taking(),
      this.taking().flatMap((fill) => (this.empties(fill) ? [fill.lotId] : [])),
      this.mark() ?? 'point',
    ),
  ]);
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected otherBatch(batchCode: string): boolean {
    return this.batchOf() !== null && this.batchOf() !== batchCode;
  }

  protected toggle(lotId: string): void {
    const now = this.chosen();
    this.picked.set(now.includes(lotId) ? now.filter((id) => id !== lotId) : [...now, lotId]);
    this.issued.set(null);
    this.form.edited();
  }

  protected setGrams(lotId: string, grams: number | null): void {
    this.grams.update((all) => ({ ...all, [lotId]: grams }));
    this.form.edited();
  }

  /** What stays is the default, unless the mass taken is what is there. */
  protected empties(fill: Fill): boolean {
    const said = this.emptied()[fill.lotId];
    if (said !== undefined) return said;
    const taken = this.grams()[fill.lotId];
    return taken != null && this.restOf(fill).ok;
  }

  /** Whether what the book has left of a vessel is accounted for, if it is empty now. */
  protected restOf(fill: Fill) {
    return decideRest({
      tag: fill.vesselTag,
      inGrams: fill.inGrams,
      leftGrams: Math.max(0, fill.onHandGrams - (this.grams()[fill.lotId] ?? 0)),
      weighedGrams: this.rest()[fill.lotId] ?? 0,
      reason: this.restReason()[fill.lotId] ?? null,
    });
  }

  /** The words of what is open of a vessel said to be empty; null when nothing is. */
  protected restSays(fill: Fill): string | null {
    if (!this.empties(fill) || !this.grams()[fill.lotId]) return null;
    const bare = decideRest({
      tag: fill.vesselTag,
      inGrams: fill.inGrams,
      leftGrams: Math.max(0, fill.onHandGrams - this.grams()[fill.lotId]!),
      weighedGrams: this.rest()[fill.lotId] ?? 0,
    });
    return bare.ok ? null : bare.refusal.message;
  }

  protected setRest(lotId: string, grams: number | null): void {
    this.rest.update((all) => ({ ...all, [lotId]: grams }));
    this.form.edited();
  }

  protected setRestReason(lotId: string, words: string): void {
    this.restReason.update((all) => ({ ...all, [lotId]: words }));
    this.form.edited();
  }

  protected setEmptied(lotId: string, emptied: boolean): void {
    this.emptied.update((all) => ({ ...all, [lotId]: emptied }));
  }

  protected setCount(sizeMl: number, count: number | null): void {
    this.counts.update((all) => ({ ...all, [sizeMl]: count }));
    this.form.edited();
  }

  protected record(): void {
    if (this.missing().some(Boolean)) return;
    this.form.record(
      this.form.entry('pack.run', {
        runLotId: newId(),
        from: this.taking().map((fill) => ({
          fillLotId: fill.lotId,
          grams: this.grams()[fill.lotId]!,
          empties: this.empties(fill),
          ...this.restBody(fill),
          ...this.weightsOf(fill),
        })),
        jars: this.sizes()
          .filter((size) => (this.counts()[size.sizeMl] ?? 0) > 0)
          .map((size) => ({ sizeMl: size.sizeMl, netGrams: size.fillGrams, count: this.counts()[size.sizeMl]! })),
        sampleGrams: this.sample() ?? 0,
        leftoverGrams: this.leftover() ?? 0,
        wasteGrams: this.waste() ?? 0,
        tallyReason: this.tally()?.clear ? null : this.reason().trim(),
        brine: this.brine(),
        storage: this.storage(),
        ...packedWith(this.form.values.more(), this.mark() ?? 'point', this.jarScale.which.used()),
        ...(this.form.values.closeLater() ? { closeLater: true as const } : {}),
      }),
    );
  }

  private weightsOf(fill: Fill): { weightsOut?: number } {
    const out = this.form.values.more().weightsOut[fill.lotId];
    return fill.weightsIn > 0 && out !== undefined && out !== null ? { weightsOut: out } : {};
  }

  private restBody(fill: Fill): { restGrams?: number; restReason?: string } {
    const [grams, reason] = [this.rest()[fill.lotId], this.restReason()[fill.lotId]?.trim()];
    return this.empties(fill)
      ? { ...(grams ? { restGrams: grams } : {}), ...(reason ? { restReason: reason } : {}) }
      : {};
  }

  private done(recorded: readonly Recorded[]): void {
    const facts = recorded[0]?.facts as { code: string; jars: Issued[] } | undefined;
    if (facts) this.issued.set({ code: facts.code, jars: facts.jars });
    this.picked.set([]);
    this.counts.set({});
    [this.sample, this.leftover, this.waste].forEach((field) => field.set(null));
    this.grams.set({});
    this.emptied.set({});
    this.rest.set({});
    this.restReason.set({});
    this.reason.set('');
    this.form.values.closeLater.set(false);
    this.form.values.more.set(NOTHING_MORE);
  }
}

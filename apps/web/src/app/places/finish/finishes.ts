import { Component, computed, inject, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Router, RouterLink } from '@angular/router';
import { type Finish as FinishKind, FINISH_WORDS, FINISHES as ALL, formatGrams, isFillable } from '@clear-tally/core';
import type { FinishesReply, HouseReply, PackableReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Nothing } from '../../ui/nothing';
import { Choice } from '../../ui/choice';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { PackNav } from '../pack/pack-nav';

/** What each way is for, in the words of who does it. */
const SAYS: Readonly<Record<FinishKind, string>> = {
  repack: 'Pieces into their own brine, boiled or not, or into fresh brine.',
  sauce: 'Blended with a part of its brine, vinegar and a thickener.',
  fruit: 'A vacuum bag opened: the fruit, and its juice.',
  drying: 'Fruit, skins or powder, dried by weight.',
  infusion: 'Pieces covered with syrup or honey.',
};

/** Ferments taken in hand before they are packed, and where one is begun. */
@Component({
  selector: 'ct-finishes',
  imports: [
    Nothing,
    Choice,
    FormField,
    Mark,
    PackNav,
    QuantityInput,
    RecordButton,
    Refusal,
    RouterLink,
    Tick,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './finishes.html',
  styleUrl: './finishes.less',
})
export class Finishes {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly router = inject(Router);
  protected readonly read = shown<FinishesReply>(signal('/api/finishes'));
  protected readonly packable = shown<PackableReply>(signal('/api/packable'));
  private readonly known = shown<HouseReply>(signal('/api/house'));
  protected readonly ways = ALL;
  protected readonly words = FINISH_WORDS;
  protected readonly says = SAYS;
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected readonly form = recordingForm('finish.begin', {
    fields: {
      what: '' as FinishKind | '',
      vesselId: null as string | null,
      /** Grams by vessel; a vessel that is named is taken from. */
      grams: {} as Readonly<Record<string, number | null>>,
      all: {} as Readonly<Record<string, boolean>>,
      merge: false,
    },
    recorded: ([recorded]) => {
      const code = recorded?.facts['code'];
      this.clear();
      if (typeof code === 'string') void this.router.navigate(['/finish', code]);
    },
  });
  private readonly v = this.form.values;
  /** What is in hand is finished on its own page. */
  private readonly inHand = computed(() => new Set((this.read.data()?.finishes ?? []).map(({ lotId }) => lotId)));
  protected readonly fills = computed(() =>
    (this.packable.data()?.fills ?? []).filter(({ lotId }) => !this.inHand().has(lotId)),
  );
  protected readonly taking = computed(() => this.fills().filter(({ lotId }) => lotId in this.v.grams()));
  protected readonly total = computed(() =>
    this.taking().reduce((sum, { lotId }) => sum + (this.v.grams()[lotId] ?? 0), 0),
  );
  protected readonly several = computed(() => new Set(this.taking().map(({ batchCode }) => batchCode)).size > 1);
  protected readonly bowls = computed(() =>
    (this.known.data()?.vessels ?? []).filter(isFillable).map((one) => ({
      id: one.id,
      label: one.tag,
      detail: `${(one.brimMl / 1000).toFixed(1)} L ${one.shape}, ${this.roomOf(one.roomId)}`,
    })),
  );

  private roomOf(id: string): string {
    return this.known.data()?.rooms.find((room) => room.id === id)?.name ?? '';
  }

  protected toggle(lotId: string): void {
    const { [lotId]: named, ...others } = this.v.grams();
    this.v.grams.set(named === undefined ? { ...others, [lotId]: null } : others);
  }

  protected setGrams(lotId: string, grams: number | null): void {
    this.v.grams.set({ ...this.v.grams(), [lotId]: grams });
  }

  protected isAll(lotId: string): boolean {
    return this.v.all()[lotId] ?? this.v.what() === 'fruit';
  }

  protected setAll(lotId: string, all: boolean): void {
    this.v.all.set({ ...this.v.all(), [lotId]: all });
  }

  private clear(): void {
    this.v.what.set('');
    this.v.vesselId.set(null);
    this.v.grams.set({});
    this.v.all.set({});
    this.v.merge.set(false);
  }

  protected begin(): void {
    const [what, vesselId] = [this.v.what(), this.v.vesselId()];
    if (!what || !vesselId) return;
    this.form.record(
      this.form.entry('finish.begin', {
        finishLotId: newId(),
        what,
        vesselId,
        from: this.taking().map(({ lotId }) => ({
          fillLotId: lotId,
          grams: this.v.grams()[lotId] ?? 0,
          of: this.isAll(lotId) ? ('all' as const) : ('solids' as const),
        })),
        ...(this.several() && this.v.merge() ? { merge: true as const } : {}),
      }),
    );
  }
}

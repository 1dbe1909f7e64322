import { Component, computed, input } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../../ui/record-button';
import { formatGrams, isFillable } from '@clear-tally/core';
import type { LotReply } from '@clear-tally/contract';
import { injectHouse } from '../../../state/house';
import { newId, recordingForm } from '../../../state/form';
import { Choice } from '../../../ui/choice';
import { QuantityInput } from '../../../ui/quantity-input';
import { Refusal } from '../../../ui/refusal';
import { Tick } from '../../../ui/tick';

/** To another room; part of it into a free vessel; something of a sister vessel into it. What mixes shares its past from then on. */
@Component({
  selector: 'ct-move-mass',
  imports: [Choice, QuantityInput, Refusal, Tick, FormField, RecordButton],
  template: `
    <div class="row">
      <span class="label room">To another room</span>
      @for (room of rooms(); track room.id) {
        <button
          type="button"
          [ctRecord]="form"
          [needs]="[room.id === here() && 'it stands here']"
          (click)="move(room.id)"
        >
          {{ room.name }}
        </button>
      }
    </div>
    <div class="row">
      <ct-quantity
        label="How much"
        unit="kg"
        what="what is moved"
        [formField]="form.fields.grams"
        [refusal]="form.problemAt('grams')"
      />
      <ct-choice
        style="flex: 1"
        label="Into a free vessel"
        [options]="free()"
        [formField]="form.fields.vessel"
      /><button
        type="button"
        [ctRecord]="form"
        [needs]="[!grams() && 'how much', !vessel() && 'into which vessel']"
        (click)="split()"
      >
        Split off {{ grams() ? mass(grams()!) : '' }}
      </button>
    </div>
    <div class="row">
      <ct-choice
        style="flex: 1"
        label="Or from another vessel into this one"
        [options]="others()"
        [formField]="form.fields.from"
      /><button
        type="button"
        [ctRecord]="form"
        [needs]="[
          !grams() && 'how much',
          !from() && 'from which vessel',
          heldFrom() !== null && !carry() && 'that the hold goes with it',
        ]"
        (click)="merge()"
      >
        Take {{ grams() ? mass(grams()!) : '' }} into this one
      </button>
    </div>
    @if (heldFrom(); as reason) {
      <div class="grave">
        <p>
          <b>{{ fromTag() }} is on hold:</b> {{ reason }}. Poured in, all of {{ lot().vessel?.tag }} goes on hold with
          it.
        </p>
        <ct-tick [formField]="form.fields.carry">Hold {{ lot().vessel?.tag }} too, for the same reasons</ct-tick>
      </div>
    }
    @if (form.facts()?.['asks'] === 'confirmedOther') {
      <p class="watch row">
        <span style="flex: 1">{{ form.problem() }}</span><button type="button" (click)="merge(true)">
          It is meant: pour them together
        </button>
      </p>
    }
    <p class="soft small">
      What is taken out of this vessel later descends from both; what left it before does not. A mixture is a new thing:
      its readings begin again, its deadline is that of the younger part.
    </p>
    <ct-refusal [message]="form.problemAt('grams') || form.facts()?.['asks'] ? null : form.problem()" />
  `,
  styles:
    ':host { display: grid; gap: 12px; } .room { padding-top: 14px; } .tick { display: flex; gap: 12px; align-items: center; min-height: 48px; color: var(--ink); } .tick input { width: 26px; height: 26px; accent-color: var(--brine); }',
})
export class MoveMass {
  readonly lot = input.required<LotReply>();
  private readonly house = injectHouse();
  protected readonly form = recordingForm('move mass', {
    fields: { grams: null as number | null, vessel: null as string | null, from: null as string | null, carry: false },
    about: computed(() => this.lot().lotId),
    recorded: () => {
      this.grams.set(null);
      this.vessel.set(null);
      this.from.set(null);
      this.carry.set(false);
    },
  });
  protected readonly grams = this.form.values.grams;
  protected readonly vessel = this.form.values.vessel;
  protected readonly from = this.form.values.from;
  protected readonly rooms = computed(() => this.house.house()?.rooms ?? []);
  protected readonly here = computed(
    () => this.house.house()?.vessels.find(({ tag }) => tag === this.lot().vessel?.tag)?.roomId ?? null,
  );
  protected readonly free = computed(() =>
    (this.house.house()?.vessels ?? []).filter(isFillable).map((vessel) => ({
      id: vessel.id,
      label: `${vessel.tag} ${vessel.shape} ${vessel.brimMl / 1000} L`,
      detail: `takes ${formatGrams(vessel.brimMl * vessel.minFill)} to ${formatGrams(vessel.brimMl * vessel.maxFill)}`,
    })),
  );
  protected readonly others = computed(() =>
    (this.house.shelf()?.vessels ?? [])
      .filter(({ lotId }) => lotId !== this.lot().lotId)
      .map((vessel) => ({
        id: vessel.lotId,
        label: `${vessel.vesselTag} ${vessel.name}`,
        detail: `${formatGrams(vessel.fillGrams)} · day ${vessel.day}${vessel.hold ? ' · on hold' : ''}`,
      })),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected move(roomId: string): void {
    this.form.record(this.form.entry('vessel.move', { lotId: this.lot().lotId, roomId }));
  }

  protected split(): void {
    this.form.record(
      this.form.entry('vessel.split', {
        fromLotId: this.lot().lotId,
        fillLotId: newId(),
        vesselId: this.vessel()!,
        grams: this.grams()!,
      }),
    );
  }

  protected readonly carry = this.form.values.carry;
  private readonly source = computed(
    () => (this.house.shelf()?.vessels ?? []).find(({ lotId }) => lotId === this.from()) ?? null,
  );
  protected readonly heldFrom = computed(() => this.source()?.hold ?? null);
  protected readonly fromTag = computed(() => this.source()?.vesselTag ?? '');

  protected merge(confirmedOther = false): void {
    this.form.record(
      this.form.entry('lot.transfer', {
        fromLotId: this.from()!,
        toLotId: this.lot().lotId,
        grams: this.grams()!,
        note: null,
        ...(confirmedOther ? { confirmedOther } : {}),
        ...(this.heldFrom() !== null && this.carry() ? { carryHolds: true } : {}),
      }),
    );
  }
}

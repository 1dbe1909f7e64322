import { Component, computed, input, output, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from './record-button';
import { TypedBeforeNote } from './typed-before';
import type { HouseReply } from '@clear-tally/contract';
import { injectHouse } from '../state/house';
import { newId, recordingForm } from '../state/form';
import { Choice } from './choice';
import { QuantityInput } from './quantity-input';
import { Refusal } from './refusal';
import { TextField } from '../ui/text-field';

/** A delivery comes in: the house's own code beside the supplier's. */
@Component({
  selector: 'ct-receive',
  imports: [Choice, QuantityInput, Refusal, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (open()) {
      <form class="stack" (submit)="$event.preventDefault(); receive()">
        <ct-typed-before [typed]="form.typed" />
        <h2>Receive a delivery</h2>
        <ct-choice label="Material" [options]="materials()" [formField]="form.fields.materialId" />
        <ct-choice label="Supplier" [options]="suppliers()" [formField]="form.fields.supplierId" />
        <ct-text label="Supplier’s lot code" [formField]="form.fields.theirs" />
        <ct-quantity
          label="Received"
          unit="kg"
          fixedUnit
          what="this delivery"
          [formField]="form.fields.grams"
          [refusal]="form.problemAt('grams')"
        />
        <ct-text label="Condition" [formField]="form.fields.condition" placeholder="fresh, firm, no mould" />
        @if (caution(); as said) {
          <p class="watch">{{ said }}</p>
        }
        <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
        <div class="row">
          <button
            class="go"
            [ctRecord]="form"
            [needs]="[
              !materialId() && 'the material',
              !supplierId() && 'the supplier',
              !theirs().trim() && 'their lot code',
              !grams() && 'how much',
            ]"
          >
            Receive</button
          ><button type="button" (click)="open.set(false)">Close</button>
        </div>
      </form>
    } @else {
      <button type="button" (click)="open.set(true)">Receive a delivery</button>
      @if (code(); as issued) {
        <p class="note">
          Received as <b class="figure">{{ issued }}</b>.
        </p>
      }
    }
  `,
})
export class Receive {
  /** Kinds that can be received here; all when empty. */
  readonly kinds = input<readonly string[]>([]);
  readonly received = output<string>();
  private readonly house = injectHouse();
  private readonly quantity = viewChild(QuantityInput);

  protected readonly open = signal(false);

  protected readonly form = recordingForm('supply.receive', {
    fields: {
      grams: null as number | null,
      theirs: '',
      condition: '',
      materialId: null as string | null,
      supplierId: null as string | null,
    },
    recorded: (recorded) => {
      this.code.set(String(recorded[0]?.facts['code'] ?? ''));
      this.open.set(false);
      this.theirs.set('');
      this.condition.set('');
      this.quantity()?.clear();
      this.grams.set(null);
      this.received.emit(this.lotId);
    },
  });
  protected readonly materialId = this.form.values.materialId;
  protected readonly supplierId = this.form.values.supplierId;
  protected readonly theirs = this.form.values.theirs;
  protected readonly grams = this.form.values.grams;
  protected readonly condition = this.form.values.condition;
  protected readonly code = signal<string | null>(null);
  private lotId = '';
  protected readonly materials = computed(() =>
    (this.house.house()?.materials ?? [])
      .filter((material) =>
        this.kinds().length === 0 ? material.kind !== 'packaging' : this.kinds().includes(material.kind),
      )
      .map(({ id, name, kind }) => ({ id, label: name, detail: kind })),
  );
  protected readonly suppliers = computed(() =>
    (this.house.house()?.suppliers ?? []).map(({ id, name, prefix }) => ({ id, label: name, detail: prefix })),
  );
  protected readonly caution = computed(() => this.chosenMaterial()?.caution ?? null);
  protected readonly ready = computed(
    () => this.materialId() && this.supplierId() && this.theirs().trim() && this.grams(),
  );
  private readonly chosenMaterial = computed((): HouseReply['materials'][number] | undefined =>
    this.house.house()?.materials.find((material) => material.id === this.materialId()),
  );

  protected receive(): void {
    if (!this.ready()) return;
    this.lotId = newId();
    this.form.record(
      this.form.entry('supply.receive', {
        lotId: this.lotId,
        materialId: this.materialId()!,
        supplierId: this.supplierId()!,
        supplierLotCode: this.theirs().trim(),
        grams: this.grams()!,
        useBy: null,
        condition: this.condition().trim() || null,
      }),
    );
  }
}

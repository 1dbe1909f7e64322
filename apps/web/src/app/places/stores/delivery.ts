import { Component, computed, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { type Need, RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import {
  type AtDoor,
  dayProblem,
  DOOR_ASK_WORDS,
  DOOR_ASKS,
  type DoorAsk,
  doorMissing,
  formatGrams,
} from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { injectRights } from '../../state/person';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { FigureInput } from '../../ui/figure-input';
import { PhotoField } from '../../ui/photo-field';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { DeliveryList } from './delivery-list';
import { DoorFields } from './door-fields';
import { NewSupplier } from './new-supplier';
import { StoresNav } from './stores-nav';
import { DayField } from '../../ui/day-field';

interface Line {
  readonly key: string;
  readonly materialId: string | null;
  readonly theirs: string;
  readonly grams: number | null;
  readonly cost: number | null;
  readonly useBy: string;
  readonly condition: string;
  readonly door: AtDoor;
  readonly rejected: number | null;
  readonly why: string;
}
const MOST_LINES = 20;

const line = (): Line => ({
  key: newId(),
  materialId: null,
  theirs: '',
  grams: null,
  cost: null,
  useBy: '',
  condition: '',
  door: {},
  rejected: null,
  why: '',
});

/** A delivery, line by line, inspected at the door: accepted, accepted in part, or sent back. */
@Component({
  selector: 'ct-delivery',
  imports: [
    DayField,
    Choice,
    CountInput,
    DeliveryList,
    DoorFields,
    FigureInput,
    NewSupplier,
    PhotoField,
    QuantityInput,
    Refusal,
    RouterLink,
    StoresNav,
    TextField,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-stores-nav />
        <h1>A delivery</h1>
        @if (rights.isOwner()) {
          <ct-new-supplier (added)="newcomer($event)" />
        }
        <form class="stack" (submit)="$event.preventDefault(); receive()">
          <ct-typed-before [typed]="form.typed" />
          <div class="row">
            <ct-choice label="From" [options]="suppliers()" [formField]="form.fields.supplierId" /><ct-text
              style="width: 240px"
              label="Delivery note"
              [formField]="form.fields.reference"
            /><ct-photo label="Photo of the paper" (taken)="photo.set($event)" />
          </div>
          @for (one of lines(); track one.key; let index = $index) {
            <fieldset class="line">
              <legend class="label">Line {{ index + 1 }}</legend>
              <div class="row">
                <ct-choice
                  label="Material"
                  [options]="materials()"
                  [value]="one.materialId"
                  (valueChange)="edit(one.key, { materialId: $event })"
                />
                <ct-text
                  style="width: 170px"
                  label="Their lot code"
                  [value]="one.theirs"
                  (valueChange)="edit(one.key, { theirs: $event })"
                />
                @if (counts(one.materialId)) {
                  <ct-count label="Came, pieces" [value]="one.grams" (valueChange)="edit(one.key, { grams: $event })" />
                } @else {
                  <ct-quantity
                    style="--quantity-width: 150px"
                    label="Came"
                    unit="kg"
                    fixedUnit
                    what="this line"
                    [value]="one.grams"
                    (valueChange)="edit(one.key, { grams: $event })"
                  />
                }
                <ct-figure
                  label="Cost"
                  [unit]="currency()"
                  [least]="0"
                  [most]="99999"
                  [value]="one.cost"
                  (valueChange)="edit(one.key, { cost: $event })"
                />
                <ct-day label="Use by" [value]="one.useBy" (valueChange)="edit(one.key, { useBy: $event })" />
              </div>
              @if (asks(one.materialId); as asked) {
                @if (asked.length > 0) {
                  <ct-door-fields [asks]="asked" [door]="one.door" (seen)="see(one, $event)" />
                }
              }
              <div class="row">
                <ct-text
                  style="flex: 1"
                  label="Inspected"
                  placeholder="fresh, firm"
                  [value]="one.condition"
                  (valueChange)="edit(one.key, { condition: $event })"
                />
                @if (counts(one.materialId)) {
                  <ct-count
                    label="Sent back, pieces"
                    [value]="one.rejected"
                    (valueChange)="edit(one.key, { rejected: $event })"
                  />
                } @else {
                  <ct-quantity
                    style="--quantity-width: 150px"
                    label="Sent back"
                    unit="kg"
                    fixedUnit
                    what="what goes back"
                    [zero]="true"
                    [value]="one.rejected"
                    (valueChange)="edit(one.key, { rejected: $event })"
                  />
                }
                @if (one.rejected) {
                  <ct-text
                    style="flex: 1"
                    label="because"
                    [value]="one.why"
                    (valueChange)="edit(one.key, { why: $event })"
                  />
                }
                @if (lines().length > 1) {
                  <button type="button" class="plain" (click)="drop(one.key)">Leave line {{ index + 1 }} out</button>
                }
              </div>
              @if (caution(one.materialId); as said) {
                <p class="watch">{{ said }}</p>
              }
            </fieldset>
          }
          <div class="row"><button type="button" (click)="add()">Another line</button></div>
          <ct-refusal [message]="form.problem()" />
          <div class="row">
            <button class="go" [ctRecord]="form" [needs]="missing()">Receive {{ words() }}</button>
          </div>
        </form>
        @if (received().length > 0) {
          <div class="note stack" role="status">
            <p>
              Received:
              @for (one of received(); track one.code) {
                <a class="figure" [routerLink]="['/lots', one.code]">{{ one.code }}</a>&ngsp;{{ one.name
                }}{{ $last ? '.' : ', ' }}
              }
            </p>
            <p><a class="button" target="_blank" [href]="labels()">Print their labels</a></p>
          </div>
        }
        <ct-delivery-list />
      </div>
    </div>
  `,
  styles:
    '.line { border: 0; border-left: 4px solid var(--hair); padding: 0 0 0 14px; margin: 0; display: grid; gap: 6px; min-width: 0; } ct-choice { min-width: 260px; } ct-figure { --figure-width: 130px; }',
})
export class Delivery {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();

  protected readonly form = recordingForm('delivery', {
    fields: { reference: '', supplierId: null as string | null, lines: [line()] as readonly Line[] },
    recorded: (recorded) => {
      const codes = (recorded[0]?.facts['codes'] ?? []) as string[];
      this.received.set(this.sent.map((one, index) => ({ ...one, code: codes[index] ?? '' })));
      this.lines.set([line()]);
      this.reference.set('');
      this.photo.set(null);
    },
  });
  protected readonly supplierId = this.form.values.supplierId;
  protected readonly reference = this.form.values.reference;
  protected readonly photo = signal<string | null>(null);
  protected readonly lines = this.form.values.lines;
  protected readonly received = signal<readonly { code: string; name: string; lotId: string }[]>([]);
  private sent: readonly { name: string; lotId: string }[] = [];
  protected readonly currency = computed(() => this.house.house()?.settings.currency ?? '');
  protected readonly suppliers = computed(() =>
    (this.house.house()?.suppliers ?? []).map(({ id, name, prefix, ownPlot }) => ({
      id,
      label: name,
      detail: ownPlot ? `${prefix}, a plot of the house’s own` : prefix,
    })),
  );
  protected readonly materials = computed(() =>
    (this.house.house()?.materials ?? []).map(({ id, name, kind }) => ({ id, label: name, detail: kind })),
  );
  protected readonly full = computed(() =>
    this.lines().filter((one) => one.materialId && one.theirs.trim() && one.grams),
  );
  protected readonly missing = computed((): readonly Need[] => {
    const begun = this.lines().filter((one) => one.materialId || one.theirs.trim() || one.grams);
    const lines = begun.length > 0 ? begun : this.lines();
    return [
      this.supplierId() === null && 'the supplier',
      lines.some((one) => !one.materialId) && 'the material',
      lines.some((one) => !one.theirs.trim()) && 'their lot code',
      lines.some((one) => !one.grams) && 'how much came',
      lines.some((one) => dayProblem(one.useBy) !== null) && 'a use-by day that can be read',
      lines.some((one) => one.rejected && !one.why.trim()) && 'why some went back',
      ...DOOR_ASKS.map(
        (ask) =>
          lines.some((one) => doorMissing(this.asks(one.materialId), one.door).includes(ask)) && DOOR_ASK_WORDS[ask],
      ),
    ];
  });
  protected readonly words = computed(() => {
    const grams = this.full()
      .filter((one) => !this.counts(one.materialId))
      .reduce((sum, one) => sum + one.grams! - (one.rejected ?? 0), 0);
    return this.full().length === 0
      ? ''
      : `${this.full().length} ${this.full().length === 1 ? 'line' : 'lines'}${grams > 0 ? `, ${formatGrams(grams)}` : ''}`;
  });
  protected readonly labels = computed(
    () =>
      `/api/labels.pdf?lots=${this.received()
        .map(({ lotId }) => lotId)
        .join(',')}`,
  );

  /** Chosen at once: the delivery on the table is from it. */
  protected newcomer(supplierId: string): void {
    this.house.again();
    this.supplierId.set(supplierId);
  }

  /** Jars and lids are counted. */
  protected counts(materialId: string | null): boolean {
    return this.house.house()?.materials.find((one) => one.id === materialId)?.kind === 'packaging';
  }

  /** What its material asks for when it comes in. */
  protected asks(materialId: string | null): readonly DoorAsk[] {
    return this.house.house()?.materials.find((one) => one.id === materialId)?.details.atDoor ?? [];
  }

  protected see({ key, door }: Line, change: AtDoor): void {
    this.edit(key, { door: { ...door, ...change } });
  }

  /** Only what is asked for: of a material chosen before it, something else may have been typed. */
  private seen({ materialId, door }: Line): AtDoor {
    const asked = this.asks(materialId);
    return {
      ...(asked.includes('variety') ? { variety: door.variety?.trim() } : {}),
      ...(asked.includes('state') ? { state: door.state } : {}),
      ...(asked.includes('celsius') ? { celsius: door.celsius } : {}),
    };
  }

  protected caution(materialId: string | null): string | null {
    return this.house.house()?.materials.find((one) => one.id === materialId)?.caution ?? null;
  }

  /** The next line stands there as soon as the last is begun: an empty one is no line. */
  protected edit(key: string, change: Partial<Line>): void {
    this.lines.update((lines) => {
      const next = lines.map((one) => (one.key === key ? { ...one, ...change } : one));
      return next.length < MOST_LINES && next.at(-1)!.materialId !== null ? [...next, line()] : next;
    });
    this.form.edited();
  }

  protected add(): void {
    this.lines.update((lines) => [...lines, line()].slice(0, MOST_LINES));
  }

  protected drop(key: string): void {
    this.lines.update((lines) => lines.filter((one) => one.key !== key));
  }

  protected receive(): void {
    if (this.missing().some(Boolean)) return;
    const deliveryId = newId();
    const names = new Map((this.house.house()?.materials ?? []).map((one) => [one.id, one.name]));
    const made = this.full().map((one) => ({ one, lotId: newId() }));
    this.sent = made.map(({ one, lotId }) => ({ name: names.get(one.materialId!) ?? '', lotId }));
    this.form.record(
      this.form.entry('delivery.receive', {
        deliveryId,
        reference: this.reference().trim() || null,
        ...(this.photo() ? { photo: this.photo()! } : {}),
        lines: made.map(({ one, lotId }) => ({
          lotId,
          materialId: one.materialId!,
          supplierId: this.supplierId()!,
          supplierLotCode: one.theirs.trim(),
          grams: one.grams!,
          useBy: one.useBy || null,
          condition: one.condition.trim() || null,
          ...(this.asks(one.materialId).length === 0 ? {} : { door: this.seen(one) }),
          ...(one.cost === null ? {} : { cost: one.cost }),
          ...(one.rejected ? { rejected: { grams: one.rejected, reason: one.why.trim() } } : {}),
        })),
      }),
    );
  }
}

import { Component, computed, input, signal } from '@angular/core';
import { compareRollUps, rollUp, type RollUpPart, type ScaledBatch } from '@clear-tally/core';
import type { FormulaReply, HouseReply, Material } from '@clear-tally/contract';
import { type Fact, Facts } from '../../../ui/facts';
import { Select } from '../../../ui/select';

/** What goes on the label, and what a jar costs: from the same lines as the batch. */
@Component({
  selector: 'ct-label-cost',
  imports: [Facts, Select],
  template: `
    @if (rolled(); as r) {
      <div>
        <h2>Ingredients, by weight at mixing</h2>
        <p>
          @for (one of r.statement; track one.name) {
            <span [class.marked]="one.marked">{{ one.name }}</span>{{ one.contents ? ' (' + one.contents + ')' : ''
            }}{{ $last ? '.' : ', ' }}
          }
        </p>
      </div>
      @if (r.allergens.length > 0) {
        <div class="watch">
          <b>Allergens</b>
          <ul>
            @for (one of r.allergens; track one.allergen) {
              <li>
                {{ one.certain ? '' : 'may contain ' }}<b>{{ one.words }}</b
                >&ngsp;<span class="small"
                  >from {{ one.from.join(', ') }}{{ one.us ? '' : ' · not among the nine of the US' }}</span
                >
              </li>
            }
          </ul>
        </div>
      } @else {
        <p class="soft">No allergen of the EU or US sets is known of in it.</p>
      }
      @for (said of r.warnings; track said) {
        <p class="grave">{{ said }}</p>
      }
      <ct-facts [facts]="facts()" />
      <p class="small soft">
        {{
          scaled().heavy
            ? 'Salt and sodium are estimates for the leaf after rinsing' +
              (scaled().heavy!.measured ? ', from its measured salt' : '') +
              ', with its paste.'
            : 'Salt and sodium are estimates of the mix, before anything drains.'
        }}
        @if (r.unpriced.length > 0) {
          Without a price: {{ r.unpriced.join(', ') }}.
        }
      </p>
      <div class="stack rule">
        <h2>What if it were another material?</h2>
        <ct-select
          label="Instead of"
          empty="choose a line"
          [options]="swapOptions()"
          [value]="from()"
          (valueChange)="from.set($event)"
        />
        <ct-select
          label="use"
          empty="choose a material"
          [options]="materialOptions()"
          [value]="to()"
          (valueChange)="to.set($event)"
        />
        @if (changes(); as all) {
          <ul class="changes">
            @for (one of all; track one) {
              <li>{{ one }}</li>
            } @empty {
              <li>Nothing on the label or the bill changes.</li>
            }
          </ul>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
    }
    .marked {
      font-weight: 700;
      text-decoration: underline;
      text-underline-offset: 3px;
    }
    .changes li {
      border-left: 4px solid var(--mustard);
      padding-left: 10px;
      margin-bottom: 6px;
    }
  `,
})
export class LabelCost {
  readonly formula = input.required<FormulaReply>();
  readonly scaled = input.required<ScaledBatch>();
  readonly house = input.required<HouseReply>();
  readonly jars = input.required<readonly { sizeMl: number; count: number }[]>();
  protected readonly swapOptions = computed(() => this.swappable().map(({ id, name }) => ({ id, label: name })));
  protected readonly materialOptions = computed(() => this.materials().map(({ id, name }) => ({ id, label: name })));
  protected readonly from = signal('');
  protected readonly to = signal('');

  protected readonly materials = computed(() =>
    this.house().materials.filter((one) => one.kind !== 'water' && one.kind !== 'salt'),
  );
  protected readonly swappable = computed(() =>
    this.scaled()
      .lines.filter((line) => line.materialId !== null && line.grams !== null)
      .map((line) => ({ id: line.materialId!, name: line.name })),
  );
  protected readonly rolled = computed(() => this.roll(null));
  protected readonly changes = computed(() =>
    this.from() && this.to() ? compareRollUps(this.rolled(), this.roll({ from: this.from(), to: this.to() })) : null,
  );
  protected readonly margin = computed(() => {
    const cost = this.rolled().costPerJar;
    const counted = this.jars().flatMap((jar) =>
      this.formula()
        .jarSizes.filter((size) => size.sizeMl === jar.sizeMl && size.price !== undefined)
        .map((size) => ({ ...jar, price: size.price! })),
    );
    if (cost === null || counted.length === 0) return null;
    const price =
      counted.reduce((sum, jar) => sum + jar.count * jar.price, 0) / counted.reduce((sum, jar) => sum + jar.count, 0);
    return `${this.money(price - cost)}, ${Math.round(((price - cost) / price) * 100)} %`;
  });

  protected readonly facts = computed((): Fact[] => {
    const r = this.rolled();
    const margin = this.margin();
    return [
      { what: 'Salt per 100 g', says: `${r.saltPer100.toFixed(2)} g` },
      { what: 'Sodium per 100 g', says: `${(r.sodiumPer100 * 1000).toFixed(0)} mg` },
      { what: 'Materials', says: this.money(r.materialCost) },
      { what: `Work, ${r.labourMinutes.toFixed(0)} min`, says: this.money(r.labourCost) },
      { what: 'Jars, lids, labels', says: this.money(r.packagingCost) },
      ...(r.costPerJar === null ? [] : [{ what: `A jar, of ${r.jars}`, says: this.money(r.costPerJar), strong: true }]),
      ...(margin ? [{ what: 'Price less cost', says: margin }] : []),
    ].map((fact) => ({ ...fact, figure: true }));
  });

  protected money(amount: number): string {
    return `${this.house().settings.currency} ${amount.toFixed(2)}`;
  }

  private roll(swap: { from: string; to: string } | null) {
    const known = new Map(this.house().materials.map((one) => [one.id, one]));
    const salt = known.get(this.formula().saltMaterialId ?? '');
    const scaled = this.scaled();
    const parts = scaled.lines.map((line): RollUpPart => {
      const id = swap && line.materialId === swap.from ? swap.to : line.materialId;
      const of: Material | undefined = line.role === 'salt' ? salt : id ? known.get(id) : undefined;
      const grams = line.grams ?? 0;
      return {
        name: line.role === 'salt' ? 'Salt' : line.role === 'water' ? 'Water' : (of?.name ?? line.name),
        grams,
        waterFraction: of?.waterFraction ?? (line.role === 'water' ? 1 : 0),
        saltFraction: of?.saltFraction ?? 0,
        isSalt: line.role === 'salt',
        isWater: line.role === 'water',
        rinsed: scaled.heavy !== null && (line.role === 'produce' || line.key === 'salt'),
        allergens: of?.allergens ?? [],
        mayContain: of?.details.mayContain,
        diet: of?.details.diet,
        contents: of?.details.contents,
        costPerKg: of?.details.costPerKg ?? null,
        boughtGrams: line.role === 'produce' ? grams / this.formula().yields.trim : grams,
      };
    });
    const jars = this.jars().reduce((sum, jar) => sum + jar.count, 0);
    const packaging = this.jars().reduce(
      (sum, jar) =>
        sum + jar.count * (this.formula().jarSizes.find((size) => size.sizeMl === jar.sizeMl)?.packagingCost ?? 0),
      0,
    );
    const labour = this.formula().labour;
    const { heavy } = scaled;
    return rollUp({
      parts,
      rinsedTo: heavy && { grams: heavy.drainedGrams, saltGrams: heavy.leafSaltGrams },
      jars,
      packagingPerJar: jars > 0 ? packaging / jars : 0,
      labour: labour ? { ...labour, costPerHour: this.house().settings.labourPerHour } : undefined,
    });
  }
}

import { Component, computed, signal } from '@angular/core';
import { chainFromJars, formatGrams, jarMix, readCapacities, sauce, setOut, isFillable } from '@clear-tally/core';
import { fitted } from '../../fitting/fitting';
import { VesselFit, type HouseVessel } from '../../fitting/vessel-fit';
import { injectDecimalMark, injectHouse } from '../../state/house';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { TextField } from '../../ui/text-field';

/** Which vessels a batch goes into: the free ones of the house, or any, by their litres. */
@Component({
  selector: 'ct-fit-tool',
  imports: [FigureInput, TextField, VesselFit],
  template: `
    <div class="row">
      <ct-figure label="Batch" kind="litres" [least]="50" [most]="2000000" [(value)]="batch" /><ct-text
        style="flex: 1"
        label="Vessels, litres at the brim; none: the free ones of the house"
        placeholder="30, 30, 15, 10, 5"
        [value]="typed()"
        [problem]="odd()"
        (valueChange)="typed.set($event)"
      /><ct-figure label="Filled at most" kind="percent" [least]="0.3" [most]="1" [(value)]="most" /><ct-figure
        label="at least"
        kind="percent"
        [least]="0"
        [most]="1"
        [(value)]="least"
      />
    </div>
    @if (batch()) {
      <ct-vessel-fit [fit]="fit()" [vessels]="vessels()" />
    }
  `,
})
export class FitTool {
  private readonly house = injectHouse();
  protected readonly batch = signal<number | null>(null);
  protected readonly typed = signal('');
  protected readonly most = signal<number | null>(0.85);
  protected readonly least = signal<number | null>(0.7);
  private readonly mark = injectDecimalMark();
  private readonly read = computed(() => readCapacities({ text: this.typed(), decimalMark: this.mark() }));
  private readonly litres = computed((): number[] => {
    const read = this.read();
    return read.ok ? read.value.map((ml) => ml / 1000) : [];
  });
  protected readonly odd = computed(() => {
    const read = this.read();
    return read.ok ? null : read.refusal.message;
  });
  protected readonly vessels = computed((): HouseVessel[] => {
    if (this.odd()) return [];
    // “Filled at most” and “at least” hold for the house's own vessels too, within what each of them allows.
    if (this.litres().length === 0)
      return (this.house.house()?.vessels ?? [])
        .filter(isFillable)
        .map((one) => ({
          ...one,
          maxFill: Math.min(one.maxFill, this.most() ?? 1),
          minFill: Math.max(one.minFill, this.least() ?? 0),
        }))
        .filter((one) => one.minFill <= one.maxFill);
    const seen = new Map<number, number>();
    return this.litres().map((litre, index): HouseVessel => {
      const nth = (seen.get(litre) ?? 0) + 1;
      seen.set(litre, nth);
      return {
        id: String(index),
        tag: `${litre} L${nth > 1 ? ` (${nth})` : ''}`,
        shape: 'crock',
        brimMl: litre * 1000,
        maxFill: this.most() ?? 0.85,
        minFill: this.least() ?? 0.7,
        closure: 'loose',
        roomId: '',
        inUse: true,
        takenBy: null,
        cleanedAt: null,
        cleanedWith: null,
        usedSince: false,
        weightVolumeMl: 0,
        inner: null,
        details: {},
      };
    });
  });
  protected readonly fit = fitted(
    computed(() => (this.batch() ? { batchMl: this.batch()!, vessels: this.vessels() } : null)),
  );
}

/** Jars back to what to buy; a batch into jars; a sauce into bottles. */
@Component({
  selector: 'ct-jar-tool',
  imports: [FigureInput, QuantityInput],
  template: `
    <h3>From jars back to what to buy</h3>
    <div class="row">
      <ct-figure label="Jars" [least]="1" [most]="99999" [(value)]="jars" /><ct-quantity
        label="Each filled with"
        what="a jar"
        [(value)]="fill"
      /><ct-figure label="Solids" kind="percent" [least]="0.01" [most]="1" [(value)]="solids" /><ct-figure
        label="Pack yield"
        kind="percent"
        [least]="0.01"
        [most]="1"
        [(value)]="pack"
      /><ct-figure label="Ferment yield" kind="percent" [least]="0.01" [most]="1" [(value)]="ferment" /><ct-figure
        label="Trim yield"
        kind="percent"
        [least]="0.01"
        [most]="1"
        [(value)]="trim"
      />
    </div>
    @if (back(); as b) {
      <p class="answer">
        <b class="figure">{{ kg(b.solidsInJarsGrams) }}</b> solids in jars ←
        <b class="figure">{{ kg(b.drainedGrams) }}</b> drained ← <b class="figure">{{ kg(b.trimmedGrams) }}</b> trimmed
        ← <b class="figure">{{ kg(b.boughtGrams) }}</b> to buy
      </p>
    }
    <h3>A batch into two sizes of jar</h3>
    <div class="row">
      <ct-quantity label="Batch" unit="kg" what="the batch" [(value)]="mass" /><ct-quantity
        label="Small jar filled with"
        what="the small jar"
        [(value)]="small"
      /><ct-quantity label="Large jar filled with" what="the large jar" [(value)]="large" /><ct-figure
        label="Large ones ordered"
        [least]="0"
        [most]="9999"
        [(value)]="ordered"
      />
    </div>
    @if (mix(); as m) {
      <p class="answer">
        <b class="figure">{{ m.jars[0]!.count }}</b> small and <b class="figure">{{ m.jars[1]!.count }}</b> large;
        {{ grams(m.leftGrams) }} left.
        @if (m.missingGrams > 0) {
          <span class="mustard"> The order asks {{ grams(m.missingGrams) }} more than there is.</span>
        }
      </p>
    }
    <h3>A sauce into bottles</h3>
    <div class="row">
      <ct-quantity label="Drained solids" unit="kg" what="the solids" [(value)]="solidMass" /><ct-figure
        label="Brine back"
        kind="percent"
        [least]="0"
        [most]="2"
        [(value)]="brine"
      /><ct-figure label="Vinegar" kind="percent" [least]="0" [most]="1" [(value)]="vinegar" /><ct-figure
        label="Thickener"
        kind="percent"
        [least]="0"
        [most]="0.05"
        [(value)]="thick"
      /><ct-figure label="Sieve, blender loss" kind="percent" [least]="0" [most]="0.9" [(value)]="loss" /><ct-figure
        label="Bottle"
        unit="mL"
        [least]="10"
        [most]="20000"
        [(value)]="bottle"
      /><ct-figure label="Sauce weighs" unit="g/mL" [least]="0.5" [most]="2" [(value)]="density" /><ct-figure
        label="Bottles set out"
        [least]="0"
        [most]="99999"
        [(value)]="out"
      />
    </div>
    @if (made(); as s) {
      <p class="answer">
        Brine back <b class="figure">{{ kg(s.brineBackGrams) }}</b>, vinegar
        <b class="figure">{{ s.vinegarGrams.toFixed(0) }} g</b>, thickener
        <b class="figure">{{ s.thickenerGrams.toFixed(1) }} g</b>: <b class="figure">{{ kg(s.massGrams) }}</b> of sauce.
      </p>
      <p class="answer">
        <b class="figure">{{ s.bottles }}</b> bottles and <b class="figure">{{ s.leftGrams.toFixed(0) }} g</b> left.
        @if (missing() > 0) {
          <span class="mustard"> {{ missing() }} missing before the first is filled.</span>
        }
      </p>
      <p class="watch">The pH that counts is of the blended, rested sauce: vinegar and brine change it.</p>
    }
  `,
})
export class JarTool {
  protected readonly jars = signal<number | null>(null);
  protected readonly fill = signal<number | null>(320);
  protected readonly solids = signal<number | null>(0.58);
  protected readonly pack = signal<number | null>(0.97);
  protected readonly ferment = signal<number | null>(0.93);
  protected readonly trim = signal<number | null>(0.81);
  protected readonly back = computed(() => {
    const [count, fillGrams, solidsFraction, pack, ferment, trim] = [
      this.jars(),
      this.fill(),
      this.solids(),
      this.pack(),
      this.ferment(),
      this.trim(),
    ];
    return count && fillGrams && solidsFraction && pack && ferment && trim
      ? chainFromJars({
          jars: [{ sizeMl: 0, count: Math.floor(count), fillGrams }],
          solidsFraction,
          yields: { pack, ferment, trim },
        })
      : null;
  });
  protected readonly mass = signal<number | null>(null);
  protected readonly small = signal<number | null>(320);
  protected readonly large = signal<number | null>(690);
  protected readonly ordered = signal<number | null>(0);
  protected readonly mix = computed(() =>
    this.mass() && this.small() && this.large()
      ? jarMix({
          massGrams: this.mass()!,
          sizes: [
            { sizeMl: 0, fillGrams: this.small()!, ordered: 0 },
            { sizeMl: 1, fillGrams: this.large()!, ordered: Math.floor(this.ordered() ?? 0) },
          ],
        })
      : null,
  );
  protected readonly solidMass = signal<number | null>(null);
  protected readonly brine = signal<number | null>(0.35);
  protected readonly vinegar = signal<number | null>(0.04);
  protected readonly thick = signal<number | null>(0.0015);
  protected readonly loss = signal<number | null>(0.025);
  protected readonly bottle = signal<number | null>(150);
  protected readonly density = signal<number | null>(1.03);
  protected readonly out = signal<number | null>(null);
  protected readonly made = computed(() =>
    this.solidMass() && this.bottle() && this.density() && this.loss() !== null
      ? sauce({
          solidsGrams: this.solidMass()!,
          brineBack: this.brine() ?? 0,
          vinegar: this.vinegar() ?? 0,
          thickener: this.thick() ?? 0,
          loss: this.loss()!,
          bottleMl: this.bottle()!,
          gramsPerMl: this.density()!,
        })
      : null,
  );
  protected readonly missing = computed(() =>
    this.made() && this.out() !== null ? setOut({ needed: this.made()!.bottles, setOut: this.out()! }).missing : 0,
  );
  protected readonly kg = (grams: number): string => `${(grams / 1000).toFixed(2)} kg`;
  protected readonly grams = (grams: number): string => formatGrams(grams);
}

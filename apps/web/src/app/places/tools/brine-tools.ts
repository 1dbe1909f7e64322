import { Component, computed, signal } from '@angular/core';
import {
  adjustBrine,
  brineForVessel,
  FORM_KEYS,
  FORMS,
  type Form,
  formatGrams,
  formatPercent,
  hydrometerStrength,
  makeBrine,
  STRENGTH_SCALES,
  STRENGTH_WORDS,
  strengthFrom,
  strengthOnAllScales,
  topUp,
  type StrengthScale,
} from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { Choices } from '../../ui/choices';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Send } from './send';
import { Select } from '../../ui/select';

/** A strength as typed on its own scale, as a fraction w/w, or why not. */
const strengthOf = (
  scale: StrengthScale,
  value: number | null,
): { strength: number | null; problem: string | null } => {
  if (value === null) return { strength: null, problem: null };
  const outcome = strengthFrom({ scale, value: scale === 'ofSolution' || scale === 'ofWater' ? value / 100 : value });
  return outcome.ok ? { strength: outcome.value, problem: null } : { strength: null, problem: outcome.refusal.message };
};

/** Brine for what a vessel really takes: room, displacement, margin. */
@Component({
  selector: 'ct-brine-vessel-tool',
  imports: [FigureInput, QuantityInput, Send, Select],
  template: `
    <div class="row">
      <ct-select
        label="Vessel"
        empty="another, as typed"
        [options]="vesselOptions()"
        [value]="chosenVessel()"
        (valueChange)="choose($event)"
      />
      <ct-figure label="Brim" kind="litres" [least]="50" [most]="2000000" [(value)]="brim" /><ct-figure
        label="Filled to at most"
        kind="percent"
        [least]="0.3"
        [most]="1"
        [(value)]="fill"
      /><ct-figure label="Weight item" unit="mL" [least]="0" [most]="100000" [(value)]="weight" />
    </div>
    <div class="row">
      <ct-quantity label="Produce in it" what="the produce" [(value)]="produce" />
      <ct-select label="It packs as" [options]="forms" [value]="form()" (valueChange)="setForm($event)" />
      <ct-figure label="Density" unit="g/mL" [least]="0.05" [most]="3" [(value)]="density" /><ct-figure
        label="Salt, % of the water"
        kind="percent"
        [least]="0.001"
        [most]="0.35"
        [(value)]="ofWater"
      />
    </div>
    @if (answer(); as a) {
      @if (a.ok) {
        <p class="answer">
          Usable <b class="figure">{{ ml(a.value.usableMl) }} mL</b>, produce takes
          <b class="figure">{{ ml(a.value.solidsMl) }} mL</b> ({{ percent(a.value.packing, 1) }}):
          <b class="figure">{{ ml(a.value.brineMl) }} mL</b> of brine to cover.
        </p>
        <p class="answer">
          Poured: <b class="figure">{{ grams(a.value.saltGrams) }}</b> salt in
          <b class="figure">{{ grams(a.value.waterGrams, 1) }}</b> water. Water phase
          <b class="figure">{{ percent(a.value.waterPhaseSalt) }}</b>.
        </p>
        <p class="note">
          Make 8 % more: <b class="figure">{{ grams(a.value.make.saltGrams) }}</b> salt in
          <b class="figure">{{ grams(a.value.make.waterGrams, 1) }}</b> water. The
          {{ grams(a.value.make.spareGrams, 1) }} left fill airlocks and are kept for topping up; write on it whether it
          touched the product.
        </p>
        <ct-send [fraction]="ofWater()" basis="ofWater" [water]="waterWords()" />
      } @else {
        <p class="grave" role="alert">{{ a.refusal.message }}</p>
      }
    }
  `,
})
export class BrineVesselTool {
  private readonly house = injectHouse();
  protected readonly vessels = computed(() => (this.house.house()?.vessels ?? []).filter((one) => one.inUse));
  protected readonly vesselOptions = computed(() =>
    this.vessels().map(({ id, tag, brimMl }) => ({ id, label: `${tag}, ${brimMl / 1000} L` })),
  );
  protected readonly chosenVessel = signal('');
  protected readonly forms = FORM_KEYS.map((key) => ({ key, words: FORMS[key].words }));
  protected readonly brim = signal<number | null>(null);
  protected readonly fill = signal<number | null>(0.88);
  protected readonly weight = signal<number | null>(350);
  protected readonly produce = signal<number | null>(null);
  protected readonly form = signal<Form>('wholeSmall');
  protected readonly density = signal<number | null>(0.965);
  protected readonly ofWater = signal<number | null>(null);
  protected readonly answer = computed(() => {
    const [brimMl, maxFill, grams, gramsPerMl, w] = [
      this.brim(),
      this.fill(),
      this.produce(),
      this.density(),
      this.ofWater(),
    ];
    if (!brimMl || !maxFill || !grams || !gramsPerMl || !w) return null;
    return brineForVessel({
      room: { brimMl, maxFill, weightVolumeMl: this.weight() ?? 0 },
      solids: [{ grams, gramsPerMl }],
      strength: w / (1 + w),
      mostPacking: FORMS[this.form()].mostPacking,
    });
  });
  protected readonly waterWords = computed(() => {
    const answer = this.answer();
    return answer?.ok && this.produce()
      ? `${Math.round((answer.value.waterGrams / this.produce()!) * 1000)} g per kg`
      : null;
  });
  protected readonly percent = formatPercent;
  protected readonly ml = (value: number): string => Math.round(value).toLocaleString('en-GB');
  protected readonly grams = (value: number, step = 0.1): string =>
    step === 1 ? `${Math.round(value).toLocaleString('en-GB')} g` : `${value.toFixed(1)} g`;

  protected choose(id: string): void {
    this.chosenVessel.set(id);
    const vessel = this.vessels().find((one) => one.id === id);
    if (!vessel) return;
    this.brim.set(vessel.brimMl);
    this.fill.set(vessel.maxFill);
    this.weight.set(vessel.weightVolumeMl);
  }

  protected setForm(form: string): void {
    this.form.set(form as Form);
    this.density.set(FORMS[this.form()].gramsPerMl);
  }
}

/** Make a brine; thin or strengthen the one there is; say its strength on every scale. */
@Component({
  selector: 'ct-strength-tool',
  imports: [FigureInput, QuantityInput, Select],
  template: `
    <div class="row">
      <ct-quantity label="Brine there is, or wanted" what="the brine" [gramsPerMl]="1.03" [(value)]="brine" />
      <ct-select
        label="Strength read as"
        [options]="scaleOptions"
        [value]="scale()"
        (valueChange)="scale.set($event)"
      />
      <ct-figure label="Its strength" [(value)]="value" /><ct-figure label="Strength wanted" [(value)]="wanted" />
    </div>
    @if (now().problem ?? then().problem; as problem) {
      <p class="grave" role="alert">{{ problem }}</p>
    }
    @if (all(); as rows) {
      <dl class="scales">
        @for (row of rows; track row.words) {
          <dt>{{ row.words }}</dt>
          <dd class="figure">{{ row.value }}</dd>
        }
      </dl>
    }
    @if (made(); as m) {
      <p class="answer">
        That much of it is <b class="figure">{{ m.saltGrams.toFixed(1) }} g</b> salt in
        <b class="figure">{{ m.waterGrams.toFixed(0) }} g</b> water.
      </p>
    }
    @if (change(); as c) {
      <p class="answer">
        @if (c.addWaterGrams > 0) {
          Thin it with <b class="figure">{{ mass(c.addWaterGrams) }}</b> water.
        } @else {
          Strengthen it with <b class="figure">{{ c.addSaltGrams.toFixed(1) }} g</b> salt.
        }
        It is then {{ mass(c.brineGrams) }}.
      </p>
    }
  `,
  styles:
    '.scales { display: grid; grid-template-columns: auto 1fr; gap: 2px 18px; } dd { margin: 0; font-weight: 700; }',
})
export class StrengthTool {
  protected readonly scaleOptions = STRENGTH_SCALES.map((key) => ({ key, words: STRENGTH_WORDS[key] }));
  protected readonly scale = signal<StrengthScale>('ofWater');
  protected readonly brine = signal<number | null>(null);
  protected readonly value = signal<number | null>(null);
  protected readonly wanted = signal<number | null>(null);
  protected readonly now = computed(() => strengthOf(this.scale(), this.value()));
  protected readonly then = computed(() => strengthOf(this.scale(), this.wanted()));
  protected readonly all = computed(() => {
    const { strength } = this.now();
    if (strength === null) return null;
    const on = strengthOnAllScales(strength);
    return STRENGTH_SCALES.map((scale) => ({
      words: STRENGTH_WORDS[scale],
      value:
        scale === 'ofSolution' || scale === 'ofWater'
          ? formatPercent(on[scale])
          : scale === 'specificGravity'
            ? on[scale].toFixed(4)
            : on[scale].toFixed(1),
    }));
  });
  protected readonly made = computed(() =>
    this.brine() && this.now().strength !== null && this.wanted() === null
      ? makeBrine({ brineGrams: this.brine()!, strength: this.now().strength! })
      : null,
  );
  protected readonly change = computed(() => {
    const [brineGrams, strength, wanted] = [this.brine(), this.now().strength, this.then().strength];
    if (!brineGrams || strength === null || !wanted) return null;
    const outcome = adjustBrine({ brineGrams, strength, wanted });
    return outcome.ok ? outcome.value : null;
  });
  protected readonly mass = (grams: number): string => formatGrams(grams);
}

/** What was lost is put back in its own strength; what plain water would do instead. */
@Component({
  selector: 'ct-top-up-tool',
  imports: [Choices, FigureInput, QuantityInput],
  template: `
    <div class="row">
      <ct-quantity label="Produce in the vessel" what="the produce" [zero]="true" [(value)]="produce" /><ct-figure
        label="Water in it"
        kind="percent"
        [least]="0.5"
        [most]="1"
        [(value)]="wet"
      /><ct-quantity
        label="Water added"
        what="the water"
        [gramsPerMl]="0.99821"
        [zero]="true"
        [(value)]="water"
      /><ct-quantity label="Salt in all" what="the salt" [(value)]="salt" />
    </div>
    <div class="row">
      <ct-quantity label="Liquid lost" what="the liquid" [gramsPerMl]="1.02" [(value)]="lost" />
      <ct-choices
        label="How it was lost"
        [options]="[
          ['overflow', 'it ran over'],
          ['evaporation', 'it evaporated'],
        ]"
        [value]="how()"
        (picked)="how.set($event)"
      />
    </div>
    @if (unweighed()) {
      <p class="watch">Type what the produce in it weighs, 0 where it is brine alone.</p>
    }
    @if (tooMuch()) {
      <p class="grave" role="alert">More is lost than there is liquid in the vessel: look at the unit.</p>
    }
    @if (answer(); as a) {
      <p class="answer">
        @if (how() === 'overflow') {
          Put back <b class="figure">{{ a.saltGrams.toFixed(1) }} g</b> salt in
          <b class="figure">{{ a.waterGrams.toFixed(0) }} g</b> water: it stays at
          <b class="figure">{{ percent(a.before) }}</b>.
        } @else {
          Put back <b class="figure">{{ a.waterGrams.toFixed(0) }} g</b> of plain water: evaporation leaves the salt
          behind. It is back at <b class="figure">{{ percent(a.before) }}</b>.
        }
      </p>
      @if (how() === 'overflow') {
        <p class="watch">
          Plain water instead would thin it to <b class="figure">{{ percent(a.withPlainWater) }}</b>.
        </p>
      }
    }
  `,
})
export class TopUpTool {
  protected readonly produce = signal<number | null>(null);
  protected readonly wet = signal<number | null>(0.92);
  protected readonly water = signal<number | null>(0);
  protected readonly salt = signal<number | null>(null);
  protected readonly lost = signal<number | null>(null);
  protected readonly how = signal<'overflow' | 'evaporation'>('overflow');
  /** Nobody said what stands in it: produce that was not weighed is not 0 g of it. */
  protected readonly unweighed = computed(() => this.produce() === null && !!this.salt() && !!this.lost());
  private readonly waterGrams = computed(() =>
    this.produce() === null ? 0 : this.produce()! * (this.wet() ?? 0.92) + (this.water() ?? 0),
  );
  protected readonly tooMuch = computed(
    () => (this.lost() ?? 0) > 0 && this.waterGrams() > 0 && this.lost()! >= this.waterGrams() + (this.salt() ?? 0),
  );
  protected readonly answer = computed(() =>
    this.salt() && this.lost() && this.waterGrams() > 0 && !this.tooMuch()
      ? topUp({ saltGrams: this.salt()!, waterGrams: this.waterGrams(), lostGrams: this.lost()!, how: this.how() })
      : null,
  );
  protected readonly percent = formatPercent;
}

/** What a spindle really says when the brine is not at the temperature it was made for. */
@Component({
  selector: 'ct-hydrometer-tool',
  imports: [FigureInput],
  template: `
    <div class="row">
      <ct-figure label="It reads" kind="percent" [least]="0" [most]="0.26" [(value)]="reads" /><ct-figure
        label="Brine is at"
        kind="celsius"
        [least]="0"
        [most]="40"
        [(value)]="celsius"
      /><ct-figure label="Scale made for" kind="celsius" [least]="0" [most]="40" [(value)]="made" />
    </div>
    @if (answer() !== null) {
      <p class="answer">
        It is truly <b class="figure">{{ percent(answer()!) }}</b> of the brine.
      </p>
    }
  `,
})
export class HydrometerTool {
  protected readonly reads = signal<number | null>(null);
  protected readonly celsius = signal<number | null>(null);
  protected readonly made = signal<number | null>(20);
  protected readonly answer = computed(() => {
    if (this.reads() === null || this.celsius() === null || this.made() === null) return null;
    try {
      return hydrometerStrength({
        readStrength: this.reads()!,
        celsius: this.celsius()!,
        calibratedAtCelsius: this.made()!,
      });
    } catch {
      // A reading that no brine gives at that temperature has no answer.
      return null;
    }
  });
  protected readonly percent = formatPercent;
}

import { Component, computed, signal } from '@angular/core';
import {
  type DecimalMark,
  parseNumber,
  BASIS_WORDS,
  checkSaltFraction,
  formatGrams,
  formatPercent,
  saltAtScale,
  saltBand,
  SALT_BANDS,
  SALT_BASES,
  saltGrams,
  saltOtherwise,
  saltWorking,
  scaleTooCoarse,
  splitDose,
  waterPhaseSalt,
  waysBack,
  type SaltBasis,
} from '@clear-tally/core';
import { injectDecimalMark } from '../../state/house';
import { Choices } from '../../ui/choices';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { SaltRuler } from '../../ui/salt-ruler';
import { TextField } from '../../ui/text-field';
import { WorkingShower } from '../../ui/working-shower';
import { Send } from './send';

/** Salt for a weight, on any of the four bases; what is in already, said on all of them, and the ways back. */
@Component({
  selector: 'ct-salt-tool',
  imports: [Choices, FigureInput, QuantityInput, SaltRuler, Send, TextField, WorkingShower],
  template: `
    <ct-choices
      label="Salt counted on"
      [options]="bases"
      [words]="words"
      [value]="basis()"
      (picked)="basis.set($event)"
    />
    <div class="row">
      <ct-quantity
        label="Trimmed produce"
        what="the produce"
        [zero]="basis() !== 'ofVegetable'"
        [(value)]="produce"
      /><ct-quantity
        label="Water"
        what="the water"
        [gramsPerMl]="0.99821"
        [zero]="basis() === 'ofVegetable'"
        [(value)]="water"
      /><ct-figure label="Salt wanted" kind="percent" [least]="0.0001" [most]="0.35" [(value)]="wanted" />
      <ct-figure label="Water in the produce" kind="percent" [least]="0.5" [most]="1" [(value)]="wet" />
    </div>
    <div class="row">
      <ct-quantity label="Salt that is in" what="the salt" [(value)]="inGrams" /><ct-figure
        label="Scale, steps of"
        kind="grams"
        [least]="0.001"
        [most]="1000"
        [(value)]="step"
      /><ct-text
        style="width: 300px"
        label="Bowls, or stages"
        placeholder="3 · 4.2 3.1 5 kg · 1:2"
        [figures]="true"
        [value]="bowls()"
        [problem]="oddBowls()"
        (valueChange)="bowls.set($event)"
      />
    </div>
    @if (refused(); as message) {
      <p class="grave" role="alert">{{ message }}</p>
    }
    @if (dose(); as grams) {
      <p class="answer">
        Salt <b class="figure">{{ one(grams) }} g</b>
        @if (wps() !== null) {
          <span>
            · water phase <b class="figure">{{ percent(wps()!) }}</b>&ngsp;{{ band() }}</span
          >
        }
      </p>
      <details>
        <summary>Show the working</summary>
        <ct-working [working]="working()" />
      </details>
    }
    @if (said(); as all) {
      <p class="answer">
        {{ mass(inGrams()!) }} of salt is <b>{{ all }}</b>
        @if (wpsIn() !== null) {
          <span
            >; water phase <b class="figure">{{ percent(wpsIn()!) }}</b> {{ bandIn() }}</span
          >
        }
      </p>
    }
    @if (verdict(); as v) {
      <p [class]="v.tone">{{ v.words }}</p>
    }
    @if (coarse(); as message) {
      <p class="watch">{{ message }}</p>
    }
    @if (parts(); as each) {
      <p class="answer">
        One after the other: <b class="figure">{{ each }}</b>
      </p>
    }
    @if (wpsIn() ?? wps(); as at) {
      <ct-salt-ruler [now]="at" subject="this" />
    }
    <ct-send [fraction]="refused() ? null : wanted()" [basis]="basis()" [water]="waterWords()" [grams]="dose()" />
  `,
})
export class SaltTool {
  protected readonly bases = SALT_BASES;
  protected readonly words = BASIS_WORDS;
  protected readonly basis = signal<SaltBasis>('ofVegetable');
  protected readonly produce = signal<number | null>(null);
  protected readonly water = signal<number | null>(null);
  protected readonly wanted = signal<number | null>(null);
  protected readonly wet = signal<number | null>(0.92);
  protected readonly inGrams = signal<number | null>(null);
  protected readonly step = signal<number | null>(1);
  protected readonly bowls = signal('');
  private readonly mark = injectDecimalMark();
  private readonly shares = computed(() => readShares(this.bowls(), this.mark()));
  protected readonly oddBowls = computed(() =>
    this.bowls().trim() !== '' && !this.shares() ? 'A number of bowls, what each holds, or shares such as 1:2.' : null,
  );

  protected readonly refused = computed(() => {
    if (this.wanted() === null) return null;
    const checked = checkSaltFraction({ basis: this.basis(), saltFraction: this.wanted()! });
    if (!checked.ok) return checked.refusal.message;
    if (this.basis() !== 'ofVegetable' && this.produce() !== null && !this.water())
      return 'Salt is counted on water here: type how much water.';
    // A vegetable nobody weighed is not 0 g of it.
    return this.basis() === 'ofEverything' && this.water() && this.produce() === null
      ? 'Salt is counted on everything here: type what the produce weighs, 0 where there is none.'
      : null;
  });
  private readonly input = computed(() => ({
    basis: this.basis(),
    vegetableGrams: this.produce() ?? 0,
    waterGrams: this.water() ?? 0,
    saltFraction: this.wanted() ?? 0,
  }));
  protected readonly dose = computed(() => {
    if (this.wanted() === null || this.refused() || (this.basis() === 'ofVegetable' ? !this.produce() : !this.water()))
      return null;
    return saltGrams(this.input());
  });
  protected readonly working = computed(() =>
    saltWorking({
      ...this.input(),
      saltGrams: this.dose() ?? 0,
      vegetableFrom: 'typed',
      waterFrom: 'typed',
      fractionFrom: 'typed',
    }),
  );
  private readonly phase = (grams: number): number =>
    waterPhaseSalt({
      saltGrams: grams,
      parts: [
        { grams: this.produce() ?? 0, waterFraction: this.wet() ?? 0.92 },
        { grams: this.water() ?? 0, waterFraction: 1 },
      ],
    });
  protected readonly wps = computed(() => (this.dose() === null || !this.produce() ? null : this.phase(this.dose()!)));
  protected readonly wpsIn = computed(() =>
    this.inGrams() === null || !this.produce() ? null : this.phase(this.inGrams()!),
  );
  protected readonly band = computed(() => this.name(this.wps()));
  protected readonly bandIn = computed(() => this.name(this.wpsIn()));
  protected readonly said = computed(() => {
    if (this.inGrams() === null || !(this.produce() || this.water())) return null;
    return saltOtherwise({
      vegetableGrams: this.produce(),
      waterGrams: this.water() ?? 0,
      saltGrams: this.inGrams()!,
    }).join(', ');
  });
  protected readonly verdict = computed(() => {
    const target = this.dose();
    if (!target || this.inGrams() === null) return null;
    const at = saltAtScale({ saltGrams: this.inGrams()!, targetGrams: target });
    if (at.verdict === 'in')
      return { tone: 'note', words: `In: ${formatPercent(at.deviation, 1)} off the target of ${this.one(target)} g.` };
    const back = waysBack({ ...this.input(), saltGrams: this.inGrams()! });
    if (at.verdict === 'under') return { tone: 'watch', words: `${this.one(at.toTargetGrams)} g more.` };
    const ways = [
      back.addProduceGrams === null ? null : `${formatGrams(back.addProduceGrams)} more trimmed produce`,
      back.addWaterGrams === null ? null : `${formatGrams(back.addWaterGrams)} more water`,
    ]
      .filter(Boolean)
      .join(', or ');
    return {
      tone: 'watch',
      words: `${formatPercent(at.deviation, 1)} over. Not in yet: take ${this.one(-at.toTargetGrams)} g out. In already: ${ways}, or a reason for the reviewer.`,
    };
  });
  protected readonly coarse = computed(() => {
    const dose = this.dose() ?? this.inGrams();
    if (!dose || !this.step()) return null;
    const { tooCoarse, stepOfDose } = scaleTooCoarse({ doseGrams: dose, stepGrams: this.step()! });
    return tooCoarse
      ? `A scale of ${this.step()} g is ${formatPercent(stepOfDose, 1)} of this dose. Use the fine scale, or weigh for several vessels at once and divide.`
      : null;
  });
  protected readonly parts = computed(() => {
    const shares = this.shares();
    return this.dose() && shares && shares.length > 1
      ? splitDose({ doseGrams: this.dose()!, shares, stepGrams: this.step() ?? 1 })
          .map((part) => `${part} g`)
          .join(' + ')
      : null;
  });
  protected readonly waterWords = computed(() =>
    this.produce() && this.water() ? `${Math.round((this.water()! / this.produce()!) * 1000)} g per kg` : null,
  );
  protected readonly percent = formatPercent;
  protected readonly mass = (grams: number): string => formatGrams(grams, grams < 100 ? { stepGrams: 0.1 } : {});
  protected readonly one = (grams: number): string => grams.toFixed(1);
  private readonly name = (wps: number | null): string =>
    wps === null ? '' : SALT_BANDS.find(({ band }) => band === saltBand(wps))!.words;
}

/** "3" is three alike; "4.2 3.1 5 kg" and "1:2" are shares. Null when it is neither. */
export function readShares(text: string, decimalMark?: DecimalMark): number[] | null {
  const words = text
    .replace(/\s*k?g\b/gi, ' ')
    .trim()
    .split(/[\s:;+]+/)
    .filter(Boolean);
  const shares = words
    .map((word) => parseNumber({ text: word, decimalMark }))
    .map((read) => (read.ok ? read.value : NaN));
  if (shares.length === 0 || shares.length > 40 || shares.some((share) => !(share > 0))) return null;
  if (shares.length > 1) return shares;
  return Number.isInteger(shares[0]) && shares[0]! <= 40 ? Array<number>(shares[0]!).fill(1) : null;
}

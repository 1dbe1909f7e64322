import { Component, computed, signal } from '@angular/core';
import {
  celsiusFromFahrenheit,
  fahrenheitFromCelsius,
  formatPercent,
  type Grain,
  GRAIN_KEYS,
  GRAINS,
  heavySalt,
  kitchenBrine,
  KITCHEN_UNITS,
  type Nationality,
  NATIONALITIES,
  pasteSalt,
  spoonGrams,
  SPOON_SPREAD,
  spoonsOf,
  tasteReference,
  type HeavyCut,
} from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { Choices } from '../../ui/choices';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Select } from '../../ui/select';
import { NATION_WORDS } from '../../ui/whose-measure';

const VOLUMES = ['cup', 'pt', 'qt', 'gal'] as const;

/** Spoons to grams and back, with the spread they bring; a brine of spoons and quarts in every way it can be meant. */
@Component({
  selector: 'ct-spoon-tool',
  imports: [Choices, FigureInput, QuantityInput, Select],
  template: `
    <div class="row">
      <ct-figure label="Tablespoons of salt" [least]="0.01" [most]="1000" [(value)]="spoons" /><ct-quantity
        label="or grams of it"
        what="the salt"
        [(value)]="grams"
      />
      <ct-figure label="to so much water" [least]="0.01" [most]="1000" [(value)]="amount" />
      <ct-select label="in" [options]="volumeOptions" [value]="volume()" (valueChange)="volume.set($event)" />
    </div>
    <div class="row">
      <div>
        <ct-choices
          shown
          label="Whose measures"
          [options]="nationsOrNot"
          [value]="nation()"
          (picked)="nation.set($event)"
        />
      </div>
      <ct-select
        label="Which salt"
        [options]="salts()"
        empty="not known"
        [value]="salt()"
        (valueChange)="salt.set($event)"
      />
    </div>
    @if (spoonWords(); as words) {
      <p class="answer">{{ words }}</p>
    }
    @if (readings().length > 0) {
      <p class="answer">
        In the water: <b class="figure">{{ range() }}</b> of the water.
        @if (readings().length > 1) {
          <span class="mustard"> A batch cannot start on that: say whose measures and which salt, or weigh it.</span>
        }
      </p>
      <table class="book">
        <thead>
          <tr>
            <th>Measures</th>
            <th>Salt</th>
            <th class="right">Salt</th>
            <th class="right">Water</th>
            <th class="right">Of the water</th>
          </tr>
        </thead>
        <tbody>
          @for (one of readings(); track $index) {
            <tr>
              <td>{{ nationWords[one.nationality] }}</td>
              <td>{{ one.grain === 'weighed' ? 'weighed in the house' : grainWords(one.grain) }}</td>
              <td class="right figure">{{ one.saltGrams.toFixed(1) }} g</td>
              <td class="right figure">{{ one.waterGrams.toFixed(0) }} g</td>
              <td class="right figure">{{ percent(one.ofWater) }}</td>
            </tr>
          }
        </tbody>
      </table>
    } @else if (spoons() && amount()) {
      <p class="grave" role="alert">
        No {{ nationWords[nation() ?? 'metric'] }} measure of that name exists. Choose another, or type litres in the
        brine tools.
      </p>
    }
  `,
})
export class SpoonTool {
  private readonly house = injectHouse();
  protected readonly volumeOptions = VOLUMES.map((key) => ({
    key,
    words: { cup: 'cups', pt: 'pints', qt: 'quarts', gal: 'gallons' }[key],
  }));
  protected readonly nationsOrNot = [
    ...NATIONALITIES.map((nation) => [nation, NATION_WORDS[nation]] as const),
    [null, 'not known'] as const,
  ];
  protected readonly nationWords = NATION_WORDS;
  protected readonly spoons = signal<number | null>(null);
  protected readonly grams = signal<number | null>(null);
  protected readonly amount = signal<number | null>(null);
  protected readonly volume = signal<(typeof VOLUMES)[number]>('qt');
  protected readonly nation = signal<Nationality | null>(null);
  protected readonly salt = signal('');
  protected readonly salts = computed(() => [
    ...GRAIN_KEYS.map((key) => ({
      key: key as string,
      words: GRAINS[key].words,
      per15: GRAINS[key].gramsPer15Ml,
      weighed: false,
    })),
    ...(this.house.house()?.materials ?? [])
      .filter((one) => one.kind === 'salt' && one.details.gramsPer15Ml)
      .map((one) => ({
        key: one.id,
        words: `${one.name}, ${one.details.gramsPer15Ml} g per 15 mL`,
        per15: one.details.gramsPer15Ml!,
        weighed: true,
      })),
  ]);
  private readonly chosen = computed(() => this.salts().find((one) => one.key === this.salt()) ?? null);
  protected readonly spoonWords = computed(() => {
    const spoonMl = KITCHEN_UNITS['tbsp']![this.nation() ?? 'us']!;
    const chosen = this.chosen();
    if (!chosen || this.nation() === null) return null;
    if (this.spoons()) {
      const grams = spoonGrams({ spoons: this.spoons()!, spoonMl, gramsPer15Ml: chosen.per15 });
      return `${this.spoons()} ${this.spoons() === 1 ? 'spoon is' : 'spoons are'} ${grams.toFixed(1)} g; spoons differ by 15 %, so ${(grams * (1 - SPOON_SPREAD)).toFixed(0)} to ${(grams * (1 + SPOON_SPREAD)).toFixed(0)} g. Weigh it on the scale.`;
    }
    return this.grams()
      ? `${this.grams()} g are about ${spoonsOf({ grams: this.grams()!, spoonMl, gramsPer15Ml: chosen.per15 }).toFixed(1)} spoons, give or take 15 %. Weigh it on the scale.`
      : null;
  });
  protected readonly readings = computed(() => {
    if (!this.spoons() || !this.amount()) return [];
    const chosen = this.chosen();
    return kitchenBrine({
      brine: { saltAmount: this.spoons()!, saltUnit: 'tbsp', waterAmount: this.amount()!, waterUnit: this.volume() },
      nationality: this.nation(),
      grain: chosen && !chosen.weighed ? (chosen.key as Grain) : null,
      gramsPer15Ml: chosen?.weighed ? chosen.per15 : null,
    });
  });
  protected readonly range = computed(() => {
    const all = this.readings().map(({ ofWater }) => ofWater * 100);
    return all.length === 1
      ? `${all[0]!.toFixed(2)} %`
      : `${Math.min(...all).toFixed(1)} to ${Math.max(...all).toFixed(1)} %`;
  });
  protected readonly grainWords = (grain: Grain): string => GRAINS[grain].words;
  protected readonly percent = formatPercent;
}

/** Heavy salt and rinse: where the leaf stands, and the salt the paste still asks for. */
@Component({
  selector: 'ct-heavy-tool',
  imports: [Choices, FigureInput, QuantityInput],
  template: `
    <div class="row">
      <ct-quantity label="Leaf, trimmed" what="the leaf" [(value)]="leaf" /><ct-figure
        label="Water in the leaf"
        kind="percent"
        [least]="0.5"
        [most]="1"
        [(value)]="wet"
      /><ct-quantity label="Salt on it" what="the salt" [(value)]="salt" /><ct-figure
        label="Rest"
        unit="min"
        [least]="0"
        [most]="1440"
        [(value)]="minutes"
      />
    </div>
    <div class="row">
      <ct-choices
        label="Cut"
        [options]="[
          ['leaf', 'cut leaf'],
          ['quarters', 'quarters'],
        ]"
        [value]="cut()"
        (picked)="cut.set($event)"
      />
      <ct-figure label="Rinses" [least]="0" [most]="10" [(value)]="rinses" /><ct-figure
        label="Litres per kg"
        [least]="0"
        [most]="20"
        [(value)]="litres"
      /><ct-figure
        style="--figure-width: 200px"
        label="Measured on the juice"
        kind="percent"
        [least]="0.0001"
        [most]="0.26"
        [(value)]="measured"
      />
    </div>
    @if (answer(); as a) {
      <p class="answer">
        Taken up <b class="figure">{{ a.uptake.toFixed(3) }}</b>; after the rest
        <b class="figure">{{ percent(a.soaked) }}</b>
        @for (after of a.afterRinse; track $index) {
          <span>
            → <b class="figure">{{ percent(after) }}</b></span
          >
        }
      </p>
      @if (measured()) {
        <p class="note">
          Measured <b class="figure">{{ percent(measured()!) }}</b> replaces the estimate of {{ percent(a.estimate) }}.
        </p>
      } @else {
        <p class="watch">
          About <b class="figure">{{ percent(a.estimate) }}</b>, an estimate between {{ percent(a.band.least, 1) }} and
          {{ percent(a.band.most, 1) }}. Measure the drained juice, or taste it against {{ reference(0.015) }} (1.5 %)
          and {{ reference(0.025) }} (2.5 %).
        </p>
      }
      <div class="row">
        <ct-quantity label="Drained leaf" what="the drained leaf" [(value)]="drained" /><ct-quantity
          label="Paste, unsalted"
          what="the paste"
          [(value)]="paste"
        /><ct-figure label="Water in the paste" kind="percent" [least]="0" [most]="1" [(value)]="pasteWet" /><ct-figure
          label="Wanted in the end"
          kind="percent"
          [least]="0.005"
          [most]="0.12"
          [(value)]="wanted"
        />
      </div>
      @if (toPaste(); as p) {
        <p class="answer">
          @if (p.addSaltGrams > 0) {
            Salt for the paste: <b class="figure">{{ p.addSaltGrams.toFixed(1) }} g</b>
          } @else {
            It is saltier than wanted already: rinse once more
          }
          (without it {{ percent(p.without) }}).
        </p>
      }
    }
  `,
})
export class HeavyTool {
  protected readonly leaf = signal<number | null>(null);
  protected readonly wet = signal<number | null>(0.92);
  protected readonly salt = signal<number | null>(null);
  protected readonly minutes = signal<number | null>(90);
  protected readonly cut = signal<HeavyCut>('leaf');
  protected readonly rinses = signal<number | null>(3);
  protected readonly litres = signal<number | null>(2);
  protected readonly measured = signal<number | null>(null);
  protected readonly drained = signal<number | null>(null);
  protected readonly paste = signal<number | null>(null);
  protected readonly pasteWet = signal<number | null>(0.75);
  protected readonly wanted = signal<number | null>(0.026);
  protected readonly answer = computed(() => {
    const [leafGrams, saltGrams, minutes] = [this.leaf(), this.salt(), this.minutes()];
    if (!leafGrams || !saltGrams || minutes === null) return null;
    return heavySalt({
      leafGrams,
      waterFraction: this.wet() ?? 0.92,
      saltGrams,
      minutes,
      cut: this.cut(),
      rinses: Math.round(this.rinses() ?? 0),
      litresPerKg: this.litres() ?? 0,
    });
  });
  protected readonly toPaste = computed(() => {
    const answer = this.answer();
    if (!answer || !this.wanted()) return null;
    const drainedGrams = this.drained() ?? this.leaf()! * 0.8;
    return pasteSalt({
      drainedGrams,
      waterFraction: this.wet() ?? 0.92,
      leafSalt: this.measured() ?? answer.estimate,
      paste: [{ grams: this.paste() ?? 0, waterFraction: this.pasteWet() ?? 0.75 }],
      wanted: this.wanted()!,
    });
  });
  protected readonly percent = formatPercent;
  protected readonly reference = (strength: number): string => {
    const { saltGrams, waterGrams } = tasteReference(strength);
    return `${saltGrams.toFixed(1)} g in ${waterGrams} g water`;
  };
}

@Component({
  selector: 'ct-temperature-tool',
  imports: [FigureInput],
  template: `<div class="row">
      <ct-figure label="Celsius or Fahrenheit" kind="celsius" [(value)]="celsius" />
      @if (celsius() !== null) {
        <p class="answer beside">
          <b class="figure">{{ celsius()!.toFixed(1) }} °C</b> is
          <b class="figure">{{ f(celsius()!).toFixed(1) }} °F</b>
        </p>
      }
    </div>
    <p class="soft small">Type 64 F for Fahrenheit. {{ warm }}</p>`,
  styles: '.beside { margin-top: 34px; }',
})
export class TemperatureTool {
  protected readonly celsius = signal<number | null>(null);
  protected readonly f = fahrenheitFromCelsius;
  protected readonly warm = `Kept cultures die above about 45 °C (113 °F); brine is cool at ${celsiusFromFahrenheit(86)} °C (86 °F) or lower.`;
}

import { Component, computed, input, model, signal } from '@angular/core';
import {
  type Nationality,
  type Outcome,
  parseNumber,
  parseTemperature,
  parseVolume,
  printNumber,
} from '@clear-tally/core';
import { injectDecimalMark, injectNation } from '../state/house';
import { TextField } from './text-field';
import { WhoseMeasure } from './whose-measure';

const UNITS = { number: '', percent: '%', celsius: '°C', litres: 'L', grams: 'g' } as const;
export type FigureKind = keyof typeof UNITS;

/** A figure that is no mass: a number, a share, a temperature, a volume. Shares are held as fractions, volumes in mL. */
@Component({
  selector: 'ct-figure',
  imports: [TextField, WhoseMeasure],
  template: `<ct-text
      [label]="label()"
      [figures]="true"
      [unit]="unitShown()"
      [value]="text()"
      [problem]="problem()"
      [say]="say()"
      (valueChange)="typed($event)"
    />
    @if (asksWhose()) {
      <ct-whose-measure (said)="whose($event)" />
    }`,
  styles: ':host { display: block; width: var(--figure-width, 150px); }',
})
export class FigureInput {
  readonly label = input.required<string>();
  readonly kind = input<FigureKind>('number');
  readonly unit = input<string>();
  /** Beyond these the figure is refused, with its words. */
  readonly least = input(-Infinity);
  readonly most = input(Infinity);
  readonly say = input<string | null>(null);
  readonly value = model<number | null>(null);

  private readonly own = signal<string | null>(null);
  private readonly mark = injectDecimalMark();
  private readonly houseNation = injectNation();
  private readonly nation = signal<Nationality | null>(null);
  protected readonly text = computed(() => {
    const own = this.own();
    const value = this.value();
    if (own !== null && this.read(own).value === value) return own;
    if (value === null) return own ?? '';
    return printNumber(
      Number(
        (this.kind() === 'percent' ? value * 100 : this.kind() === 'litres' ? value / 1000 : value).toPrecision(6),
      ),
      this.mark(),
    );
  });
  protected readonly problem = computed(() => (this.text().trim() === '' ? null : this.read(this.text()).problem));
  protected readonly unitShown = computed(() =>
    /[a-z%°]/i.test(this.text()) ? '' : (this.unit() ?? UNITS[this.kind()]),
  );

  protected readonly asksWhose = computed(() => {
    const text = this.text().trim();
    const outcome = text === '' ? null : this.parse(text);
    return outcome !== null && !outcome.ok && outcome.refusal.code === 'quantity.spread';
  });

  protected whose(nation: Nationality): void {
    this.nation.set(nation);
    this.typed(this.text());
  }

  protected typed(text: string): void {
    this.own.set(text);
    this.value.set(this.read(text).value);
  }

  private read(text: string): { value: number | null; problem: string | null } {
    if (text.trim() === '') return { value: null, problem: null };
    const outcome = this.parse(text.trim());
    if (!outcome.ok) return { value: null, problem: outcome.refusal.message };
    const value = outcome.value;
    if (value >= this.least() && value <= this.most()) return { value, problem: null };
    const shown = (bound: number): string =>
      `${Number((this.kind() === 'percent' ? bound * 100 : this.kind() === 'litres' ? bound / 1000 : bound).toPrecision(6))}`;
    const range =
      this.most() === Infinity
        ? `${shown(this.least())} or more is accepted`
        : this.least() === -Infinity
          ? `up to ${shown(this.most())} is accepted`
          : `${shown(this.least())} to ${shown(this.most())} is accepted`;
    return { value: null, problem: `${text.trim()} was given; ${range}.` };
  }

  private parse(text: string): Outcome<number> {
    const decimalMark = this.mark();
    switch (this.kind()) {
      case 'celsius':
        return parseTemperature({ text, decimalMark });
      case 'litres':
        return this.volume(text, 'L');
      case 'percent': {
        const number = parseNumber({ text: text.replace(/\s*(%|per ?cent)$/i, ''), decimalMark });
        return number.ok ? { ok: true, value: number.value / 100 } : number;
      }
      default: {
        const unit = this.unit();
        // A volume in another unit than the field's is a volume all the same.
        if ((unit !== 'L' && unit !== 'mL') || !/[a-z¼-¾⅐-⅞]/i.test(text)) return parseNumber({ text, decimalMark });
        const ml = this.volume(text, unit);
        return ml.ok ? { ok: true, value: unit === 'L' ? ml.value / 1000 : ml.value } : ml;
      }
    }
  }

  /** Millilitres. */
  private volume(text: string, defaultUnit: 'L' | 'mL'): Outcome<number> {
    return parseVolume({
      text,
      defaultUnit,
      decimalMark: this.mark(),
      what: this.label(),
      nationality: this.nation() ?? this.houseNation(),
    });
  }
}

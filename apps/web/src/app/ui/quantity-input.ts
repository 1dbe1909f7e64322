import { booleanAttribute, Component, computed, input, model, output, signal } from '@angular/core';
import { NzInputModule } from 'ng-zorro-antd/input';
import { formatGrams, type Nationality, parseMass, otherUnitMeant, printNumber, thousandOff } from '@clear-tally/core';
import { injectBenchUnit, injectDecimalMark, injectNation } from '../state/house';
import { WhoseMeasure } from './whose-measure';

let made = 0;

/**
 * A mass as people type it: "850", "1,5 kg", "2 lb 3 oz". Shows what it understood; refuses a volume of a
 * solid in the field itself. What is typed stays whatever happens.
 */
@Component({
  selector: 'ct-quantity',
  imports: [NzInputModule, WhoseMeasure],
  host: { '[class.told]': 'message() !== null' },
  template: `
    <label [for]="id">{{ label() }}</label>
    <span class="box">
      <input
        #field
        nz-input
        [id]="id"
        type="text"
        inputmode="decimal"
        autocomplete="off"
        [value]="text()"
        [placeholder]="following()"
        [class.wrong]="message()"
        [attr.aria-invalid]="message() ? true : null"
        [attr.aria-describedby]="id + '-say'"
        (input)="typed(field.value)"
      />
      <span class="unit figure">{{ unitShown() }}</span>
    </span>
    <span class="say small" [id]="id + '-say'" [class.beet]="message()" aria-live="polite">{{
      message() ?? understood()
    }}</span>
    @if (asksWhose()) {
      <ct-whose-measure (said)="whose($event)" />
    }
    @if (asked(); as off) {
      <span class="row">
        <button type="button" (click)="means(off.meant)">{{ mass(off.meant) }}</button>
        @if (off.typed !== null) {
          <button type="button" (click)="stays()">It is {{ mass(off.typed) }}</button>
        }
      </span>
    }
  `,
  styles: `
    :host {
      display: block;
      width: var(--quantity-width, 220px);
    }
    :host(.told) {
      width: calc(2 * var(--quantity-width, 220px));
    }
    :host(.told) .box {
      width: var(--quantity-width, 220px);
    }
    .box {
      display: flex;
      align-items: stretch;
    }
    input {
      text-align: right;
      font-size: 22px !important;
      min-width: 0;
    }
    input:focus-visible {
      outline: none;
    }
    .box:focus-within {
      outline: 3px solid var(--steel);
      outline-offset: 2px;
    }
    .unit {
      background: #edf1ef;
      border-bottom: 2px solid var(--ink);
      padding: 12px 10px 0 0;
      color: var(--soft);
    }
    .say {
      display: block;
      min-height: 22px;
      color: var(--soft);
    }
  `,
})
export class QuantityInput {
  readonly label = input.required<string>();
  /** What is weighed, for messages. */
  readonly what = input('this');
  /** What such a mass is usually weighed in; at the bench the house's own unit stands in its place. */
  readonly unit = input<'g' | 'kg'>('g');
  /** Stores and plans keep their unit, whatever the bench weighs in. */
  readonly fixedUnit = input(false, { transform: booleanAttribute });
  /** Nought is an answer here, such as no waste. */
  readonly zero = input(false);
  /** g/mL, for liquids. */
  readonly gramsPerMl = input<number>();
  /** What its plan says, grams: a figure a thousand times off it is asked about before it is used. */
  readonly planned = input<number | null>(null);
  /** What the scale shows: it stands in the empty field, and typing takes its place. */
  readonly live = input<number | null>(null);
  /** A refusal of the server for this field. */
  readonly refusal = input<string | null>(null);
  readonly value = model<number | null>(null);
  readonly edited = output();

  protected readonly id = `quantity-${(made += 1)}`;
  private readonly own = signal<string | null>(null);
  /** What somebody said is so although it is far off its plan. */
  private readonly sure = signal<string | null>(null);
  protected readonly mass = formatGrams;
  private readonly mark = injectDecimalMark();
  private readonly bench = injectBenchUnit();
  protected readonly ownUnit = computed(() => (this.fixedUnit() ? this.unit() : this.bench(this.unit())));
  private readonly houseNation = injectNation();
  /** Whose measure it is, said at this field. */
  private readonly nation = signal<Nationality | null>(null);

  /** What the person typed; a mass set from outside shows as its figure. */
  protected readonly text = computed(() => {
    const own = this.own();
    const grams = this.value();
    if (own !== null && this.read(own).grams === grams) return own;
    return grams === null ? (own ?? '') : this.print(grams);
  });
  protected readonly following = computed(() => {
    const live = this.live();
    return live === null ? '' : this.print(live);
  });
  private readonly parsed = computed(() => this.read(this.text()));
  protected readonly message = computed(
    () => this.refusal() ?? (this.text().trim() === '' ? null : this.parsed().message),
  );
  protected readonly understood = computed(() => {
    const { grams } = this.parsed();
    const plain = /^[\d.,\s]*$/.test(this.text());
    return grams === null || (plain && (this.ownUnit() === 'kg' || grams < 10_000)) ? '' : `= ${formatGrams(grams)}`;
  });
  protected readonly unitShown = computed(() => (/[a-z]/i.test(this.text()) ? '' : this.ownUnit()));

  /** A mass that was typed and not taken, and what was probably meant. */
  protected readonly asked = computed(() => this.read(this.text()).asked ?? null);

  protected readonly asksWhose = computed(() => this.read(this.text()).whose ?? false);

  protected whose(nation: Nationality): void {
    this.nation.set(nation);
    this.typed(this.text());
  }

  protected means(grams: number): void {
    this.typed(this.print(grams));
  }

  protected stays(): void {
    this.sure.set(this.text());
    this.typed(this.text());
  }

  protected typed(text: string): void {
    this.own.set(text);
    this.value.set(this.read(text).grams);
    this.edited.emit();
  }

  /** Empties the field after its figure is recorded. */
  clear(): void {
    this.own.set('');
    this.value.set(null);
  }

  /** As this field would read it again. */
  private print(grams: number): string {
    return printNumber(
      this.ownUnit() === 'kg' ? Number((grams / 1000).toPrecision(12)) : Math.round(grams * 10) / 10,
      this.mark(),
    );
  }

  private read(text: string): {
    grams: number | null;
    message: string | null;
    /** The measure differs from country to country, and nobody has said which. */
    whose?: boolean;
    asked?: { readonly typed: number | null; readonly meant: number };
  } {
    if (text.trim() === '') return { grams: null, message: null };
    if (this.zero() && /^0([.,]0*)?\s*(k?g)?$/i.test(text.trim())) return { grams: 0, message: null };
    const outcome = parseMass({
      text,
      defaultUnit: this.ownUnit(),
      decimalMark: this.mark(),
      gramsPerMl: this.gramsPerMl(),
      nationality: this.nation() ?? this.houseNation(),
      what: this.what(),
    });
    const planned = this.planned();
    if (!outcome.ok) {
      // Beyond what any scale holds, but in the smaller unit as planned.
      const small = this.ownUnit() === 'kg' && planned !== null ? Number(text.trim().replace(',', '.')) : NaN;
      const meant = planned === null ? null : thousandOff({ grams: small * 1000, planned });
      return {
        grams: null,
        message: outcome.refusal.message,
        whose: outcome.refusal.code === 'quantity.spread',
        ...(meant === null ? {} : { asked: { typed: null, meant } }),
      };
    }
    const typed = outcome.value;
    const [unit, usual] = [this.ownUnit(), this.unit()];
    const meant =
      this.sure() === text
        ? null
        : planned !== null
          ? thousandOff({ grams: typed, planned })
          : /[a-z]/i.test(text)
            ? null
            : otherUnitMeant({ grams: typed, unit, usual });
    if (meant === null) return { grams: typed, message: null };
    const beside =
      planned === null
        ? `such a mass is usually weighed in ${usual === 'kg' ? 'kilograms' : 'grams'}`
        : `${formatGrams(planned)} is planned`;
    return {
      grams: null,
      message: `${formatGrams(typed)}, where ${beside}: was ${formatGrams(meant)} meant?`,
      asked: { typed, meant },
    };
  }
}

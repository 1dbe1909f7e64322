import { Choices } from '../../ui/choices';
import { Component, computed, effect, input, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectScale } from '../../state/scale';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { TextField } from '../../ui/text-field';
import { starterOptions } from './starter-options';
import { supplyChoices } from './supply-choices';

const OF = {
  weigh: {
    kinds: 'kind=produce',
    ask: 'Another vegetable joins',
    from: 'From lot',
    nothing: 'No other vegetable is in the house',
    hint: 'It is salted like the rest: the target of salt follows it.',
  },
  flavour: {
    kinds: 'kind=flavouring',
    ask: 'Something else goes in',
    from: 'From lot',
    nothing: 'Nothing else is in the house',
    hint: 'It is no line of the formula: the book keeps it for this batch alone.',
  },
  brine: {
    kinds: 'kind=flavouring',
    ask: 'A spice goes into the brine',
    from: 'From lot',
    nothing: 'No spice is in the house',
    hint: 'What the brine is poured on carries its lot and its allergens, also when it is strained out.',
  },
  starter: {
    kinds: 'kind=starter',
    ask: 'Another starter goes in',
    from: 'Kept brine, or culture',
    nothing: 'No kept brine or culture is in the house',
    hint: 'Its lot becomes an ancestor of this batch, and its allergens come along.',
  },
} as const;

/** What goes into a batch beside the lines of its formula: a late vegetable, a spice more, the starter of a house that always uses one. */
@Component({
  selector: 'ct-other-ingredient',
  imports: [
    Choices,
    Choice,
    QuantityInput,
    Refusal,
    ScaleBar,
    Weighing,
    TextField,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    @if (!opened()) {
      <div>
        <button type="button" class="plain" (click)="opened.set(true)">{{ of().ask }}</button>
      </div>
    } @else {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="form.typed" />
        @if (words()) {
          <p>{{ words() }}</p>
        } @else {
          <h3>{{ of().ask }}</h3>
        }
        <p class="soft">{{ of().hint }}</p>
        <ct-scale-bar [scale]="scale" />
        <ct-choice [label]="of().from" [options]="options()" [formField]="form.fields.lotId" [nothing]="of().nothing" />
        @if (station() === 'brine') {
          <ct-choices
            label="Does it stay in the brine?"
            [options]="[
              [false, 'It stays in'],
              [true, 'Boiled with it, strained out'],
            ]"
            [value]="strained()"
            (picked)="strained.set($event)"
          />
        }
        <ct-weighing what="what goes in" [scale]="scale" [grams]="scale.orLive(typed())">
          <button class="go" [ctRecord]="form" [needs]="[!lotId() && 'which lot', !toRecord() && 'how much']">
            Record {{ toRecord() ? mass(toRecord()!) : '' }}
          </button>
        </ct-weighing>
        <div class="row">
          <ct-quantity
            label="On the scale"
            what="what goes in"
            [live]="scale.live()"
            [formField]="form.fields.typed"
            [refusal]="form.problemAt('grams')"
          />
          @if (!words()) {
            <button type="button" (click)="opened.set(false)">Nothing else</button>
          }
        </div>
        @if (form.problemAt('pastReason')) {
          <ct-text label="Why it goes in all the same" [formField]="form.fields.pastReason" />
        }
        <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
      </form>
    }
  `,
})
export class OtherIngredient {
  readonly batch = input.required<MakeReply>();
  readonly station = input.required<keyof typeof OF>();
  /** Why it is asked for at once; null where it only may be added. */
  readonly words = input<string | null>(null);
  private readonly field = viewChild(QuantityInput);

  protected readonly of = computed(() => OF[this.station()]);
  protected readonly opened = signal(false);
  protected readonly scale = injectScale('what goes in');
  protected readonly form = recordingForm('ingredient.add', {
    fields: { typed: null as number | null, pastReason: '', lotId: null as string | null },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.field()?.clear();
      this.lotId.set(null);
      this.pastReason.set('');
      this.scale.taken();
      this.opened.set(false);
    },
  });
  protected readonly typed = this.form.values.typed;
  protected readonly strained = signal(false);
  protected readonly lotId = this.form.values.lotId;
  protected readonly pastReason = this.form.values.pastReason;

  private readonly supplies = supplyChoices(
    computed(() => (this.opened() ? `/api/supplies?${this.of().kinds}` : null)),
  );
  private readonly kept = starterOptions(
    this.batch,
    computed(() => this.opened() && this.station() === 'starter'),
  );
  /** Lots of what the formula has no line for. */
  protected readonly options = computed(() => {
    const { produce, lines } = this.batch().formula;
    const own = new Set([...produce, ...lines].map(({ materialId }) => materialId));
    // A spice of the formula may go into the brine too.
    if (this.station() === 'brine') return this.supplies.options();
    return [...this.kept(), ...this.supplies.options().filter(({ materialId }) => !own.has(materialId))];
  });
  protected readonly toRecord = computed(() => this.scale.orReady(this.typed()));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  constructor() {
    effect(() => {
      if (this.words()) this.opened.set(true);
    });
  }

  protected record(): void {
    const [fromLotId, grams] = [this.lotId(), this.toRecord()];
    if (!fromLotId || !grams) return;
    this.form.record(
      this.form.entry('ingredient.add', {
        batchId: this.batch().batchId,
        fromLotId,
        grams,
        ...(this.station() === 'brine' ? { brine: this.strained() ? ('strained' as const) : ('stays' as const) } : {}),
        ...this.scale.used(this.typed()),
        ...(this.pastReason().trim() ? { pastReason: this.pastReason().trim() } : {}),
      }),
    );
  }
}

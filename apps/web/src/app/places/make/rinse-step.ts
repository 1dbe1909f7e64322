import { Component, computed, input, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { formatGrams, formatPercent, tasteReference } from '@clear-tally/core';
import type { BodyOf, MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectScale } from '../../state/scale';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { SaltRuler } from '../../ui/salt-ruler';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { TextField } from '../../ui/text-field';

type Taste = NonNullable<BodyOf<'leaf.rinse'>['tasted']>;
type How = NonNullable<BodyOf<'leaf.rinse'>['measured']>['how'];
const TASTES: readonly { key: Taste; words: string }[] = [
  { key: 'tooSalty', words: 'saltier than 2.5 %' },
  { key: 'between', words: 'between the two' },
  { key: 'tooWeak', words: 'weaker than 1.5 %' },
];

/** Rinse to a salt, not to a count: each rinse with its water, the estimate with its band, the measured value in its place, the drained mass weighed. */
@Component({
  selector: 'ct-rinse-step',
  imports: [
    Choices,
    FigureInput,
    QuantityInput,
    Refusal,
    SaltRuler,
    ScaleBar,
    Weighing,
    TextField,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    @if (batch().leaf; as leaf) {
      <div class="stack">
        <div class="figures">
          <p class="soft small">
            Leaf<b class="figure">{{ mass(batch().produceGrams) }}</b>
          </p>
          <p class="soft small">
            Under salt<b class="figure">{{ leaf.minutes.toFixed(0) }} min</b>
          </p>
          <p class="soft small">
            Rinses<b class="figure">{{ leaf.rinses }}</b>
          </p>
          <p class="soft small">
            Estimate<b class="figure">{{ percent(leaf.estimate) }}</b
            >{{ percent(leaf.least, 1) }} to {{ percent(leaf.most, 1) }}
          </p>
          <p class="soft small">
            {{ leaf.measured ? 'Measured, in place of the estimate' : 'Reckoned with'
            }}<b class="figure">{{ percent(leaf.leafSalt) }}</b>
          </p>
        </div>
        <ct-salt-ruler [now]="leaf.leafSalt" [past]="[]" />
        @if (leaf.drainedGrams === null && batch().closedAt === null) {
          <form class="stack rule" (submit)="$event.preventDefault(); recordRinse()">
            <ct-typed-before [typed]="rinse.typed" />
            @if (usualWater(); as litres) {
              <p class="soft">
                The formula: {{ batch().formula.heavy!.rinses }} rinses of about {{ litres }} each, to a measured salt
                of about {{ percent(leaf.wanted, 1) }}.
              </p>
            }
            <div class="row">
              <ct-quantity
                label="Water of this rinse"
                unit="kg"
                what="rinse water"
                [gramsPerMl]="1"
                [formField]="rinse.fields.water"
                [refusal]="rinse.problemAt('waterGrams')"
              />
              <ct-figure
                label="Measured salt"
                kind="percent"
                [least]="0"
                [most]="0.26"
                [formField]="rinse.fields.salt"
              />
              <div>
                <ct-choices shown label="By" [options]="hows" [value]="how()" (picked)="how.set($event)" />
              </div>
            </div>
            <div>
              <ct-choices
                shown
                [label]="
                  'Drained juice tastes, beside ' + reference(0.015) + ' (1.5 %) and ' + reference(0.025) + ' (2.5 %)'
                "
                [options]="tastes"
                [value]="tasted()"
                loose
                (letGo)="tasted.set(null)"
                (picked)="tasted.set($event)"
              />
            </div>
            <div class="row">
              <button class="go" [ctRecord]="rinse" [needs]="[!water() && 'how much water']">
                Record the rinse{{ water() ? ' with ' + mass(water()!) : '' }}
              </button>
              <button type="button" [ctRecord]="turn" (click)="recordTurn()">Leaf turned</button>
            </div>
            <ct-refusal [message]="rinse.problemAt('waterGrams') ? null : (rinse.problem() ?? turn.problem())" />
          </form>
          <form class="stack rule" (submit)="$event.preventDefault(); recordDrain()">
            <ct-typed-before [typed]="drain.typed" />
            <h2>Drained, on the scale</h2>
            <ct-scale-bar [scale]="scale" />
            <ct-weighing what="the drained leaf" unit="kg" [scale]="scale" [grams]="scale.orLive(drained())">
              <button class="go" [ctRecord]="drain" [needs]="[!toRecord() && 'how much']">
                Record {{ toRecord() ? mass(toRecord()!) : '' }} drained
              </button>
            </ct-weighing>
            <div class="row">
              <ct-quantity
                #drainedField
                label="Drained leaf"
                unit="kg"
                what="the drained leaf"
                [planned]="batch().produceGrams"
                [live]="scale.live()"
                [formField]="drain.fields.drained"
                [refusal]="drain.problemAt('drainedGrams')"
              />
              @if (drain.problemAt('drainedGrams') || drain.problemAt('measured')) {
                <ct-text
                  style="flex: 1"
                  [label]="drain.problemAt('measured') ? 'Why it goes on without' : 'What happened to the rest?'"
                  [formField]="drain.fields.reason"
                />
              }
            </div>
            <ct-refusal [message]="drain.problemAt('drainedGrams') ? null : drain.problem()" />
          </form>
        } @else {
          <p class="note">
            Drained: <b class="figure">{{ mass(leaf.drainedGrams ?? 0) }}</b> of {{ mass(batch().produceGrams) }},
            {{ percent(1 - (leaf.drainedGrams ?? 0) / batch().produceGrams, 0) }} gone. Leaves lose 10 to 30 %.
          </p>
        }
        <p>
          For {{ percent(leaf.wanted) }} in all the paste wants <b class="figure">{{ mass(leaf.pasteSaltGrams) }}</b> of
          salt.
        </p>
        @if (leaf.log.length > 0) {
          <table class="book">
            <thead>
              <tr>
                <th>When</th>
                <th>What</th>
                <th class="right">Water</th>
                <th class="right">Drained</th>
                <th class="right">Salt</th>
                <th>Tasted</th>
              </tr>
            </thead>
            <tbody>
              @for (row of leaf.log; track row.entryId) {
                <tr>
                  <td class="figure">{{ house.dates().time(row.at) }} {{ row.by }}</td>
                  <td>{{ what[row.what] }}</td>
                  <td class="right figure">{{ row.waterGrams ? mass(row.waterGrams) : '' }}</td>
                  <td class="right figure">{{ row.drainedGrams ? mass(row.drainedGrams) : '' }}</td>
                  <td class="right figure">
                    {{ row.waterPhaseSalt ? percent(row.waterPhaseSalt) + ' ' + row.how : '' }}
                  </td>
                  <td>{{ row.tasted ? tasteWords(row.tasted) : '' }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    }
  `,
  styles:
    '.figures { display: flex; flex-wrap: wrap; gap: 12px 40px; } .figures b { display: block; font-size: 24px; color: var(--ink); }',
})
export class RinseStep {
  readonly batch = input.required<MakeReply>();
  protected readonly house = injectHouse();
  protected readonly scale = injectScale('the drained leaf');
  private readonly drainedField = viewChild<QuantityInput>('drainedField');
  protected readonly tastes = TASTES;
  protected readonly hows: readonly How[] = ['meter', 'refractometer'];
  protected readonly what = { turn: 'turned', rinse: 'rinsed', drain: 'drained' } as const;
  protected readonly rinse = recordingForm('leaf.rinse', {
    fields: { water: null as number | null, salt: null as number | null },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.salt.set(null);
      this.tasted.set(null);
    },
  });
  protected readonly water = this.rinse.values.water;
  protected readonly salt = this.rinse.values.salt;
  protected readonly how = signal<How>('meter');
  protected readonly tasted = signal<Taste | null>(null);
  protected readonly drain = recordingForm('leaf.drain', {
    fields: { drained: null as number | null, reason: '' },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.drainedField()?.clear();
      this.scale.taken();
    },
  });
  protected readonly drained = this.drain.values.drained;
  protected readonly reason = this.drain.values.reason;
  protected readonly toRecord = computed(() => this.scale.orReady(this.drained()));
  protected readonly turn = recordingForm('leaf.turn');
  protected readonly usualWater = computed(() => {
    const heavy = this.batch().formula.heavy;
    return heavy ? formatGrams(heavy.litresPerKg * this.batch().produceGrams) : null;
  });
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly percent = formatPercent;

  protected reference(fraction: number): string {
    const { saltGrams, waterGrams } = tasteReference(fraction);
    return `${saltGrams.toFixed(1)} g salt in ${waterGrams} g water`;
  }

  protected tasteWords(taste: Taste): string {
    return TASTES.find((one) => one.key === taste)!.words;
  }

  protected recordTurn(): void {
    this.turn.record(this.turn.entry('leaf.turn', { batchId: this.batch().batchId }));
  }

  protected recordRinse(): void {
    if (this.water())
      this.rinse.record(
        this.rinse.entry('leaf.rinse', {
          batchId: this.batch().batchId,
          waterGrams: this.water()!,
          tasted: this.tasted(),
          measured: this.measured(),
        }),
      );
  }

  protected recordDrain(): void {
    const drainedGrams = this.toRecord();
    if (drainedGrams)
      this.drain.record(
        this.drain.entry('leaf.drain', {
          batchId: this.batch().batchId,
          drainedGrams,
          tasted: this.tasted(),
          measured: this.measured(),
          reason: this.reason().trim() || null,
          ...this.scale.which.used(),
        }),
      );
  }

  private measured(): BodyOf<'leaf.rinse'>['measured'] {
    return this.salt() === null ? null : { waterPhaseSalt: this.salt()!, how: this.how() };
  }
}

import { Choices } from '../../ui/choices';
import { Component, computed, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { formatGrams, formatPercent } from '@clear-tally/core';
import type { FinishReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { untilChosen } from '../../state/until-chosen';
import { Choice, type Option } from '../../ui/choice';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TypedBeforeNote } from '../../ui/typed-before';
import { supplyChoices } from '../make/supply-choices';

/** The brine a repack is poured over with: its own as it is, its own boiled, or fresh of a strength. */
@Component({
  selector: 'ct-brine-step',
  imports: [Choices, Choice, FigureInput, FormField, QuantityInput, RecordButton, Refusal, Select, TypedBeforeNote],
  template: `
    <ct-choices label="Which brine" [options]="ways" [value]="way()" (picked)="form.values.way.set($event)" />
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      @switch (way()) {
        @case ('own') {
          <p>
            As it is, strained: nothing is thinned and it stays alive. Go on, and pour it from
            {{ finish().sources.length === 1 ? finish().sources[0]!.code : 'its vessels' }}.
          </p>
        }
        @case ('boiled') {
          <p class="soft">
            Boiling away raises the salt, and nothing in it is alive afterwards: what is poured over does not ferment
            on.
          </p>
          <div class="row">
            <ct-select
              label="Off which vessel"
              [options]="vessels()"
              [value]="fromLotId()"
              (valueChange)="form.values.fromLotId.set($event)"
            />
            <ct-quantity
              label="Into the pot"
              unit="kg"
              what="brine"
              [planned]="onHand()"
              [gramsPerMl]="1.02"
              [formField]="form.fields.grams"
            />
            <ct-quantity
              label="Left, cooled, weighed"
              unit="kg"
              what="brine"
              [planned]="form.values.grams()"
              [gramsPerMl]="1.02"
              [formField]="form.fields.leftGrams"
              [refusal]="form.problemAt('leftGrams')"
            />
          </div>
          @if (boiledSays(); as words) {
            <p>{{ words }}</p>
          }
          <button
            class="go"
            [ctRecord]="form"
            [needs]="[
              !fromLotId() && 'off which vessel',
              !form.values.grams() && 'what went into the pot',
              !form.values.leftGrams() && 'what is left',
            ]"
          >
            Record {{ form.values.leftGrams() ? mass(form.values.leftGrams()!) : '' }} boiled brine
          </button>
        }
        @case ('fresh') {
          <div class="row">
            <ct-quantity
              label="Brine wanted"
              unit="kg"
              what="brine"
              [gramsPerMl]="1.02"
              [formField]="form.fields.wanted"
            />
            <ct-figure label="Salt, of the brine" kind="percent" [(value)]="strength" />
            @if (recipe(); as r) {
              <p class="figure big">{{ mass(r.salt) }} salt in {{ mass(r.water) }} water</p>
            }
          </div>
          <div class="row">
            <ct-choice
              label="Water from"
              [options]="waters.options()"
              [value]="waterLotId()"
              (valueChange)="form.values.waterLotId.set($event)"
            />
            <ct-quantity
              label="Water, weighed"
              unit="kg"
              what="water"
              [planned]="recipe()?.water ?? null"
              [gramsPerMl]="1"
              [formField]="form.fields.waterGrams"
              [refusal]="form.problemAt('waterGrams')"
            />
          </div>
          <div class="row">
            <ct-choice
              label="Salt from"
              [options]="salts.options()"
              [value]="saltLotId()"
              (valueChange)="form.values.saltLotId.set($event)"
            />
            <ct-quantity
              label="Salt, weighed"
              what="salt"
              [zero]="true"
              [formField]="form.fields.saltGrams"
              [refusal]="form.problemAt('saltGrams')"
            />
          </div>
          <button
            class="go"
            [ctRecord]="form"
            [needs]="[
              !waterLotId() && 'which water',
              !form.values.waterGrams() && 'the water, weighed',
              form.values.saltGrams() === null && 'the salt, weighed; 0 for none',
              !!form.values.saltGrams() && !saltLotId() && 'which salt',
            ]"
          >
            Record
            {{ form.values.waterGrams() ? mass(form.values.waterGrams()! + (form.values.saltGrams() ?? 0)) : '' }} fresh
            brine
          </button>
        }
      }
      <ct-refusal [message]="form.problemAt('leftGrams', 'waterGrams', 'saltGrams') ? null : form.problem()" />
    </form>
    @for (one of finish().brines; track one.lotId) {
      <p class="note">
        Ready: <b class="figure">{{ one.code }}</b> {{ one.boiled ? 'own brine, boiled' : 'fresh brine' }},
        <b class="figure">{{ mass(one.onHandGrams) }}</b>{{
          one.boiledOffGrams ? ', ' + mass(one.boiledOffGrams) + ' boiled away' : ''
        }}.
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
    }
    .row {
      align-items: start;
    }
    .big {
      font-size: 22px;
      font-weight: 700;
      padding-top: 34px;
    }
    ct-choice {
      flex: 1;
      min-width: 240px;
    }
    ct-select {
      min-width: 200px;
    }
  `,
})
export class BrineStep {
  readonly finish = input.required<FinishReply>();
  protected readonly ways = [
    ['own', 'Its own, as it is'],
    ['boiled', 'Its own, boiled'],
    ['fresh', 'Fresh'],
  ] as const;
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly waters = supplyChoices(signal('/api/supplies?kind=water'));
  protected readonly salts = supplyChoices(signal('/api/supplies?kind=salt'));
  protected readonly form = recordingForm('finish.brine', {
    fields: {
      way: 'own' as 'own' | 'boiled' | 'fresh',
      fromLotId: '',
      grams: null as number | null,
      leftGrams: null as number | null,
      wanted: null as number | null,
      waterLotId: null as string | null,
      waterGrams: null as number | null,
      saltLotId: null as string | null,
      saltGrams: null as number | null,
    },
    about: computed(() => this.finish().lotId),
    recorded: () => {
      for (const field of ['grams', 'leftGrams', 'wanted', 'waterGrams', 'saltGrams'] as const)
        this.form.values[field].set(null);
    },
  });
  protected readonly way = this.form.values.way;
  /** As strong as the product: then nothing is thinned but the acid. */
  protected readonly strength = untilChosen<number | null>(
    () => {
      const salt = this.finish().salt.waterPhase;
      return salt === null ? null : Math.round(salt * 1e4) / 1e4;
    },
    () => this.finish().lotId,
  );
  protected readonly vessels = computed(() =>
    this.finish()
      .sources.filter(({ closed }) => !closed)
      .map(({ lotId, code, onHandGrams }) => [lotId, `${code}, ${formatGrams(onHandGrams)}`] as const),
  );
  protected readonly fromLotId = computed(
    () => this.form.values.fromLotId() || (this.vessels().length === 1 ? this.vessels()[0]![0] : ''),
  );
  protected readonly onHand = computed(
    () => this.finish().sources.find(({ lotId }) => lotId === this.fromLotId())?.onHandGrams ?? null,
  );
  /** A house with one tap, or one salt open, need not choose it. */
  protected readonly waterLotId = computed(() => this.form.values.waterLotId() ?? only(this.waters.options()));
  protected readonly saltLotId = computed(() => this.form.values.saltLotId() ?? only(this.salts.options()));
  protected readonly recipe = computed(() => {
    const [wanted, strength] = [this.form.values.wanted(), this.strength()];
    return wanted && strength !== null && strength >= 0 && strength < 0.26
      ? { salt: wanted * strength, water: wanted * (1 - strength) }
      : null;
  });
  protected readonly boiledSays = computed(() => {
    const [grams, left] = [this.form.values.grams(), this.form.values.leftGrams()];
    const of = this.finish().sources.find(({ lotId }) => lotId === this.fromLotId())?.contents;
    if (!grams || !left || !of || left > grams) return null;
    const salt = of.saltGrams / (of.saltGrams + of.waterGrams);
    return of.known
      ? `${formatGrams(grams - left)} boils away: its salt goes from ${formatPercent(salt)} to ${formatPercent((salt * grams) / left)}.`
      : `${formatGrams(grams - left)} boils away.`;
  });

  protected record(): void {
    const v = this.form.values;
    const finishLotId = this.finish().lotId;
    if (this.way() === 'boiled' && v.grams() && v.leftGrams())
      this.form.record(
        this.form.entry('finish.brine', {
          how: 'boiled',
          finishLotId,
          brineLotId: newId(),
          fromLotId: this.fromLotId(),
          grams: v.grams()!,
          leftGrams: v.leftGrams()!,
        }),
      );
    if (this.way() === 'fresh' && this.waterLotId() && v.waterGrams())
      this.form.record(
        this.form.entry('finish.brine', {
          how: 'fresh',
          finishLotId,
          brineLotId: newId(),
          waterLotId: this.waterLotId()!,
          waterGrams: v.waterGrams()!,
          saltLotId: v.saltGrams() ? this.saltLotId() : null,
          saltGrams: v.saltGrams() ?? 0,
        }),
      );
  }
}

const only = (options: readonly Option[]): string | null => (options.length === 1 ? options[0]!.id : null);

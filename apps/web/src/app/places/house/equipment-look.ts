import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import type { BodyOf, EquipmentReply } from '@clear-tally/contract';
import { decideScaleCheck, formatGrams, formatWeighed, leastWeight } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { Choices } from '../../ui/choices';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';

/** A scale against a weight, loose parts counted, water by its test, a tool by eye; and how it was found before. */
@Component({
  selector: 'ct-equipment-look',
  imports: [
    Choices,
    CountInput,
    FormField,
    Mark,
    QuantityInput,
    RecordButton,
    Refusal,
    RouterLink,
    TextField,
    TypedBeforeNote,
  ],
  template: `
    <h2>
      <span class="figure">{{ piece().tag }}</span> {{ piece().name }}
    </h2>
    @if (rights.mayRecord()) {
      <form class="stack" (submit)="$event.preventDefault(); record()">
        <ct-typed-before [typed]="form.typed" />
        @switch (piece().kind) {
          @case ('scale') {
            <p class="soft small">A weight that is known, in the middle of the pan. {{ scaleTakes() }}</p>
            <ct-quantity label="The weight" [formField]="form.fields.weight" />
            <ct-quantity label="The scale shows" [formField]="form.fields.shown" />
            @if (found(); as f) {
              @if (f.ok) {
                <ct-mark [kind]="f.value.passed ? 'met' : 'late'">{{ foundWords() }}</ct-mark>
              } @else {
                <p class="watch">{{ f.refusal.message }}</p>
              }
            }
          }
          @case ('parts') {
            <ct-count label="Counted" [formField]="form.fields.counted" />
            @if (lacks() > 0) {
              <p class="watch">
                {{ lacks() === 1 ? 'One is' : lacks() + ' are' }} missing of {{ piece().count }}. What is in no drawer
                may be in a jar.
              </p>
              <ct-text
                [label]="lacks() === 1 ? 'Where may it be' : 'Where may they be'"
                [formField]="form.fields.words"
              />
            }
          }
          @default {
            <ct-text
              [label]="piece().kind === 'water' ? 'What the test says' : 'What was seen'"
              [placeholder]="piece().kind === 'water' ? 'chlorine 0, nothing grown, report 2214' : 'whole, no rust'"
              [formField]="form.fields.words"
            />
            <ct-choices
              label="Is it in order"
              [options]="[
                ['yes', 'In order'],
                ['no', 'Not in order'],
              ]"
              [value]="form.values.passed()"
              (picked)="form.values.passed.set($event)"
            />
          }
        }
        <ct-refusal [message]="form.problem()" />
        <div>
          <button class="go" [ctRecord]="form" [needs]="needs()">Record it</button>
        </div>
      </form>
    }
    @if (piece().weighed.times > 0) {
      <h2>Weighed on it</h2>
      <p [class.watch]="piece().due === 'failed'" [class.soft]="piece().due !== 'failed'">
        {{ weighedWords() }}
      </p>
      <ol>
        @for (one of piece().weighed.lots; track $index) {
          <li class="weighing">
            <a [routerLink]="['/lots', one.code]" class="figure">{{ one.code }}</a>
            <span class="figure">{{ mass(one.grams) }}</span>
            <span class="small soft">{{ house.dates().moment(one.at) }}</span>
          </li>
        }
      </ol>
    }
    @if (piece().cleaned; as c) {
      <p class="small">Cleaned {{ house.dates().moment(c.at) }} by {{ c.by }}: {{ c.with }}</p>
    }
    @if (piece().history.length > 0) {
      <h2>How it was found</h2>
      <ol>
        @for (look of piece().history; track look.at) {
          <li>
            <span class="figure small">{{ house.dates().moment(look.at) }} {{ look.by }}</span>
            <ct-mark [kind]="look.passed === false ? 'late' : 'met'">{{ look.words }}</ct-mark>
          </li>
        }
      </ol>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
    }
    li {
      display: grid;
      gap: 2px;
      padding: 8px 0;
      border-bottom: 1px solid var(--hair);
    }
    li.weighing {
      grid-template-columns: minmax(0, 1fr) auto auto;
      gap: 14px;
    }
  `,
})
export class EquipmentLook {
  readonly piece = input.required<EquipmentReply['equipment'][number]>();
  readonly done = output();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly form = recordingForm('equipment.check', {
    fields: {
      weight: null as number | null,
      shown: null as number | null,
      counted: null as number | null,
      words: '',
      passed: null as 'yes' | 'no' | null,
    },
    about: computed(() => this.piece().id),
    recorded: () => {
      const v = this.form.values;
      [v.weight, v.shown, v.counted, v.passed].forEach((field) => field.set(null));
      v.words.set('');
      this.done.emit();
    },
  });
  protected readonly found = computed(() => {
    const { weight, shown } = this.form.values;
    const { tag, stepGrams, capacityGrams } = this.piece();
    if (weight() === null || shown() === null || stepGrams === null || capacityGrams === null) return null;
    return decideScaleCheck({ tag, stepGrams, capacityGrams, weightGrams: weight()!, shownGrams: shown()! });
  });
  protected readonly foundWords = computed(() => {
    const found = this.found();
    if (!found?.ok) return '';
    const { offGrams, mayDifferGrams, passed } = found.value;
    return `${formatGrams(Math.abs(offGrams))} off, up to ${formatGrams(mayDifferGrams)} accepted${passed ? '' : ': weigh on another one, and have it adjusted'}`;
  });
  protected readonly lacks = computed(() => {
    const counted = this.form.values.counted();
    return counted === null ? 0 : Math.max(0, (this.piece().count ?? 0) - counted);
  });
  protected readonly needs = computed(() => {
    const v = this.form.values;
    switch (this.piece().kind) {
      case 'scale':
        return [v.weight() === null && 'the weight', v.shown() === null && 'what the scale shows'];
      case 'parts':
        return [v.counted() === null && 'how many', this.lacks() > 0 && !v.words().trim() && 'where the rest may be'];
      default:
        return [!v.words().trim() && 'what was found', v.passed() === null && 'whether it is in order'];
    }
  });

  protected readonly mass = formatWeighed;

  /** What is in doubt when it is found wrong. */
  protected weighedWords(): string {
    const { due, weighed, history } = this.piece();
    const passed = history.find((look) => look.passed);
    const since = passed ? `since it was found in order on ${this.house.dates().day(passed.at)}` : 'so far';
    const times = weighed.times === 1 ? 'Once' : `${weighed.times} times`;
    const shown = weighed.times > weighed.lots.length ? `; the last ${weighed.lots.length} of them` : '';
    return due === 'failed'
      ? `${times} ${since}: these masses are in doubt. Look at each${shown}.`
      : `${times} ${since}${shown}.`;
  }

  protected scaleTakes(): string {
    const { stepGrams, capacityGrams } = this.piece();
    if (stepGrams === null || capacityGrams === null) return '';
    return `${formatGrams(leastWeight({ stepGrams, capacityGrams }))} to ${formatGrams(capacityGrams)}.`;
  }

  private by(): BodyOf<'equipment.check'>['by'] {
    const v = this.form.values;
    const words = v.words().trim();
    switch (this.piece().kind) {
      case 'scale':
        return { how: 'weight', weightGrams: v.weight()!, shownGrams: v.shown()! };
      case 'parts':
        return { how: 'count', counted: v.counted()!, missing: words || null };
      default:
        return { how: 'test', words, passed: v.passed() === 'yes' };
    }
  }

  protected record(): void {
    if (this.needs().some(Boolean)) return;
    this.form.record(this.form.entry('equipment.check', { equipmentId: this.piece().id, by: this.by() }));
  }
}

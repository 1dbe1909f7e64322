import { Component, computed, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import {
  HOUSE_RULES,
  type HouseRule,
  MASS_UNIT_WORDS,
  MASS_UNITS,
  type MassUnit,
  ruleInForce,
  ruleOption,
} from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { FigureInput } from '../../ui/figure-input';
import type { RuleHistoryReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import { OwnersOnly } from '../../ui/owners-only';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Limits } from './limits';
import { SaltBands } from './salt-bands';
import { OfficeNav } from './office-nav';
import { RadioLine } from '../../ui/radio-line';

/** Every question on which schools differ: the house's answer, and what a riskier one asks in exchange. */
@Component({
  selector: 'ct-house-rules',
  imports: [
    OwnersOnly,
    FigureInput,
    Limits,
    OfficeNav,
    Refusal,
    SaltBands,
    Select,
    TextField,
    RadioLine,
    FormField,
    RecordButton,
  ],
  template: `
    <div class="page with-outline">
      <nav class="outline" aria-label="Questions">
        <ol>
          @for (row of rows(); track row.rule.key) {
            <li>
              <button
                type="button"
                [attr.aria-current]="row.rule.key === open() ? 'true' : null"
                (click)="choose(row.rule.key)"
              >
                <span>{{ row.rule.question }}</span><span class="small answer">{{ row.option.words }}</span>
              </button>
            </li>
          }
        </ol>
      </nav>
      <div class="main stack">
        <ct-office-nav />
        <h1>House rules</h1>
        <ct-owners-only says="An owner answers for the house; everybody reads what is in force." />
        @if (now(); as row) {
          <h2 class="question">{{ row.rule.question }}</h2>
          <div class="stack" role="radiogroup" [attr.aria-label]="row.rule.question">
            @for (option of row.rule.options; track option.key) {
              <ct-radio-line
                class="option"
                [class.on]="picked() === option.key"
                [name]="row.rule.key"
                [checked]="picked() === option.key"
                (picked)="pick(option.key)"
                ><span class="answer-words"
                  ><b>{{ option.words }}</b>
                  @if (option.asks) {
                    <br /><span class="mustard">In exchange: {{ option.asks }}</span>
                  }
                </span>
                @if (row.option.key === option.key) {
                  <span class="soft small">{{
                    row.from === 'house' ? 'chosen here' : 'the careful way, until somebody chooses'
                  }}</span>
                }
              </ct-radio-line>
            }
          </div>
          @if (row.rule.figure; as range) {
            <ct-figure
              label="Or its own limit"
              [least]="range.least"
              [most]="range.most"
              [value]="ownFigure()"
              (valueChange)="pickFigure($event)"
            />
          }
          @if (asks()) {
            <ct-text label="How this house does that" [formField]="save.fields.reason" />
          }
          <p class="soft small">
            {{
              row.rule.byFormula ? 'A formula may differ; its page says so. ' : 'No formula may differ from this. '
            }}The choice in force is kept with every batch when it starts. Local food law decides over all of it.
          </p>
          @if (row.rule.key === 'acidLimit') {
            <ct-limits /><ct-salt-bands />
          }
          @if (history.data()?.answers?.length) {
            <details>
              <summary>Answered before: {{ history.data()!.answers.length }}</summary>
              @for (one of history.data()!.answers; track one.at) {
                <p class="small">
                  <span class="figure">{{ dates().moment(one.at) }}</span> {{ one.by }}: <b>{{ one.words }}</b>{{
                    one.reason ? ' · ' + one.reason : ''
                  }}
                </p>
              }
            </details>
          }
          <ct-refusal [message]="save.problem()" />
          @if (rights.isOwner()) {
            <div>
              <button
                type="button"
                class="go"
                [ctRecord]="save"
                [needs]="[picked() === row.option.key && 'another answer', asks() && !reason().trim() && 'the reason']"
                (click)="keep(row.rule)"
              >
                Make this the house rule
              </button>
            </div>
          } @else {
            <p class="soft small">The owner answers these.</p>
          }
        }
        <section class="rule stack">
          <h2>Figures of the house</h2>
          <div class="row">
            <ct-figure
              label="Work costs per hour"
              [unit]="settings()?.currency ?? ''"
              [least]="0"
              [most]="1000"
              [value]="labour() ?? settings()?.labourPerHour ?? null"
              (valueChange)="labour.set($event)"
            /><ct-figure
              label="Bench scale, steps"
              kind="grams"
              [least]="0.001"
              [most]="1000"
              [value]="step() ?? settings()?.scaleStepGrams ?? null"
              (valueChange)="step.set($event)"
            />
            <ct-figure
              label="Kept brine, days"
              [least]="1"
              [most]="365"
              [value]="days() ?? settings()?.keptBrineDays ?? null"
              (valueChange)="days.set($event)"
            /><ct-figure
              label="its generations"
              [least]="1"
              [most]="50"
              [value]="generations() ?? settings()?.keptBrineGenerations ?? null"
              (valueChange)="generations.set($event)"
            />
            <ct-select
              label="Masses at the bench are typed in"
              [options]="units"
              [value]="unit() ?? settings()?.massUnit ?? 'both'"
              (valueChange)="unit.set($event)"
            />
            @if (rights.isOwner()) {
              <button
                type="button"
                [ctRecord]="set"
                [needs]="[
                  unit() === null &&
                    labour() === null &&
                    step() === null &&
                    days() === null &&
                    generations() === null &&
                    'a figure',
                ]"
                (click)="keepSettings()"
              >
                Keep these
              </button>
            }
          </div>
          <ct-refusal [message]="set.problem()" />
        </section>
      </div>
    </div>
  `,
  styles: `
    li button {
      width: 100%;
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      justify-content: stretch;
      gap: 2px;
      text-align: left;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      padding: 8px 10px;
      font-weight: 600;
    }
    .answer {
      font-weight: 400;
      color: var(--soft);
    }
    li button[aria-current] {
      background: var(--ink);
      color: #fff;
    }
    [aria-current] .answer {
      color: #dfe6e4;
    }
    .question {
      color: var(--ink);
      font-size: 22px;
    }
    .option {
      display: block;
      padding: 4px 12px;
      border: 1px solid var(--hair);
      background: var(--sheet);
      color: var(--ink);
      font-size: 17px;
      font-weight: 400;
      margin: 0;
      cursor: pointer;
    }
    .answer-words {
      flex: 1;
      padding: 6px 0;
    }
    .option.on {
      border: 2px solid var(--ink);
      padding: 3px 11px;
    }
  `,
})
export class HouseRules {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly open = signal(HOUSE_RULES[0]!.key);
  protected readonly choice = signal<string | null>(null);
  protected readonly save = recordingForm('house.rule', {
    fields: { reason: '' },
    about: computed(() => this.open()),
    recorded: () => this.choose(this.open()),
  });
  protected readonly reason = this.save.values.reason;
  protected readonly set = recordingForm('house.set', {
    fields: {
      labour: null as number | null,
      step: null as number | null,
      days: null as number | null,
      generations: null as number | null,
      unit: null as MassUnit | null,
    },
    recorded: () => {
      this.labour.set(null);
      this.step.set(null);
      this.days.set(null);
      this.generations.set(null);
      this.unit.set(null);
    },
  });
  protected readonly labour = this.set.values.labour;
  protected readonly step = this.set.values.step;
  protected readonly days = this.set.values.days;
  protected readonly generations = this.set.values.generations;
  protected readonly unit = this.set.values.unit;
  protected readonly units = MASS_UNITS.map((unit) => [unit, MASS_UNIT_WORDS[unit]] as const);
  protected readonly history = shown<RuleHistoryReply>(computed(() => `/api/house-rules/${this.open()}/history`));
  protected readonly dates = this.house.dates;
  protected readonly settings = computed(() => this.house.house()?.settings);
  protected readonly rows = computed(() =>
    HOUSE_RULES.map((rule) => ({ rule, ...ruleInForce(rule, this.house.house()?.rules ?? {}) })),
  );
  protected readonly now = computed(() => this.rows().find((row) => row.rule.key === this.open()));
  protected readonly picked = computed(() => this.choice() ?? this.now()?.option.key);
  protected readonly asks = computed(
    () =>
      this.picked() !== this.now()?.option.key &&
      (this.now() ? (ruleOption(this.now()!.rule, this.picked())?.asks ?? null) : null) !== null,
  );
  /** The figure in force or picked, where it is none of the options. */
  protected readonly ownFigure = computed(() => {
    const [now, picked] = [this.now(), this.picked()];
    return now?.rule.figure && picked !== undefined && !now.rule.options.some(({ key }) => key === picked)
      ? Number(picked)
      : null;
  });

  protected choose(key: string): void {
    this.open.set(key);
    this.choice.set(null);
    this.reason.set('');
    this.save.edited();
  }

  protected pick(option: string): void {
    this.choice.set(option);
    this.save.edited();
  }

  protected pickFigure(value: number | null): void {
    if (value !== null) this.pick(String(Math.round(value * 100) / 100));
  }

  protected keep(rule: HouseRule): void {
    this.save.record(
      this.save.entry('house.rule', { rule: rule.key, option: this.picked()!, reason: this.reason().trim() || null }),
    );
  }

  protected keepSettings(): void {
    this.set.record(
      this.set.entry('house.set', {
        ...(this.labour() === null ? {} : { labourPerHour: this.labour()! }),
        ...(this.step() === null ? {} : { scaleStepGrams: this.step()! }),
        ...(this.days() === null ? {} : { keptBrineDays: Math.round(this.days()!) }),
        ...(this.unit() === null ? {} : { massUnit: this.unit()! }),
        ...(this.generations() === null ? {} : { keptBrineGenerations: Math.round(this.generations()!) }),
      }),
    );
  }
}

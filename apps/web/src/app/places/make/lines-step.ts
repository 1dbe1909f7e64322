import { Choices } from '../../ui/choices';
import { Component, computed, input, output, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { effectsOf, formatGrams, formatPercent, saltAtScale, saltToReach, usualWords } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { keptChoice } from '../../state/kept-choice';
import { injectScale } from '../../state/scale';
import { Beam } from '../../ui/beam';
import { Choice, type Option } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { standingWords, Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { TextField } from '../../ui/text-field';
import { OtherIngredient } from './other-ingredient';
import { starterOptions } from './starter-options';
import { supplyChoices } from './supply-choices';
import { WeighedList } from './weighed-list';

/** A spice is weighed within this of its target, by the house's eye. */
const LINE_TOLERANCE = 0.05;
const STATE_WORDS = { open: 'to weigh', weighed: 'in', ticked: 'in, not weighed', leftOut: 'left out' } as const;

/** The lines of the formula one by one: weighed, ticked, or left out with a reason. Starters come with their lot's history. */
@Component({
  selector: 'ct-lines-step',
  imports: [
    Choices,
    Beam,
    Choice,
    CountInput,
    Mark,
    OtherIngredient,
    QuantityInput,
    Refusal,
    ScaleBar,
    Weighing,
    TextField,
    WeighedList,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  template: `
    <div class="stack">
      <ul class="lines">
        @for (row of lines(); track row.key) {
          <li>
            <button
              type="button"
              [class.on]="row.key === line()?.key"
              [attr.aria-pressed]="row.key === line()?.key"
              (click)="lineKey.set(row.key)"
            >
              <ct-mark [kind]="row.state === 'open' ? 'due' : row.state === 'leftOut' ? 'watch' : 'met'">{{
                row.name
              }}</ct-mark>
              <span class="figure"
                >{{ row.inGrams > 0 ? mass(row.inGrams) + ' of ' : ''
                }}{{ row.plannedGrams === null ? 'to taste' : mass(row.plannedGrams) }}</span
              ><span class="soft small">{{ words[row.state] }}{{ row.reason ? ': ' + row.reason : '' }}</span>
            </button>
          </li>
        }
      </ul>
      @if (line(); as now) {
        @if (batch().closedAt === null) {
          <ct-scale-bar [scale]="scale" [dose]="now.plannedGrams" />
          @if (at(); as beam) {
            <ct-beam [at]="beam" [already]="now.inGrams" />
          }
          <form class="stack" (submit)="$event.preventDefault(); record()">
            <ct-typed-before [typed]="form.typed" />
            <ct-choice
              label="From lot"
              [options]="options()"
              [(value)]="lotId"
              [nothing]="'Nothing of ' + now.name + ' is in the house'"
              (edited)="form.edited()"
            />
            <ct-weighing
              [what]="now.name"
              [scale]="scale"
              [grams]="scale.orLive(typed())"
              [standing]="at()?.verdict ?? 'none'"
              [words]="means()"
            >
              <button
                [class.go]="at()?.verdict !== 'over'"
                [class.stern]="at()?.verdict === 'over'"
                [ctRecord]="form"
                [needs]="[
                  !lotId() && 'which lot',
                  !toRecord() && 'how much',
                  beside() === 'over' && !form.values.unusualReason().trim() && 'why more than usual',
                ]"
              >
                Record {{ toRecord() ? mass(toRecord()!) : '' }} {{ now.name
                }}{{ toRecord() && at()?.verdict === 'over' ? ', ' + mass(-at()!.toTargetGrams) + ' over' : '' }}
              </button>
            </ct-weighing>
            <div class="row">
              <ct-quantity
                label="On the scale"
                [what]="now.name"
                [planned]="now.plannedGrams"
                [live]="scale.live()"
                [formField]="form.fields.typed"
                [refusal]="form.problemAt('grams')"
              />
              @if (pieceName(); as name) {
                <ct-count
                  [label]="'Counted, ' + name"
                  [value]="form.values.pieces()"
                  (valueChange)="form.values.pieces.set($event); form.edited()"
                />
              }
              @if (now.state === 'open') {
                @if (now.mayTick && into() === 'bowls') {
                  <button
                    type="button"
                    [ctRecord]="settle"
                    [needs]="[ticking() && !lotId() && !reason().trim() && 'which lot, or why it is not known']"
                    (click)="tick()"
                  >
                    {{ ticking() ? 'In, about ' + mass(tickGrams() ?? 0) + ', not weighed' : 'In, not weighed' }}
                  </button>
                }
                <button type="button" (click)="leaving.set(!leaving())">Left out</button>
              }
            </div>
            @if (batch().brine && station() === 'flavour') {
              <div>
                <ct-choices
                  shown
                  label="It goes into"
                  [options]="INTO"
                  [value]="into()"
                  (picked)="into.set($event); form.edited()"
                />
              </div>
            }
            @if (usual(); as range) {
              <p class="small" [class.soft]="beside() === null" [class.watch]="beside() !== null" role="status">
                Usually {{ range }} for this batch.
                @if (beside() === 'under') {
                  With what is in it stays under that: is there another portion, or is it meant?
                } @else if (beside() === 'over') {
                  That is over it: look at the scale and at the unit.
                }
              </p>
            }
            @if (beside() === 'over') {
              <ct-text label="Why more goes in" [formField]="form.fields.unusualReason" />
            }
            @if (form.problemAt('pastReason')) {
              <ct-text label="Why it goes in all the same" [formField]="form.fields.pastReason" />
            }
            <ct-refusal [message]="form.problemAt('grams') ? null : form.problem()" />
          </form>
          @if (ticking() && now.state === 'open') {
            <div class="watch stack">
              <p>
                {{
                  tickGrams() === null
                    ? 'It goes in to taste: type above about how many grams were it.'
                    : 'It is kept as ' +
                      mass(tickGrams()!) +
                      ', marked as not weighed' +
                      (lotId() ? ', of the lot chosen above.' : '.')
                }}
              </p>
              @if (!lotId() || settle.problemAt('pastReason')) {
                <ct-text
                  [label]="lotId() ? 'Why it goes in all the same' : 'No lot is chosen: why does nobody know it?'"
                  [formField]="settle.fields.reason"
                />
              }
            </div>
          }
          @if (leaving()) {
            <form class="row" (submit)="$event.preventDefault(); leaveOut()">
              <ct-text
                style="flex: 1"
                [label]="'Why is ' + now.name + ' left out?'"
                [formField]="settle.fields.reason"
              /><button class="stern" [ctRecord]="settle" [needs]="[!reason().trim() && 'the reason']">
                Leave it out
              </button>
            </form>
          }
          <ct-refusal [message]="settle.problem()" />
        }
      }
      @if (thinned(); as thin) {
        <div class="watch row">
          <p style="flex: 1">{{ thin.words }}</p>
          @if (batch().closedAt === null) {
            <button type="button" (click)="dose.emit(thin.grams)">Weigh {{ thin.grams }} g of salt</button>
          }
        </div>
      }
      @if (batch().closedAt === null) {
        <ct-other-ingredient [batch]="batch()" [station]="station()" [words]="houseAsks()" />
      }
      <ct-weighed-list [rows]="batch().ingredients" [batchId]="batch().closedAt ? null : batch().batchId" />
    </div>
  `,
  styles: `
    .lines button {
      width: 100%;
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto 190px;
      gap: 14px;
      justify-items: start;
      text-align: left;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      font-weight: 600;
      min-height: 52px;
      padding: 4px 10px;
    }
    .lines button.on {
      background: var(--brine-wash);
    }
  `,
})
export class LinesStep {
  readonly batch = input.required<MakeReply>();
  readonly station = input.required<'flavour' | 'starter'>();
  private readonly house = injectHouse();
  private readonly field = viewChild(QuantityInput);
  protected readonly words = STATE_WORDS;
  protected readonly scale = injectScale('this ingredient');
  protected readonly form = recordingForm('ingredient.add', {
    fields: { typed: null as number | null, pieces: null as number | null, pastReason: '', unusualReason: '' },
    about: computed(() => `${this.batch().batchId} ${this.line()?.key}`),
    recorded: () => {
      this.field()?.clear();
      this.pastReason.set('');
      this.form.values.unusualReason.set('');
      this.form.values.pieces.set(null);
      this.scale.taken();
      this.lineKey.set(null);
    },
  });
  /** What the line's material comes in, where it says so. */
  protected readonly pieceName = computed(() => {
    const details = this.house.house()?.materials.find(({ id }) => id === this.line()?.materialId)?.details;
    return details?.pieceGrams || details?.pieceName ? details.pieceName || 'pieces' : null;
  });
  protected readonly typed = this.form.values.typed;
  protected readonly pastReason = this.form.values.pastReason;
  protected readonly settle = recordingForm('line.settle', {
    fields: { reason: '' },
    about: computed(() => `${this.batch().batchId} ${this.line()?.key}`),
    recorded: () => {
      this.reason.set('');
      this.leaving.set(false);
      this.ticking.set(false);
      this.field()?.clear();
      this.lineKey.set(null);
    },
  });
  protected readonly reason = this.settle.values.reason;
  protected readonly leaving = signal(false);
  protected readonly INTO = [
    ['bowls', 'the bowls'],
    ['stays', 'the brine'],
    ['strained', 'the brine, strained out'],
  ] as const;
  /** A spice boiled with the brine carries its lot wherever the brine goes. */
  protected readonly into = signal<'bowls' | 'stays' | 'strained'>('bowls');
  protected readonly ticking = signal(false);

  /** A second dose of salt, for what joined after the first. */
  readonly dose = output<number>();

  protected readonly lines = computed(() => {
    const kinds = new Map(this.house.house()?.materials.map((material) => [material.id, material.kind]));
    return this.batch().lines.filter(
      (row) => (kinds.get(row.materialId) === 'starter') === (this.station() === 'starter'),
    );
  });
  /** What the house always puts in, where the formula has no line for it, until one went in. */
  protected readonly houseAsks = computed(() => {
    // Which line is a starter the house says: until it is read, nothing is missing.
    if (!this.house.house()) return null;
    const { rules, steps, ingredients } = this.batch();
    if (this.station() === 'flavour') {
      const isVinegar = (of: { readonly id: string }): boolean =>
        this.lines().some(({ materialId }) => materialId === of.id) ||
        ingredients.some(({ materialId }) => materialId === of.id);
      const vinegars = (this.house.house()?.materials ?? []).filter(({ details }) => details.standsFor === 'vinegar');
      return effectsOf(rules).vinegar && !vinegars.some(isVinegar)
        ? 'This house lowers the starting pH with a little vinegar: weigh it in. Its deadline stays as it is.'
        : null;
    }
    if (this.lines().length > 0 || steps.find(({ key }) => key === 'starter')?.state === 'done') return null;
    return {
      wild: null,
      kept: 'This house starts its batches with kept brine: weigh it in, by its donor.',
      culture: 'This house starts its batches with a bought culture: weigh it in, and the water it was woken in.',
    }[effectsOf(rules).starter];
  });
  protected readonly lineKey = signal<string | null>(null);
  /** The chosen one, or the first that is open. */
  protected readonly line = computed(
    () =>
      this.lines().find((row) => row.key === this.lineKey()) ??
      this.lines().find((row) => row.state === 'open') ??
      null,
  );
  private readonly supplies = supplyChoices(
    computed(() => (this.line() ? `/api/supplies?materialId=${this.line()!.materialId}` : null)),
  );
  private readonly kept = starterOptions(
    this.batch,
    computed(() => this.station() === 'starter'),
  );
  protected readonly options = computed((): Option[] => {
    const own = this.batch()
      .preparations.filter((row) => row.onHandGrams > 0 && row.form !== 'brine' && row.form !== 'keptBrine')
      .map((row) => ({
        id: row.lotId,
        label: `${row.code} ${row.name}`,
        detail: `made for this batch, ${formatGrams(row.onHandGrams)}`,
      }));
    const kept = this.kept();
    const brine =
      this.station() === 'starter' &&
      this.house.house()?.materials.find(({ id }) => id === this.line()?.materialId)?.details.standsFor === 'keptBrine';
    return brine
      ? [...kept, ...this.supplies.options()]
      : [...this.supplies.options(), ...own, ...(this.station() === 'starter' ? kept : [])];
  });
  /** One lot of it in the house need not be chosen. */
  protected readonly lotId = keptChoice(this.options, (options) => {
    const free = options.filter((option) => !option.disabled);
    return free.length === 1 ? free[0]!.id : null;
  });
  protected readonly toRecord = computed(() => this.scale.orReady(this.typed()));
  protected readonly at = computed(() => {
    const now = this.line();
    const grams = this.scale.orLive(this.typed());
    return now?.plannedGrams
      ? saltAtScale({ saltGrams: now.inGrams + (grams ?? 0), targetGrams: now.plannedGrams, tolerance: LINE_TOLERANCE })
      : null;
  });
  protected readonly usual = computed(() => {
    const range = this.line()?.usual;
    return range ? usualWords(range) : null;
  });
  /** Where what is in and what stands on the scale lies beside what usually goes in. */
  protected readonly beside = computed(() => {
    const now = this.line();
    const grams = this.scale.orLive(this.typed());
    if (!now?.usual || !grams) return null;
    const all = now.inGrams + grams;
    const { least, most } = now.usual;
    if (most !== null && all > most * 1.005) return 'over';
    return least !== null && all < least * 0.995 ? 'under' : null;
  });
  protected readonly means = computed(() => {
    const at = this.at();
    return at ? standingWords(at, formatGrams(this.line()!.plannedGrams!)) : 'to taste';
  });
  /** Water by the side door: with a culture's cup, a porridge, a wet starter. Source: handbook 7, worked case W6. */
  protected readonly thinned = computed(() => {
    const { salt, produce, plannedWaterGrams, formula, leaf } = this.batch();
    if (leaf || salt.inGrams === 0 || produce.length === 0 || this.batch().brine) return null;
    const water =
      produce.reduce(
        (sum, row) =>
          sum +
          row.grams * (formula.produce.find(({ materialId }) => materialId === row.materialId)?.waterFraction ?? 0.92),
        0,
      ) + plannedWaterGrams;
    const before = salt.inGrams / (salt.inGrams + water);
    const waterNow = (salt.inGrams * (1 - salt.waterPhaseSalt)) / salt.waterPhaseSalt;
    const missing = saltToReach({ saltGrams: salt.inGrams, waterGrams: waterNow, waterPhaseSalt: before });
    return before - salt.waterPhaseSalt < 0.0004
      ? null
      : {
          grams: Math.round(missing * 10) / 10,
          words: `Water came in with what was added: the water phase is at ${formatPercent(salt.waterPhaseSalt)}, it was ${formatPercent(before)}. ${missing.toFixed(1)} g of salt hold it there.`,
        };
  });
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected record(): void {
    const [line, fromLotId, grams] = [this.line(), this.lotId(), this.toRecord()];
    if (!line || !fromLotId || !grams) return;
    this.form.record(
      this.form.entry('ingredient.add', {
        batchId: this.batch().batchId,
        fromLotId,
        grams,
        line: line.key,
        ...(this.form.values.pieces() ? { pieces: this.form.values.pieces()! } : {}),
        ...this.scale.used(this.typed()),
        ...(this.pastReason().trim() ? { pastReason: this.pastReason().trim() } : {}),
        ...(this.beside() === 'over' && this.form.values.unusualReason().trim()
          ? { unusualReason: this.form.values.unusualReason().trim() }
          : {}),
        ...(this.batch().brine && this.station() === 'flavour' && this.into() !== 'bowls'
          ? { brine: this.into() as 'stays' | 'strained' }
          : {}),
      }),
    );
  }

  /** Its planned mass, or what is typed for it. */
  protected readonly tickGrams = computed(() => this.typed() ?? this.line()?.plannedGrams ?? null);

  /** Asked first: from which lot, and about how much. */
  protected tick(): void {
    const [line, grams] = [this.line(), this.tickGrams()];
    if (!line) return;
    if (!this.ticking() || grams === null) return this.ticking.set(true);
    this.settle.record(
      this.settle.entry('line.settle', {
        how: 'ticked',
        batchId: this.batch().batchId,
        line: line.key,
        note: this.reason().trim() || null,
        fromLotId: this.lotId(),
        grams,
      }),
    );
  }

  protected leaveOut(): void {
    if (this.line() && this.reason().trim())
      this.settle.record(
        this.settle.entry('line.settle', {
          how: 'leftOut',
          batchId: this.batch().batchId,
          line: this.line()!.key,
          reason: this.reason().trim(),
        }),
      );
  }
}

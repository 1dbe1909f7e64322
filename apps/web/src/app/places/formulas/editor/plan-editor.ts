import { Component, computed, input, output, signal } from '@angular/core';
import {
  type Check,
  CHECK_CONDITION_KEYS,
  CHECK_CONDITIONS,
  CHECK_KINDS,
  checkWords,
  type CheckCondition,
  type Doneness,
  donenessWords,
  type Form,
  parseNumber,
  planFor,
  PLAN_KIND_KEYS,
  type PlanKind,
} from '@clear-tally/core';
import { injectDecimalMark } from '../../../state/house';
import { TextField } from '../../../ui/text-field';
import { USUAL_DONE } from '../draft/draft';
import { Tick } from '../../../ui/tick';
import { Select } from '../../../ui/select';

/** The check plan in sentences, a line to add one, and the rule by which a lot is done. */
@Component({
  selector: 'ct-plan-editor',
  imports: [TextField, Tick, Select],
  template: `
    <div class="stack">
      <ul>
        @for (check of checks(); track $index) {
          <li>
            <span>{{ words(check) }}</span><button type="button" class="plain" (click)="drop($index)">Remove</button>
          </li>
        } @empty {
          <li class="soft">
            No checks.
            <button type="button" class="plain" (click)="checksChange.emit(usual())">Take the usual plan</button>
          </li>
        }
      </ul>
      <div class="row">
        <ct-select label="Check" [options]="kinds" [value]="what()" (valueChange)="what.set($event)" />
        @if (what() === 'own') {
          <ct-text label="In words" [value]="own()" (valueChange)="own.set($event)" />
          <ct-select label="It wants" [options]="WANTS" [value]="wants()" (valueChange)="wants.set($event)" />
          @if (wants() === 'figure') {
            <ct-text class="narrow" label="in" placeholder="%" [value]="unit()" (valueChange)="unit.set($event)" />
            <ct-text
              class="narrow"
              label="usually from"
              [figures]="true"
              [problem]="bounds().problem"
              [value]="least()"
              (valueChange)="least.set($event)"
            />
            <ct-text class="narrow" label="to" [figures]="true" [value]="most()" (valueChange)="most.set($event)" />
          }
        }
        <ct-text
          label="When"
          placeholder="days 1, 2, 3 then 7"
          style="flex: 1"
          [value]="when()"
          [problem]="
            when() && !rule()
              ? 'Write days 1, 2, 3, or every 12 h, or every 2 days for 14 days, or every 12 h while crossing, or every day for 5 days then every 2 days until quiet then every 7 days.'
              : null
          "
          (valueChange)="when.set($event)"
        />
        <ct-select label="Only" [options]="conditions" [value]="condition()" (valueChange)="condition.set($event)" />
        <button
          type="button"
          [disabled]="!rule() || (what() === 'own' && (!own().trim() || bounds().problem !== null))"
          (click)="add()"
        >
          Add the check
        </button>
      </div>
      @if (doneShown()) {
        <p><b>Done when</b> {{ doneWords() }}</p>
      }
      @if (done(); as d) {
        <div class="row">
          <ct-text
            class="narrow"
            label="pH at most"
            [figures]="true"
            [value]="d.phAtMost === null ? '' : '' + d.phAtMost"
            (valueChange)="figure('phAtMost', $event, 2.5, 4.6)"
          />
          <ct-text
            class="narrow"
            label="steady for, hours"
            [figures]="true"
            [value]="d.stableHours === null ? '' : '' + d.stableHours"
            (valueChange)="figure('stableHours', $event, 1, 400)"
          />
          <ct-text
            class="narrow"
            label="acidity at least, %"
            [figures]="true"
            [value]="d.acidAtLeast === null ? '' : '' + d.acidAtLeast"
            (valueChange)="figure('acidAtLeast', $event, 0, 5)"
          />
          <ct-text
            class="narrow"
            label="gas quiet, days"
            [figures]="true"
            [value]="d.gasQuietDays === null ? '' : '' + d.gasQuietDays"
            (valueChange)="figure('gasQuietDays', $event, 0, 800)"
          />
          <ct-text
            class="narrow"
            label="from day"
            [figures]="true"
            [value]="d.days ? '' + d.days.from : ''"
            (valueChange)="days('from', $event)"
          />
          <ct-text
            class="narrow"
            label="to day"
            [figures]="true"
            [value]="d.days ? '' + d.days.to : ''"
            (valueChange)="days('to', $event)"
          />
          <ct-tick [value]="d.colourThrough" (valueChange)="tick('colourThrough', $event)">colour through</ct-tick>
          <ct-tick [value]="d.tasteSignOff" (valueChange)="tick('tasteSignOff', $event)">taste signed off</ct-tick>
        </div>
      } @else if (doneShown()) {
        <div><button type="button" class="plain" (click)="doneChange.emit(usualDone)">Take the usual rule</button></div>
      }
    </div>
  `,
  styles: `
    li {
      display: flex;
      gap: 14px;
      justify-content: space-between;
      border-bottom: 1px solid var(--hair);
      padding: 4px 0;
      align-items: center;
    }
    .narrow {
      width: 128px;
    }
    .tick {
      display: inline-flex;
      gap: 6px;
      align-items: center;
      margin-top: 32px;
      font-size: 15px;
      color: var(--ink);
    }
    .tick input {
      width: 22px;
      height: 22px;
      accent-color: var(--brine);
    }
  `,
})
export class PlanEditor {
  readonly checks = input.required<readonly Check[]>();
  /** What it packs as: each has a plan to start from. */
  readonly form = input<Form>('wholeSmall');
  readonly done = input.required<Doneness | null>();
  readonly doneShown = input(true);
  readonly checksChange = output<Check[]>();
  readonly doneChange = output<Doneness>();

  protected readonly what = signal<PlanKind>('ph');
  protected readonly own = signal('');
  /** What an own check wants to know, in which unit, and what is usual. */
  protected readonly WANTS: readonly (readonly ['done' | 'figure' | 'words', string])[] = [
    ['done', 'that it is done'],
    ['figure', 'a figure'],
    ['words', 'words'],
  ];
  protected readonly wants = signal<'done' | 'figure' | 'words'>('done');
  protected readonly unit = signal('');
  protected readonly least = signal('');
  protected readonly most = signal('');
  private readonly mark = injectDecimalMark();
  protected readonly bounds = computed((): { least: number | null; most: number | null; problem: string | null } => {
    const read = (text: string): number | null => {
      const parsed = text.trim() === '' ? null : parseNumber({ text, decimalMark: this.mark() });
      return parsed === null ? null : parsed.ok ? parsed.value : NaN;
    };
    const [least, most] = [read(this.least()), read(this.most())];
    if (Number.isNaN(least) || Number.isNaN(most)) return { least: null, most: null, problem: 'figures, or nothing' };
    const upsideDown = least !== null && most !== null && least > most;
    return { least, most, problem: upsideDown ? 'the lower one first' : null };
  });
  protected readonly when = signal('');
  protected readonly condition = signal<CheckCondition>('always');
  protected readonly kinds = PLAN_KIND_KEYS.map((key) => ({
    key,
    words: key === 'own' ? 'another, in words' : CHECK_KINDS[key],
  }));
  protected readonly conditions = CHECK_CONDITION_KEYS.map((key) => ({
    key,
    words: CHECK_CONDITIONS[key] || 'always',
  }));
  protected readonly rule = computed(() => readRule(this.when()));
  protected readonly words = checkWords;
  protected readonly usual = (): Check[] => planFor(this.form());
  protected readonly usualDone = USUAL_DONE;
  protected readonly doneWords = computed(() =>
    this.done() ? donenessWords(this.done()!).join(', ') || 'somebody says so' : 'somebody says so',
  );

  protected add(): void {
    const rule = this.rule();
    if (!rule) return;
    this.checksChange.emit([
      ...this.checks(),
      {
        what: this.what(),
        words: this.what() === 'own' ? this.own().trim() : null,
        rule,
        condition: this.condition(),
        ...(this.what() === 'own' && this.wants() !== 'done' ? { asks: this.asks() } : {}),
      },
    ]);
    [this.unit, this.least, this.most].forEach((field) => field.set(''));
    this.wants.set('done');
    this.when.set('');
    this.own.set('');
  }

  private asks(): NonNullable<Check['asks']> {
    const { least, most } = this.bounds();
    return this.wants() === 'words'
      ? { kind: 'words' }
      : { kind: 'figure', unit: this.unit().trim() || null, least, most };
  }

  protected drop(index: number): void {
    this.checksChange.emit(this.checks().filter((_, at) => at !== index));
  }

  protected figure(
    key: 'phAtMost' | 'stableHours' | 'acidAtLeast' | 'gasQuietDays',
    text: string,
    least: number,
    most: number,
  ): void {
    const read = text.trim() === '' ? null : parseNumber({ text });
    const value = read === null ? null : read.ok ? read.value : NaN;
    // A figure on its way ("3." or beyond its bounds) waits until it is one.
    if (value !== null && !(value >= least && value <= most)) return;
    this.doneChange.emit({ ...this.done()!, [key]: value });
  }

  protected tick(key: 'colourThrough' | 'tasteSignOff', on: boolean): void {
    this.doneChange.emit({ ...this.done()!, [key]: on });
  }

  protected days(end: 'from' | 'to', text: string): void {
    const value = Number(text);
    const now = this.done()!.days;
    if (text.trim() === '') return this.doneChange.emit({ ...this.done()!, days: null });
    if (Number.isInteger(value) && value >= 0 && value <= 800)
      this.doneChange.emit({ ...this.done()!, days: { from: now?.from ?? value, to: now?.to ?? value, [end]: value } });
  }
}

const EVERY = 'every\\s+(?:(\\d+(?:\\.\\d+)?)\\s*)?(h|hours?|days?)';
const hoursOf = (figure: string | undefined, unit: string): number =>
  Number(figure ?? 1) * (unit.toLowerCase().startsWith('d') ? 24 : 1);

/** "days 1, 2, 3 then 7", "every 12 h for 5 days", "every 2 days". */
export function readRule(text: string): Check['rule'] | null {
  const days = /^(?:on\s+)?days?\s+([\d,\s]+?)(?:,?\s*then\s+(?:every\s+)?(\d+)(?:\s*days?)?)?$/i.exec(text.trim());
  if (days) {
    const list = days[1]!
      .split(/[,\s]+/)
      .filter(Boolean)
      .map(Number);
    return list.length > 0 && list.length <= 30 && list.every((day) => day <= 800)
      ? { kind: 'onDays', days: list, thenEveryDays: days[2] ? Number(days[2]) : null }
      : null;
  }
  // The sentences of the plan are understood as they are written there.
  const crossing = new RegExp(
    `^${EVERY}\\s+while\\s+(?:it\\s+)?(?:usually\\s+)?cross(?:es|ing)(?:\\s+the\\s+limit)?$`,
    'i',
  ).exec(text.trim());
  if (crossing) {
    const hours = hoursOf(crossing[1], crossing[2]!);
    return hours >= 1 && hours <= 240 ? { kind: 'aroundCrossing', hours } : null;
  }
  const quiet = new RegExp(
    `^${EVERY}\\s+for\\s+(\\d+)\\s*days?,?\\s*then\\s+${EVERY}\\s+until\\s+(?:quiet|(\\d+)\\s+in a row gave no gas),?\\s*then\\s+every\\s+(\\d+)\\s*days?$`,
    'i',
  ).exec(text.trim());
  if (quiet) {
    const rule = {
      kind: 'untilQuiet' as const,
      hours: hoursOf(quiet[1], quiet[2]!),
      forDays: Number(quiet[3]),
      thenHours: hoursOf(quiet[4], quiet[5]!),
      quietTimes: Number(quiet[6] ?? 2),
      thenEveryDays: Number(quiet[7]),
    };
    return rule.hours >= 1 &&
      rule.hours <= 240 &&
      rule.thenHours >= 1 &&
      rule.thenHours <= 720 &&
      rule.quietTimes >= 1 &&
      rule.quietTimes <= 10 &&
      rule.thenEveryDays >= 1 &&
      rule.thenEveryDays <= 90 &&
      rule.forDays <= 800
      ? rule
      : null;
  }
  const every = new RegExp(`^${EVERY}(?:\\s+for\\s+(\\d+)\\s*days?)?$`, 'i').exec(text.trim());
  if (!every) return null;
  const hours = hoursOf(every[1], every[2]!);
  return hours >= 1 && hours <= 24 * 90 ? { kind: 'every', hours, forDays: every[3] ? Number(every[3]) : null } : null;
}

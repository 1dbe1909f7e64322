import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { HeatProcessReply } from '@clear-tally/contract';
import { gapsOf, lethality, LONGEST_GAP_MINUTES, readHeatLog, spansAtLeast } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { AreaField } from '../../ui/area-field';
import { CountInput } from '../../ui/count-input';
import { DayField } from '../../ui/day-field';
import { FigureInput } from '../../ui/figure-input';
import { localMoment, momentAt } from '../../ui/moment-at';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { HeatTimers } from './heat-timers';
import { KettleLine } from './kettle-line';

const nothing = null as number | null;

/** Jars and what was read in them: `1 84, 70 83.5`. */
function readFills(text: string): { fills: { serial: number; celsius: number }[]; problem: string | null } {
  const parts = text
    .split(/[;\n]|,(?!\d)/)
    .map((part) => part.trim())
    .filter(Boolean);
  const fills = parts.flatMap((part) => {
    const [, serial, celsius] = /^(\d{1,5})[\s:]+(\d{1,3}(?:[.,]\d+)?)\s*(?:°?C)?$/.exec(part) ?? [];
    return celsius === undefined ? [] : [{ serial: Number(serial), celsius: Number(celsius.replace(',', '.')) }];
  });
  return {
    fills,
    problem: fills.length < parts.length ? 'The number of a jar and its °C are read: 1 84; 70 83.5' : null,
  };
}

/** One load written down as it was heated: what its process asks for, and nothing else. */
@Component({
  selector: 'ct-load-form',
  imports: [
    AreaField,
    CountInput,
    DayField,
    FigureInput,
    FormField,
    HeatTimers,
    KettleLine,
    RecordButton,
    Refusal,
    Select,
    TextField,
    Tick,
    TypedBeforeNote,
  ],
  templateUrl: './load-form.html',
  styles:
    '.pair { display: flex; flex-wrap: wrap; gap: 12px 18px; align-items: end; } .log { display: grid; grid-template-columns: minmax(220px, 1fr) minmax(0, 1fr); gap: 18px; align-items: start; }',
})
export class LoadForm {
  readonly runLotId = input.required<string>();
  readonly code = input.required<string>();
  readonly packedAt = input.required<string>();
  readonly jars = input.required<number>();
  readonly next = input.required<number>();
  /** Every jar stands in a load already. */
  readonly anew = input(false);
  readonly processes = input.required<readonly HeatProcessReply[]>();
  readonly done = output();
  private readonly house = injectHouse();
  private readonly zone = computed(() => this.house.house()?.timeZone ?? 'UTC');

  protected readonly form = recordingForm('heat.load', {
    fields: {
      processId: '',
      first: nothing,
      last: nothing,
      day: '',
      began: '',
      fahrenheit: false,
      log: '',
      lastC: nothing,
      others: '',
      initialC: nothing,
      headspaceMm: nothing,
      turnedSeconds: nothing,
      coverMm: nothing,
      restMinutes: nothing,
      cooledC: nothing,
      critical: false,
      note: '',
    },
    about: this.runLotId,
    recorded: () => {
      this.clear();
      this.done.emit();
    },
  });
  private readonly v = this.form.values;
  protected readonly names = computed(() => this.processes().map(({ processId, name }) => [processId, name] as const));
  /** The only one is chosen by itself. */
  protected readonly processId = computed(
    () => this.v.processId() || (this.processes().length === 1 ? this.processes()[0]!.processId : ''),
  );
  protected readonly process = computed(() => this.processes().find((one) => one.processId === this.processId()));
  protected readonly bath = computed(() => this.process()?.limits.method === 'waterBath');
  protected readonly first = computed(() => this.v.first() ?? this.next());
  protected readonly last = computed(() => this.v.last() ?? this.jars());
  /** Jars that no load names yet were heated when they were packed; what is heated anew is heated now. */
  protected readonly day = computed(
    () =>
      this.v.day() || localMoment(new Date(this.anew() ? Date.now() : this.packedAt()).toISOString(), this.zone()).day,
  );
  protected readonly log = computed(() => readHeatLog(this.v.log(), this.v.fahrenheit() ? 'F' : 'C'));
  protected readonly fills = computed(() => readFills(this.v.others()));

  /** What the log says so far, beside what is asked. */
  protected readonly said = computed(() => {
    const { points } = this.log();
    const limits = this.process()?.limits;
    if (points.length === 0 || !limits) return null;
    const all = points.map(({ celsius }) => celsius);
    const longest = Math.max(0, ...spansAtLeast(points, limits.processC).map(({ from, to }) => to - from));
    const f = limits.lethality ? lethality(points, limits.lethality) : null;
    return [
      `${points.length} points over ${points.at(-1)!.minute} min, ${Math.min(...all)} to ${Math.max(...all)} °C.`,
      `${Math.round(longest * 10) / 10} of ${limits.minutes} min at ${limits.processC} °C or more, at a stretch.`,
      ...(f === null ? [] : [`F ${f.toFixed(2)} min over the whole log.`]),
    ];
  });
  /** Where nobody knows how warm it was. */
  protected readonly gaps = computed(() => {
    const [gap] = gapsOf(this.log().points);
    return gap === undefined
      ? null
      : `Between minute ${gap.from} and ${gap.to} nobody knows how warm it was, and nothing of it counts: a point every ${LONGEST_GAP_MINUTES} min at least is read.`;
  });
  private readonly startedAt = computed(() => {
    const { startsAt } = this.log();
    const clock =
      startsAt === null
        ? this.v.began()
        : `${Math.floor(startsAt / 60)}:${String(Math.floor(startsAt % 60)).padStart(2, '0')}`;
    return momentAt(this.day(), clock, this.zone());
  });
  protected readonly needs = computed(() => [
    !this.process() && 'its process',
    this.log().points.length < 2 && 'the log',
    this.log().problems.length > 0 && 'a log without open questions',
    this.startedAt() === null && 'when it began',
    this.fills().problem !== null && 'the fill temperatures, readable',
  ]);

  protected addLines(lines: readonly string[]): void {
    this.v.log.set([this.v.log().trim(), ...lines].filter(Boolean).join('\n'));
    this.v.day.set(localMoment(new Date().toISOString(), this.zone()).day);
  }

  /** Full boil, or the heat, begins now: so does a log that counts minutes. */
  protected boils(at: Date): void {
    const { day, time } = localMoment(at.toISOString(), this.zone());
    this.v.day.set(day);
    this.v.began.set(time);
  }

  protected record(): void {
    const v = this.v;
    const limits = this.process()!.limits;
    const started = this.startedAt()!;
    const { points } = this.log();
    const lastC = v.lastC();
    const fills = this.fills().fills.filter(({ serial }) => serial !== this.last());
    const ended = Date.parse(started) + (points.at(-1)?.minute ?? 0) * 60_000;
    // A sauce is heated before it is filled: written down it is with its jars.
    const at = new Date(Math.min(Date.now(), Math.max(ended, Date.parse(this.packedAt()))));
    this.form.record(
      this.form.entry(
        'heat.load',
        {
          loadId: newId(),
          runLotId: this.runLotId(),
          first: this.first(),
          last: this.last(),
          processId: this.processId(),
          startedAt: started,
          points: [...points],
          fills: this.bath() ? [] : [...fills, ...(lastC === null ? [] : [{ serial: this.last(), celsius: lastC }])],
          initialC: this.bath() ? v.initialC() : null,
          headspaceMm: limits.headspaceMm === null ? null : v.headspaceMm(),
          turnedSeconds: limits.turnedSeconds === null ? null : v.turnedSeconds(),
          coverMm: limits.coverMm === null ? null : v.coverMm(),
          restMinutes: limits.restMinutes === null ? null : v.restMinutes(),
          cooledC: limits.cooledC === null ? null : v.cooledC(),
          criticalKept: this.process()!.critical ? v.critical() : null,
          note: v.note().trim() || null,
        },
        at,
      ),
    );
  }

  private clear(): void {
    const v = this.v;
    for (const field of [v.log, v.others, v.note, v.began]) field.set('');
    for (const field of [v.first, v.last, v.lastC, v.initialC, v.headspaceMm, v.turnedSeconds, v.coverMm])
      field.set(null);
    for (const field of [v.restMinutes, v.cooledC]) field.set(null);
    v.critical.set(false);
  }
}

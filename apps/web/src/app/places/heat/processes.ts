import { Component, computed, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { ProcessesReply } from '@clear-tally/contract';
import { HEAT_METHOD_WORDS, HEAT_METHODS, type HeatLimits, type HeatMethod } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Nothing } from '../../ui/nothing';
import { calendarDay } from '../../ui/dates';
import { DayField } from '../../ui/day-field';
import { FigureInput } from '../../ui/figure-input';
import { PhotoField } from '../../ui/photo-field';
import { RecordButton } from '../../ui/record-button';
import { OwnersOnly } from '../../ui/owners-only';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { PackNav } from '../pack/pack-nav';
import { limitWords } from './limit-words';

interface FormulaLine {
  readonly formulaId: string;
  readonly name: string;
}

const nothing = null as number | null;

/** Scheduled processes as the house holds them from its process authority. Nothing is kept ambient without one. */
@Component({
  selector: 'ct-processes',
  imports: [
    OwnersOnly,
    Nothing,
    DayField,
    FigureInput,
    FormField,
    PackNav,
    PhotoField,
    RecordButton,
    Refusal,
    Select,
    TextField,
    Tick,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './processes.html',
  styleUrl: './processes.less',
})
export class Processes {
  protected readonly rights = injectRights();
  protected readonly read = shown<ProcessesReply>(signal('/api/processes'));
  private readonly formulas = shown<{ formulas: readonly FormulaLine[] }>(signal('/api/formulas'));
  protected readonly formulaNames = computed(() =>
    (this.formulas.data()?.formulas ?? []).map(({ formulaId, name }) => [formulaId, name] as const),
  );
  protected readonly methods = HEAT_METHODS.map((key) => [key, HEAT_METHOD_WORDS[key]] as const);
  protected readonly methodWords = HEAT_METHOD_WORDS;
  protected readonly calendarDay = calendarDay;
  protected readonly limitWords = limitWords;
  protected readonly document = signal<string | null>(null);
  protected readonly ending = signal<string | null>(null);

  protected readonly form = recordingForm('heat.process', {
    fields: {
      name: '',
      method: 'hotFill' as HeatMethod,
      formulaId: '',
      issuer: '',
      issuedOn: '',
      validUntil: '',
      maxPh: nothing,
      sizeMl: nothing,
      processC: nothing,
      minutes: nothing,
      fillC: nothing,
      initialC: nothing,
      headspaceMm: nothing,
      turnedSeconds: nothing,
      coverMm: nothing,
      restMinutes: nothing,
      cooledC: nothing,
      altitudeM: nothing,
      refC: nothing,
      z: nothing,
      leastF: nothing,
      countsComeUp: false,
      critical: '',
    },
    recorded: () => this.begin(),
  });
  protected readonly end = recordingForm('heat.processEnd', {
    fields: { reason: '' },
    about: this.ending,
    recorded: () => {
      this.ending.set(null);
      this.end.values.reason.set('');
    },
  });
  protected readonly bath = computed(() => this.form.values.method() === 'waterBath');
  /** A lethality is three figures or none: F means nothing without its temperature and its z. */
  private readonly lethal = computed(() => {
    const { refC, z, leastF } = this.form.values;
    return [refC(), z(), leastF()];
  });
  protected readonly needs = computed(() => {
    const v = this.form.values;
    const some = this.lethal().filter((figure) => figure !== null).length;
    return [
      !v.name().trim() && 'what it is called',
      !v.issuer().trim() && 'who issued it',
      !v.issuedOn() && 'the day it was issued',
      v.maxPh() === null && 'the highest pH',
      v.sizeMl() === null && 'the largest container',
      v.processC() === null && 'the temperature',
      v.minutes() === null && 'the minutes',
      !this.bath() && v.fillC() === null && 'the temperature in the bottle',
      this.bath() && v.initialC() === null && 'the temperature of the jars at the start',
      this.bath() && v.altitudeM() === null && 'the altitude of the workshop',
      some > 0 && some < 3 && 'all three figures of the lethality',
    ];
  });

  protected keep(): void {
    const v = this.form.values;
    const [refC, z, leastF] = this.lethal();
    const bath = this.bath();
    const limits: HeatLimits = {
      method: v.method(),
      maxPh: v.maxPh()!,
      sizeMl: Math.round(v.sizeMl()!),
      processC: v.processC()!,
      minutes: v.minutes()!,
      fillC: bath ? null : v.fillC(),
      initialC: bath ? v.initialC() : null,
      headspaceMm: v.headspaceMm(),
      turnedSeconds: v.turnedSeconds(),
      coverMm: bath ? v.coverMm() : null,
      restMinutes: bath ? v.restMinutes() : null,
      cooledC: v.cooledC(),
      lethality: leastF == null ? null : { refC: refC!, z: z!, minutes: leastF, countsComeUp: v.countsComeUp() },
      altitudeM: v.altitudeM() ?? 0,
    };
    this.form.record(
      this.form.entry('heat.process', {
        processId: newId(),
        name: v.name().trim(),
        formulaId: v.formulaId() || null,
        limits,
        critical: v.critical().trim() || null,
        issuer: v.issuer().trim(),
        issuedOn: v.issuedOn(),
        validUntil: v.validUntil() || null,
        document: this.document(),
      }),
    );
  }

  protected stop(processId: string): void {
    this.end.record(this.end.entry('heat.processEnd', { processId, reason: this.end.values.reason().trim() }));
  }

  private begin(): void {
    const v = this.form.values;
    for (const field of [v.name, v.formulaId, v.issuer, v.issuedOn, v.validUntil, v.critical]) field.set('');
    for (const field of [
      v.maxPh,
      v.sizeMl,
      v.processC,
      v.minutes,
      v.fillC,
      v.initialC,
      v.headspaceMm,
      v.turnedSeconds,
      v.coverMm,
      v.restMinutes,
      v.cooledC,
      v.altitudeM,
      v.refC,
      v.z,
      v.leastF,
    ])
      field.set(null);
    v.countsComeUp.set(false);
    this.document.set(null);
  }
}

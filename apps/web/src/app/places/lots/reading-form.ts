import { Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { Store } from '@ngrx/store';
import { parsePh, parseTemperature } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { recordingForm } from '../../state/form';
import { selectPhMeter } from '../../state/devices';
import { injectMeters } from '../../state/meters';
import { When } from '../../state/when';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Select } from '../../ui/select';
import { TypedBeforeNote } from '../../ui/typed-before';

/** pH and temperature, entered at the head of the book. Either alone will do. */
@Component({
  selector: 'ct-reading-form',
  imports: [Choices, Mark, Refusal, TextField, Select, TypedBeforeNote, FormField, RecordButton],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <div class="row">
        <ct-text
          class="short"
          label="pH"
          [value]="ph()"
          (valueChange)="ph.set($event); confirmed.set(false); said.set(null); jumped.set(false); form.edited()"
          [figures]="true"
          [wrong]="!!phMessage()"
        />
        <ct-choices
          label="Sample"
          [options]="[
            ['blended', 'Blended'],
            ['brine', 'Brine only'],
          ]"
          [value]="sample()"
          (picked)="form.values.sample.set($event)"
        />
        <ct-text
          class="short"
          [label]="compact() ? 'Vessel °C' : 'Vessel, °C'"
          [formField]="form.fields.celsius"
          [figures]="true"
          [wrong]="!!celsiusMessage()"
        />
        <button
          class="go"
          [ctRecord]="form"
          [needs]="[
            !ready() &&
              (phMessage() || celsiusMessage() || sampleMessage()
                ? 'a figure that can be read'
                : 'a pH or a temperature'),
          ]"
        >
          {{ words() }}
        </button>
      </div>
      @if (sample() === 'brine' && lastSample() === 'brine') {
        <p class="soft small">
          Brine only, as it was read last. It is for watching: a limit asks for a blended sample.
        </p>
      }
      @if (live()?.ph; as now) {
        @if (now.settled) {
          <div>
            <button type="button" (click)="take()">
              Take pH {{ now.ph.toFixed(2) }}, {{ now.celsius.toFixed(1) }} °C
            </button>
          </div>
        }
      }
      @if (phValue() !== null) {
        <div class="meter">
          <ct-text
            class="short"
            label="Sample, °C, if known"
            [formField]="form.fields.sampleCelsius"
            [figures]="true"
            [wrong]="!!sampleMessage()"
          />
          @if (meters.meters().length > 0) {
            <ct-select
              label="Meter"
              [options]="meterOptions()"
              [value]="meters.meter()?.meterId"
              (valueChange)="meters.choose($event || null)"
            />
          }
          @if (meters.meter(); as meter) {
            <ct-mark [kind]="meter.fit ? 'met' : 'watch'"
              ><span class="small">{{
                meter.fit
                  ? when.at() === null
                    ? 'fit for release until ' + house.dates().time(meter.until!)
                    : 'fit for release then'
                  : 'not for release: ' + meter.reasons.join('; ')
              }}</span></ct-mark
            >
          }
        </div>
      }
      @if (mayConfirm()) {
        <div class="watch stack">
          <p>{{ phMessage() }}</p>
          <p>
            <button type="button" (click)="confirmed.set(true)">Read again: it is pH {{ ph() }}</button>
          </p>
        </div>
      } @else {
        <ct-refusal [message]="phMessage()" />
      }
      @if (jump(); as off) {
        <div class="watch stack" role="alert">
          <p>{{ form.problem() }}</p>
          <p class="row">
            <button type="button" (click)="stays()">It stays so: record {{ ph() }}</button>
            @for (tag of off.fits; track tag) {
              <button type="button" (click)="other(tag)">It was {{ tag }}</button>
            }
          </p>
        </div>
      } @else {
        <ct-refusal [message]="celsiusMessage() ?? sampleMessage() ?? form.problem()" />
      }
      @if (said(); as words) {
        <p class="note small" role="status">{{ words }}</p>
      }
    </form>
  `,
  styles:
    ':host { display: block; } ct-refusal:empty { display: none; } .meter { display: flex; flex-wrap: wrap; gap: 8px 14px; align-items: start; } .meter ct-mark { padding-top: 38px; } .short { width: var(--reading-width, 150px); --field-size: 24px; }',
})
export class ReadingForm {
  readonly lotId = input.required<string>();
  /** A figure brought along from another vessel's form. */
  readonly brought = input<string | null>(null);
  /** How the last reading was taken. */
  readonly lastSample = input<'blended' | 'brine' | null>(null);
  /** Where there is little room. */
  readonly compact = input(false);
  readonly recorded = output();
  /** The probe was in a sister vessel: its tag, and the figure. */
  readonly wasOther = output<{ tag: string; ph: string }>();
  protected readonly house = injectHouse();
  protected readonly when = inject(When);
  protected readonly meters = injectMeters();
  protected readonly meterOptions = computed(() =>
    this.meters.meters().map(({ meterId, tag, name }) => ({ id: meterId, label: `${tag}, ${name}` })),
  );
  protected readonly jumped = signal(false);
  /** The meter on the bench: its figure is taken with one tap once it stands. */
  protected readonly live = inject(Store).selectSignal(selectPhMeter);
  protected readonly said = signal<string | null>(null);
  protected readonly form = recordingForm('reading', {
    fields: { ph: '', celsius: '', sampleCelsius: '', sample: '' as '' | 'blended' | 'brine' },
    about: this.lotId,
    recorded: (recorded) => {
      const facts = recorded.find(({ kind }) => kind === 'ph.read')?.facts;
      this.said.set(
        facts?.['jumped']
          ? `pH ${this.ph()} is kept, off the trend. Read again now: the repeat decides.`
          : facts?.['unfit']
            ? `Recorded for watching, not for release: ${String(facts['unfit'])}.`
            : null,
      );
      this.jumped.set(false);
      this.recorded.emit();
      this.ph.set('');
      this.celsius.set('');
      this.sampleCelsius.set('');
      this.confirmed.set(false);
    },
  });
  protected readonly ph = this.form.values.ph;
  protected readonly celsius = this.form.values.celsius;
  /** Of the sample in the beaker: the meter corrects for it. It says nothing of the vessel. */
  protected readonly sampleCelsius = this.form.values.sampleCelsius;
  /** As it was read last, until somebody says otherwise. */
  protected readonly sample = computed(() => this.form.values.sample() || (this.lastSample() ?? 'blended'));
  protected readonly confirmed = signal(false);

  private readonly parsedPh = computed(() =>
    this.ph().trim() === '' ? null : parsePh({ text: this.ph(), decimalMark: this.house.house()?.decimalMark }),
  );
  private readonly parsedCelsius = computed(() =>
    this.celsius().trim() === ''
      ? null
      : parseTemperature({ text: this.celsius(), decimalMark: this.house.house()?.decimalMark }),
  );
  private readonly rare = computed(() => {
    const parsed = this.parsedPh();
    return parsed !== null && !parsed.ok && parsed.refusal.code === 'ph.askAgain';
  });
  protected readonly mayConfirm = computed(() => this.rare() && !this.confirmed());
  protected readonly phMessage = computed(() => {
    const parsed = this.parsedPh();
    return parsed && !parsed.ok && !(this.rare() && this.confirmed()) ? parsed.refusal.message : null;
  });
  protected readonly celsiusMessage = computed(() => {
    const parsed = this.parsedCelsius();
    return parsed && !parsed.ok ? parsed.refusal.message : null;
  });
  /** A refusal that asks whether the figure stays so. */
  protected readonly jump = computed(() => {
    const facts = this.form.facts();
    return facts && 'fits' in facts ? { fits: facts['fits'] as string[] } : null;
  });
  protected readonly phValue = computed(() => {
    const parsed = this.parsedPh();
    if (parsed?.ok) return parsed.value;
    const sure =
      this.rare() && this.confirmed()
        ? parsePh({ text: this.ph(), decimalMark: this.house.house()?.decimalMark, confirmedUnusual: true })
        : null;
    return sure?.ok ? sure.value : null;
  });
  private readonly celsiusValue = computed(() => {
    const parsed = this.parsedCelsius();
    return parsed?.ok ? parsed.value : null;
  });
  private readonly parsedSample = computed(() =>
    this.sampleCelsius().trim() === ''
      ? null
      : parseTemperature({ text: this.sampleCelsius(), decimalMark: this.house.house()?.decimalMark }),
  );
  protected readonly sampleMessage = computed(() => {
    const parsed = this.parsedSample();
    return parsed && !parsed.ok
      ? parsed.refusal.message
      : parsed?.ok && (parsed.value < -2 || parsed.value > 60)
        ? `${this.sampleCelsius()} was given for the sample; −2 to 60 °C is accepted.`
        : null;
  });
  protected readonly ready = computed(
    () =>
      !this.phMessage() &&
      !this.celsiusMessage() &&
      !this.sampleMessage() &&
      (this.phValue() !== null || this.celsiusValue() !== null),
  );
  protected readonly words = computed(() => {
    const parts = [
      this.phValue() === null ? null : `pH ${this.phValue()}`,
      this.celsiusValue() === null ? null : `${this.celsiusValue()!.toFixed(1)} °C`,
    ].filter(Boolean);
    return parts.length > 0 ? `Record ${parts.join(', ')}` : 'Record a reading';
  });

  constructor() {
    effect(() => {
      const brought = this.brought();
      if (brought !== null) untracked(() => this.ph.set(brought));
    });
  }

  protected take(): void {
    const now = this.live()?.ph;
    if (!now?.settled) return;
    this.ph.set(now.ph.toFixed(2));
    this.sampleCelsius.set(now.celsius.toFixed(1));
    this.confirmed.set(false);
    this.jumped.set(false);
    this.said.set(null);
    this.form.edited();
  }

  protected stays(): void {
    this.jumped.set(true);
    this.record();
  }

  protected other(tag: string): void {
    this.wasOther.emit({ tag, ph: this.ph() });
    this.ph.set('');
    this.form.edited();
  }

  protected record(): void {
    const ph = this.phValue();
    const celsius = this.celsiusValue();
    const parsed = this.parsedSample();
    const sampleCelsius = parsed?.ok ? parsed.value : null;
    if (!this.ready()) return;
    this.form.record(
      ...(ph === null
        ? []
        : [
            this.form.entry('ph.read', {
              lotId: this.lotId(),
              ph,
              sample: this.sample(),
              ...(this.confirmed() ? { confirmedUnusual: true } : {}),
              ...(this.jumped() ? { confirmedJump: true } : {}),
              ...(this.meters.meter() ? { meterId: this.meters.meter()!.meterId, sampleCelsius } : {}),
            }),
          ]),
      ...(celsius === null ? [] : [this.form.entry('temperature.read', { lotId: this.lotId(), celsius })]),
    );
  }
}

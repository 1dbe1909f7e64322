import { Component, computed, inject, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Store } from '@ngrx/store';
import { METER_RULES, phOf, slopeAndOffset } from '@clear-tally/core';
import type { MetersReply } from '@clear-tally/contract';
import { Api } from '../../api/api';
import { selectPhMeter } from '../../state/devices';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { newId, recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { CautionsAt } from '../../ui/cautions-at';
import { FigureInput } from '../../ui/figure-input';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { TextField } from '../../ui/text-field';
import { Waiting } from '../../ui/waiting';
import { OfficeNav } from './office-nav';

type Calibration = MetersReply['meters'][number]['calibrations'][number];

const CALIBRATIONS: readonly Column<Calibration>[] = [
  { key: 'at', head: 'When', kind: 'moment', value: ({ at }) => at, width: '190px' },
  { key: 'buffers', head: 'Buffers', value: ({ buffers }) => buffers.join(', ') },
  { key: 'slope', head: 'Slope, %', kind: 'number', places: 1, value: ({ slopePercent }) => slopePercent },
  { key: 'offset', head: 'Offset, mV', kind: 'number', places: 1, value: ({ offsetMillivolts }) => offsetMillivolts },
  {
    key: 'check',
    head: 'Check',
    value: ({ check }) => (check ? `${check.buffer.toFixed(2)} → ${check.read.toFixed(2)}` : null),
  },
  { key: 'by', head: 'By', value: ({ by }) => by, width: '80px' },
];

/** Meters and strips: calibrated with two buffers, checked with one, fit for release or not, and since when. */
@Component({
  selector: 'ct-meters',
  imports: [
    Choices,
    Table,
    CautionsAt,
    FigureInput,
    Mark,
    OfficeNav,
    Refusal,
    TextField,
    Waiting,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  templateUrl: './meters.html',
  styles:
    'li button { width: 100%; display: grid; justify-content: stretch; text-align: left; gap: 2px; border: 0; border-bottom: 1px solid var(--hair); background: none; padding: 10px; font-weight: 400; } li button[aria-current] { background: var(--wash); border-left: 5px solid var(--ink); } .buffers { display: grid; grid-template-columns: repeat(3, minmax(0, max-content)); gap: 10px 16px; justify-content: start; align-items: end; }',
})
export class Meters {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly api = inject(Api);
  protected readonly read = shown<MetersReply>(signal('/api/meters'));
  protected readonly live = inject(Store).selectSignal(selectPhMeter);
  protected readonly rules = METER_RULES;
  private readonly chosen = signal<string | null>(null);
  protected readonly meter = computed(
    () =>
      this.read.data()?.meters.find(({ meterId }) => meterId === this.chosen()) ??
      this.read.data()?.meters.find(({ fit }) => fit) ??
      this.read.data()?.meters[0] ??
      null,
  );
  protected readonly by = signal<'buffers' | 'shown'>('buffers');
  protected readonly columns = CALIBRATIONS;
  protected readonly keyOf = ({ at }: Calibration): string => at;
  protected readonly form = recordingForm('calibrate', {
    fields: {
      high: 7 as number | null,
      highMv: null as number | null,
      low: 4.01 as number | null,
      lowMv: null as number | null,
      slope: null as number | null,
      offset: null as number | null,
      celsius: 20 as number | null,
      again: null as number | null,
    },
    about: computed(() => this.meter()?.meterId ?? null),
    recorded: ([recorded]) => {
      const { slopePercent, offsetMillivolts } = (recorded?.facts ?? {}) as {
        slopePercent: number;
        offsetMillivolts: number;
      };
      // A meter on the bench is told, so that it shows what the house reckons.
      if (this.live())
        this.api
          .device(this.live()!.id, `CAL ${slopePercent.toFixed(1)} ${offsetMillivolts.toFixed(1)}`)
          .subscribe({ error: () => undefined });
      [this.highMv, this.lowMv, this.slope, this.offset, this.again].forEach((field) => field.set(null));
    },
  });
  protected readonly celsius = this.form.values.celsius;
  protected readonly high = this.form.values.high;
  protected readonly highMv = this.form.values.highMv;
  protected readonly low = this.form.values.low;
  protected readonly lowMv = this.form.values.lowMv;
  protected readonly slope = this.form.values.slope;
  protected readonly offset = this.form.values.offset;
  protected readonly again = this.form.values.again;
  protected readonly adding = recordingForm('meter', {
    fields: { tag: '', name: '' },
    recorded: () => [this.tag, this.name].forEach((field) => field.set('')),
  });
  protected readonly tag = this.adding.values.tag;
  protected readonly name = this.adding.values.name;
  protected readonly kind = signal<'meter' | 'strips'>('meter');
  protected readonly found = computed(() => {
    const [high, highMv, low, lowMv, celsius] = [this.high(), this.highMv(), this.low(), this.lowMv(), this.celsius()];
    if (this.by() === 'shown')
      return this.slope() !== null && this.offset() !== null
        ? { slopePercent: this.slope()!, offsetMillivolts: this.offset()! }
        : null;
    if (
      high === null ||
      highMv === null ||
      low === null ||
      lowMv === null ||
      celsius === null ||
      Math.abs(high - low) < 1
    )
      return null;
    return slopeAndOffset({
      buffers: [
        { ph: high, millivolts: highMv },
        { ph: low, millivolts: lowMv },
      ],
      celsius,
    });
  });
  protected readonly inSlope = computed(
    () =>
      this.found() !== null &&
      this.found()!.slopePercent >= METER_RULES.slopeLeast &&
      this.found()!.slopePercent <= METER_RULES.slopeMost,
  );
  protected readonly checkOff = computed(() =>
    this.again() === null || this.low() === null ? null : Math.abs(this.again()! - this.low()!),
  );

  protected choose(id: string): void {
    this.chosen.set(id);
    this.form.edited();
  }

  protected take(into: 'high' | 'low' | 'again'): void {
    const now = this.live()?.ph;
    if (!now?.settled) return;
    this.celsius.set(now.celsius);
    const found = this.found();
    if (into === 'high') this.highMv.set(Math.round(now.millivolts * 10) / 10);
    else if (into === 'low') this.lowMv.set(Math.round(now.millivolts * 10) / 10);
    // By the calibration in hand, not by the one the meter still has.
    else if (found) this.again.set(Math.round(phOf({ ...now, ...found }) * 100) / 100);
  }

  protected calibrate(): void {
    const [meter, found, celsius] = [this.meter(), this.found(), this.celsius()];
    if (!meter || !found || celsius === null) return;
    this.form.record(
      this.form.entry('meter.calibrate', {
        meterId: meter.meterId,
        celsius,
        by:
          this.by() === 'buffers'
            ? {
                how: 'buffers',
                buffers: [
                  { ph: this.high()!, millivolts: this.highMv()! },
                  { ph: this.low()!, millivolts: this.lowMv()! },
                ],
              }
            : {
                how: 'shown',
                buffers: [this.high() ?? 7, this.low() ?? 4.01],
                slopePercent: found.slopePercent,
                offsetMillivolts: found.offsetMillivolts,
              },
        check: this.again() === null ? null : { buffer: this.low() ?? 4.01, read: this.again()! },
      }),
    );
  }

  protected add(): void {
    if (this.tag().trim() && this.name().trim())
      this.adding.record(
        this.adding.entry('meter.add', {
          meterId: newId(),
          tag: this.tag().trim().toUpperCase(),
          name: this.name().trim(),
          kind: this.kind(),
        }),
      );
  }
}

import { Component, computed, input, signal } from '@angular/core';
import { type PastReading, readReadings } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectMeters, meterAsOf } from '../../state/meters';
import { SAYS_WHEN } from '../../state/when';
import { Choices } from '../../ui/choices';
import { AreaField } from '../../ui/area-field';
import { FileField } from '../../ui/file-field';
import { RecordButton } from '../../ui/record-button';
import { Select } from '../../ui/select';
import { Refusal } from '../../ui/refusal';
import { TypedBeforeNote } from '../../ui/typed-before';
import { FormField } from '@angular/forms/signals';

/** Entries that go together at most: a reading can be two. */
const MOST = 60;

/** Readings of past days, from a notebook or a sheet: pasted or chosen, looked at line by line, recorded together. */
@Component({
  selector: 'ct-past-readings',
  imports: [Choices, AreaField, FileField, FormField, RecordButton, Refusal, Select, TypedBeforeNote],
  // Each line has its own moment.
  providers: [{ provide: SAYS_WHEN, useValue: true }],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <p class="soft small">
        A line each: day, time, pH, °C. A first line of names puts them in any order; “12 Nov 8:15”, “yesterday 17:40”
        and °F are understood. A sheet can be pasted as it is.
      </p>
      <ct-area
        label="Readings, a line each"
        [rows]="6"
        placeholder="12 Nov, 8:15, 5.20, 18&#10;13 Nov, 18:30, 4.70, 17.5"
        [formField]="form.fields.text"
      />
      <div class="row">
        <ct-file
          label="Or from a file"
          accept=".csv,.xlsx,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
          (chosen)="chosen($event)"
        />
        <ct-choices
          label="Sample of these readings"
          [options]="samples"
          [value]="form.values.sample()"
          (picked)="form.values.sample.set($event)"
        />
        @if (meterOptions().length > 0) {
          <ct-select
            label="Read by"
            [options]="meterOptions()"
            empty="nobody knows"
            [value]="form.values.meterId() || null"
            (valueChange)="form.values.meterId.set($event || '')"
          />
        }
      </div>
      <p class="soft small">{{ counts() }}</p>
      <ct-refusal [message]="unread() ?? form.problem()" />
      @if (readings().length > 0) {
        <table class="book" aria-label="As they were understood">
          <thead>
            <tr>
              <th class="right">Line</th>
              <th>When</th>
              <th class="right">pH</th>
              <th class="right">°C</th>
              <th>To be mended</th>
            </tr>
          </thead>
          <tbody>
            @for (one of readings(); track one.line) {
              <tr [class.bad]="one.errors.length > 0">
                <td class="right figure">{{ one.line }}</td>
                <td class="figure">{{ one.at === null ? one.said : moment(one.at) }}</td>
                <td class="right figure">{{ one.ph?.toFixed(2) ?? '–' }}</td>
                <td class="right figure">{{ one.celsius?.toFixed(1) ?? '–' }}</td>
                <td>{{ one.errors.join(' ') }}</td>
              </tr>
            }
          </tbody>
        </table>
      }
      <div>
        <button
          class="go"
          [ctRecord]="form"
          [needs]="[
            readings().length === 0 && 'the readings',
            wrong() > 0 && (wrong() === 1 ? 'a line to be mended' : wrong() + ' lines to be mended'),
            entries() > most && 'fewer at once: ' + most + ' figures at most',
          ]"
        >
          {{ readings().length === 0 ? 'Record past readings' : 'Record ' + figures() }}
        </button>
      </div>
    </form>
  `,
  styles: '.bad td { background: var(--mustard-wash); }',
})
export class PastReadings {
  readonly lotId = input.required<string>();
  /** When it was filled. */
  readonly from = input.required<string>();
  private readonly house = injectHouse();
  protected readonly most = MOST;
  protected readonly samples = [
    ['blended', 'Blended'],
    ['brine', 'Brine only'],
  ] as const;
  protected readonly form = recordingForm('past readings', {
    fields: { text: '', sample: 'blended' as 'blended' | 'brine', meterId: '' },
    about: this.lotId,
    recorded: () => this.form.values.text.set(''),
  });
  /** What a file held goes into the field, where it can be mended. */
  protected readonly unread = signal<string | null>(null);
  protected readonly readings = computed((): PastReading[] =>
    readReadings({
      rows: rowsOf(this.form.values.text()),
      now: Date.now(),
      from: Date.parse(this.from()),
      timeZone: this.house.house()?.timeZone ?? 'UTC',
      ...(this.house.house() ? { decimalMark: this.house.house()!.decimalMark } : {}),
    }),
  );
  protected readonly wrong = computed(() => this.readings().filter(({ errors }) => errors.length > 0).length);
  protected readonly entries = computed(() =>
    this.readings().reduce((sum, { ph, celsius }) => sum + (ph === null ? 0 : 1) + (celsius === null ? 0 : 1), 0),
  );
  protected readonly figures = computed(() => {
    const [phs, degrees] = [
      this.readings().filter(({ ph }) => ph !== null).length,
      this.readings().filter(({ celsius }) => celsius !== null).length,
    ];
    return [phs > 0 && `${phs} pH`, degrees > 0 && `${degrees} °C`].filter(Boolean).join(', ');
  });
  private readonly meters = injectMeters();
  protected readonly meterOptions = computed(() =>
    this.meters.all().map(({ meterId, tag, name }) => ({ id: meterId, label: `${tag}, ${name}` })),
  );
  /** How many of them can open anything: a blended sample, by a meter that was fit when it read. */
  protected readonly counts = computed(() => {
    const meter = this.meters.all().find(({ meterId }) => meterId === this.form.values.meterId());
    if (!meter || this.form.values.sample() === 'brine')
      return 'For watching: a limit asks for blended samples, by a meter that was calibrated before them.';
    const phs = this.readings().filter(({ ph, at }) => ph !== null && at !== null);
    const fit = phs.filter(({ at, ph }) => meterAsOf(meter, at!, ph!).fit).length;
    if (phs.length === 0) return 'Each counts where the meter was fit for release then.';
    return fit === phs.length
      ? `${meter.tag} was fit for release at every one of them.`
      : `${meter.tag} was fit for release at ${fit === 0 ? 'none' : fit} of these ${phs.length} pH: ${fit === 0 ? 'they' : 'the others'} are for watching.`;
  });
  protected readonly moment = (at: number): string => this.house.dates().moment(new Date(at).toISOString());

  protected async chosen(file: File): Promise<void> {
    this.unread.set(null);
    const { readTable } = await import('../stores/read-table');
    const rows = await readTable(file).catch(() => null);
    if (!rows) return this.unread.set(`${file.name} cannot be read. A CSV file or an XLSX workbook is.`);
    this.form.values.text.set(rows.map((cells) => cells.join('; ')).join('\n'));
  }

  protected record(): void {
    if (this.wrong() > 0) return;
    const [lotId, meterId] = [this.lotId(), this.form.values.meterId()];
    // Oldest first, as they were read. What lies off the trend is kept, and marked: it cannot be read again now.
    const inOrder = [...this.readings()].sort((a, b) => a.at! - b.at!);
    this.form.record(
      ...inOrder.flatMap(({ at, ph, celsius }) => [
        ...(ph === null
          ? []
          : [
              this.form.entry(
                'ph.read',
                {
                  lotId,
                  ph,
                  sample: this.form.values.sample(),
                  confirmedJump: true,
                  ...(meterId ? { meterId, sampleCelsius: null } : {}),
                },
                new Date(at!),
              ),
            ]),
        ...(celsius === null ? [] : [this.form.entry('temperature.read', { lotId, celsius }, new Date(at!))]),
      ]),
    );
  }
}

/**
 * Cells of what was pasted: by tabs as a sheet gives them, by semicolons, or by commas with a blank behind them, which no
 * decimal comma has.
 */
function rowsOf(text: string): string[][] {
  return text.split(/\r?\n/).map((line) => {
    const by = line.includes('\t') ? /\t/ : line.includes(';') ? /;/ : /,(?=\s|[^\d])|(?<=[^\d]),|\|/;
    return line.split(by).map((cell) => cell.trim());
  });
}

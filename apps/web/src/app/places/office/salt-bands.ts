import { Component, computed, signal } from '@angular/core';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { BAND_SCALES, FORM_KEYS, FORMS, type BandScale, type Form, type HouseSaltBand } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { FigureInput } from '../../ui/figure-input';
import { Refusal } from '../../ui/refusal';

const SCALE_NAMES: Record<BandScale, string> = {
  waterPhase: 'water phase',
  ofEverything: 'everything',
  ofVegetable: 'vegetable',
};

/** The house's own salt bands by form of product: under one it softens, above it slows. The trade's bands stay beside them. */
@Component({
  selector: 'ct-salt-bands',
  imports: [Choices, FigureInput, Refusal, RecordButton],
  template: `
    <section class="rule stack">
      <h2>Salt, as this house wants it</h2>
      <p class="soft small">
        The trade’s bands stand on the water phase: under 1.5 % weak, to 1.8 % caution, to 4 % usual, to 8 % slow. A
        house may want its own by form of product, on the scale it compares by.
      </p>
      <table class="book">
        <thead>
          <tr>
            <th>Form</th>
            <th>Of what</th>
            <th class="right">From, to</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.form) {
            <tr>
              <td>{{ row.words }}</td>
              <td>
                <ct-choices
                  [label]="row.words + ': of what'"
                  [options]="scales"
                  [words]="scaleWords"
                  [disabled]="!rights.isOwner()"
                  [value]="row.on"
                  (picked)="set(row.form, { on: $event })"
                />
              </td>
              <td>
                <span class="row"
                  ><ct-figure
                    [label]="'from'"
                    kind="percent"
                    [least]="0"
                    [most]="0.2"
                    [value]="row.least"
                    (valueChange)="set(row.form, { least: $event })" /><ct-figure
                    [label]="'to'"
                    kind="percent"
                    [least]="0"
                    [most]="0.2"
                    [value]="row.most"
                    (valueChange)="set(row.form, { most: $event })"
                /></span>
              </td>
              <td>
                @if (rights.isOwner() && row.kept) {
                  <button type="button" (click)="takeAway(row.form)">None</button>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (rights.isOwner()) {
        <div>
          <button type="button" [ctRecord]="form" [needs]="[!changed() && 'a change']" (click)="keep()">
            Keep these bands
          </button>
        </div>
      }
      <ct-refusal [message]="form.problem()" />
    </section>
  `,
  styles:
    ':host { --figure-width: 96px; } td { vertical-align: middle; } td .row { flex-wrap: nowrap; } td ct-choices { white-space: nowrap; }',
})
export class SaltBands {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly scales = BAND_SCALES;
  protected readonly scaleWords = SCALE_NAMES;
  private readonly typed = signal<
    Partial<Record<Form, Partial<{ on: BandScale; least: number | null; most: number | null }>>>
  >({});
  protected readonly form = recordingForm('salt bands', () => this.typed.set({}));
  private readonly kept = computed(() => this.house.house()?.settings.saltBands ?? {});
  protected readonly rows = computed(() =>
    FORM_KEYS.map((form) => {
      const kept = this.kept()[form];
      return {
        form,
        words: FORMS[form].words,
        on: kept?.on ?? ('waterPhase' as BandScale),
        least: kept?.least ?? null,
        most: kept?.most ?? null,
        ...this.typed()[form],
        kept: kept !== undefined,
      };
    }),
  );
  /** A band is kept when both its ends stand. */
  protected readonly changed = computed(() =>
    this.rows().some(({ form, least, most }) => this.typed()[form] !== undefined && least !== null && most !== null),
  );

  protected set(form: Form, value: Partial<{ on: BandScale; least: number | null; most: number | null }>): void {
    this.form.edited();
    this.typed.update((typed) => ({ ...typed, [form]: { ...typed[form], ...value } }));
  }

  protected keep(): void {
    this.send(
      Object.fromEntries(
        this.rows().flatMap(({ form, on, least, most }) =>
          least !== null && most !== null ? [[form, { on, least, most }]] : [],
        ),
      ),
    );
  }

  protected takeAway(form: Form): void {
    this.send(Object.fromEntries(Object.entries(this.kept()).filter(([key]) => key !== form)));
  }

  private send(saltBands: Partial<Record<Form, HouseSaltBand>>): void {
    this.form.record(this.form.entry('house.set', { saltBands }));
  }
}

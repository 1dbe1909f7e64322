import { Component, computed, effect, input, output, signal } from '@angular/core';
import { formatPercent, type Yields, type YieldSources } from '@clear-tally/core';
import type { FormulaReply } from '@clear-tally/contract';
import { FigureInput } from '../../../ui/figure-input';
import { Tick } from '../../../ui/tick';

export interface ChosenYields {
  readonly values: Yields;
  readonly sources: YieldSources;
}
const KEYS = ['trim', 'ferment', 'pack'] as const;
type Key = (typeof KEYS)[number];

/** Each yield as the formula has it, as the last lots gave it, or as typed here; what is in force says where it comes from. */
@Component({
  selector: 'ct-yields',
  imports: [FigureInput, Tick],
  template: `
    <details>
      <summary>Yields: {{ rows()[0]!.own }} trim, {{ rows()[1]!.own }} ferment, {{ rows()[2]!.own }} pack</summary>
      <table class="book">
        <thead>
          <tr>
            <th>Yield</th>
            <th>Formula</th>
            <th>The house’s last lots</th>
            <th>Typed</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.key) {
            <tr>
              <td>{{ row.key }}</td>
              <td class="figure">{{ row.own }}</td>
              <td>
                @if (row.past) {
                  <ct-tick [value]="fromPast().has(row.key)" (valueChange)="toggle(row.key, $event)">{{
                    row.past
                  }}</ct-tick>
                } @else {
                  <span class="soft">no lots yet</span>
                }
              </td>
              <td>
                <ct-figure
                  [label]="row.key + ' yield'"
                  kind="percent"
                  [least]="0.01"
                  [most]="1"
                  [value]="typed()[row.key] ?? null"
                  (valueChange)="type(row.key, $event)"
                />
              </td>
            </tr>
          }
        </tbody>
      </table>
    </details>
  `,
  styles:
    'summary { cursor: pointer; min-height: 40px; padding: 8px 0; color: var(--soft); } ct-figure { --figure-width: 130px; } .tick { display: inline-flex; gap: 8px; align-items: center; min-height: 48px; margin: 0; color: var(--ink); } .tick input { width: 24px; height: 24px; accent-color: var(--brine); }',
})
export class YieldsChoice {
  readonly formula = input.required<FormulaReply>();
  readonly chosen = output<ChosenYields>();
  protected readonly typed = signal<Readonly<Partial<Record<Key, number | null>>>>({});
  protected readonly fromPast = signal<ReadonlySet<Key>>(new Set());
  protected readonly rows = computed(() =>
    KEYS.map((key) => {
      const past = this.formula().learned[key];
      return {
        key,
        own: formatPercent(this.formula().yields[key], 0),
        past:
          past &&
          `${formatPercent(past.median, 0)}, median of ${past.lots} ${past.lots === 1 ? 'lot' : 'lots'}, ${formatPercent(past.least, 0)} to ${formatPercent(past.most, 0)}`,
      };
    }),
  );

  constructor() {
    effect(() => {
      const { yields, learned } = this.formula();
      const values: Record<Key, number> = { trim: yields.trim, ferment: yields.ferment, pack: yields.pack };
      const sources: Partial<Record<Key, string>> = {};
      for (const key of KEYS) {
        const typed = this.typed()[key];
        const past = learned[key];
        if (typed) {
          values[key] = typed;
          sources[key] = 'typed here';
        } else if (past && this.fromPast().has(key)) {
          values[key] = past.median;
          sources[key] =
            `median of the last ${past.lots} lots, ${formatPercent(past.least, 0)} to ${formatPercent(past.most, 0)}`;
        }
      }
      this.chosen.emit({
        values: { ...values, ...(yields.finish === undefined ? {} : { finish: yields.finish }) },
        sources,
      });
    });
  }

  protected toggle(key: Key, on: boolean): void {
    this.fromPast.update((keys) => new Set(on ? [...keys, key] : [...keys].filter((one) => one !== key)));
  }

  protected type(key: Key, value: number | null): void {
    this.typed.update((yields) => ({ ...yields, [key]: value }));
  }
}

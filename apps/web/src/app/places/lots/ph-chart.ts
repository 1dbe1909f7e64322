import { Component, computed, DestroyRef, effect, ElementRef, inject, input, viewChild } from '@angular/core';
import { Chart, LinearScale, LineController, LineElement, PointElement, type ChartConfiguration } from 'chart.js';
import type { BookLine } from '@clear-tally/contract';

Chart.register(LinearScale, LineController, LineElement, PointElement);

const DAY = 86_400_000;
const INK = '#1b2a2f';
const HAIR = '#c9d1cf';
const BEET = '#8a1c4a';
const STEEL = '#3b5b8c';

/** A letter's share of the chart's width, in per cent: rather too wide than two words on each other. */
const LETTER_SHARE = 0.95;

/** pH over the days since filling, with the house limit; temperature beneath it on its own scale. */
@Component({
  selector: 'ct-ph-chart',
  template: `
    <figure>
      <div>
        @for (one of placed(); track $index) {
          <span
            class="event"
            [class.beet]="one.grave"
            [style.left.%]="one.ends ? null : one.at"
            [style.right.%]="one.ends ? 100 - one.at : null"
            >{{ one.words }}</span
          >
        }
        <canvas #canvas role="img" [attr.aria-label]="words()"></canvas>
      </div>
      <figcaption class="small soft">
        <span class="ink">● pH</span> <span class="beet">— house limit {{ limit() }}</span>
        @if (deadline(); as d) {
          <span class="beet">┆ 4.6 due by day {{ d.toFixed(1) }}</span>
        }
        <span class="steel">● °C, right</span> · days since filling
      </figcaption>
    </figure>
  `,
  styles:
    'figure { display: grid; gap: 4px; } div { position: relative; height: 240px; min-width: 0; padding-top: 16px; overflow: hidden; } .event { position: absolute; top: 0; font-size: 14px; color: var(--soft); white-space: nowrap; margin: 0; } .ink { color: var(--ink); } .steel { color: var(--steel); } figcaption span { margin-right: 14px; }',
})
export class PhChart {
  readonly lines = input.required<readonly BookLine[]>();
  readonly from = input.required<string>();
  readonly limit = input.required<number>();
  /** Days after filling by which 4.6 has to be reached. */
  readonly deadline = input<number | null>(null);
  /** What happened, days after filling. */
  readonly events = input<readonly { day: number; words: string; grave: boolean }[]>([]);
  private readonly last = computed(() =>
    Math.max(
      1,
      ...this.ph().map((point) => point.x),
      ...this.celsius().map((point) => point.x),
      ...this.events().map(({ day }) => day),
      Math.min(this.deadline() ?? 0, 12),
    ),
  );
  /** Words over the chart, at their day, within its edges; those that would lie on others are left to the book. */
  protected readonly placed = computed(() => {
    let free = 0;
    return [...this.events()]
      .sort((a, b) => a.day - b.day)
      .flatMap((one) => {
        const at = 5 + (one.day / Math.ceil(this.last())) * 88;
        const wide = one.words.length * LETTER_SHARE;
        const ends = at + wide > 100;
        const from = ends ? at - wide : at;
        if (from < free) return [];
        free = from + wide + 2;
        return [{ ...one, at, ends }];
      });
  });
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart<'line', { x: number; y: number }[]> | null = null;

  private readonly points = (kind: string): { x: number; y: number }[] =>
    this.lines()
      .filter((line) => line.kind === kind)
      .map((line) => ({ x: (Date.parse(line.at) - Date.parse(this.from())) / DAY, y: line.value! }))
      .sort((a, b) => a.x - b.x);
  private readonly ph = computed(() => this.points('ph.read'));
  private readonly celsius = computed(() => this.points('temperature.read'));
  protected readonly words = computed(() => {
    const last = this.ph().at(-1);
    return `${this.ph().length} pH readings${last ? `, last ${last.y.toFixed(2)} on day ${Math.floor(last.x)}` : ''}; house limit ${this.limit()}`;
  });

  constructor() {
    effect(() => {
      const config = this.config();
      this.chart?.destroy();
      this.chart = new Chart(this.canvas().nativeElement, config);
    });
    inject(DestroyRef).onDestroy(() => this.chart?.destroy());
  }

  private config(): ChartConfiguration<'line', { x: number; y: number }[]> {
    const last = this.last();
    const upright = (x: number, color: string, dash: number[]) => ({
      data: [
        { x, y: 3 },
        { x, y: 6.5 },
      ],
      borderColor: color,
      borderWidth: 1.4,
      borderDash: dash,
      pointRadius: 0,
      yAxisID: 'y',
    });
    const font = { family: 'Atkinson Hyperlegible Mono Variable', size: 14 };
    return {
      type: 'line',
      data: {
        datasets: [
          {
            data: this.ph(),
            borderColor: INK,
            backgroundColor: '#fff',
            borderWidth: 2,
            pointRadius: 5,
            pointBorderWidth: 2,
            yAxisID: 'y',
          },
          {
            data: [
              { x: 0, y: this.limit() },
              { x: last, y: this.limit() },
            ],
            borderColor: BEET,
            borderWidth: 2,
            pointRadius: 0,
            yAxisID: 'y',
          },
          ...(this.deadline() === null
            ? []
            : [
                {
                  ...upright(this.deadline()!, BEET, [3, 4]),
                  data: [
                    { x: this.deadline()!, y: 4.2 },
                    { x: this.deadline()!, y: 5 },
                  ],
                },
              ]),
          ...this.events().map(({ day, grave }) => upright(day, grave ? BEET : HAIR, [2, 3])),
          {
            data: this.celsius(),
            borderColor: STEEL,
            backgroundColor: STEEL,
            borderWidth: 1.2,
            pointRadius: 2.5,
            yAxisID: 'celsius',
          },
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        events: [],
        scales: {
          x: {
            type: 'linear',
            min: 0,
            max: Math.ceil(last),
            grid: { display: false },
            ticks: { font, color: INK, precision: 0 },
            border: { color: INK },
          },
          y: {
            min: 3,
            suggestedMax: 6.5,
            grid: { color: HAIR },
            ticks: { font, color: INK, stepSize: 1 },
            border: { display: false },
          },
          celsius: {
            position: 'right',
            suggestedMin: 0,
            suggestedMax: 40,
            grid: { display: false },
            ticks: { font, color: STEEL, maxTicksLimit: 5 },
            border: { display: false },
          },
        },
      },
    };
  }
}

import { Component, computed, DestroyRef, effect, ElementRef, inject, input, viewChild } from '@angular/core';
import { Chart, LinearScale, LineController, LineElement, PointElement, type ChartConfiguration } from 'chart.js';
import type { BookLine } from '@clear-tally/contract';

Chart.register(LinearScale, LineController, LineElement, PointElement);

const DAY = 86_400_000;
const INK = '#1b2a2f';
const HAIR = '#c9d1cf';
const BEET = '#8a1c4a';
const STEEL = '#3b5b8c';

/** pH over the days since filling, with the house limit; temperature beneath it on its own scale. */
@Component({
  selector: 'ct-ph-chart',
  template: `
    <figure>
      <div><canvas #canvas role="img" [attr.aria-label]="words()"></canvas></div>
      <figcaption class="small soft"><span class="ink">● pH</span> <span class="beet">— house limit {{ limit() }}</span> <span class="steel">● °C, right</span> · days since filling</figcaption>
    </figure>
  `,
  styles: 'figure { display: grid; gap: 4px; } div { position: relative; height: 232px; min-width: 0; } .ink { color: var(--ink); } .steel { color: var(--steel); } span { margin-right: 14px; }',
})
export class PhChart {
  readonly lines = input.required<readonly BookLine[]>();
  readonly from = input.required<string>();
  readonly limit = input.required<number>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart<'line', { x: number; y: number }[]> | null = null;

  private readonly points = (kind: string): { x: number; y: number }[] => this.lines().filter((line) => line.kind === kind)
    .map((line) => ({ x: (Date.parse(line.at) - Date.parse(this.from())) / DAY, y: line.value! })).sort((a, b) => a.x - b.x);
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
    const last = Math.max(1, ...this.ph().map((point) => point.x), ...this.celsius().map((point) => point.x));
    const font = { family: 'Atkinson Hyperlegible Mono Variable', size: 14 };
    return {
      type: 'line',
      data: {
        datasets: [
          { data: this.ph(), borderColor: INK, backgroundColor: '#fff', borderWidth: 2, pointRadius: 5, pointBorderWidth: 2, yAxisID: 'y' },
          { data: [{ x: 0, y: this.limit() }, { x: last, y: this.limit() }], borderColor: BEET, borderWidth: 2, pointRadius: 0, yAxisID: 'y' },
          { data: this.celsius(), borderColor: STEEL, backgroundColor: STEEL, borderWidth: 1.2, pointRadius: 2.5, yAxisID: 'celsius' },
        ],
      },
      options: {
        animation: false, responsive: true, maintainAspectRatio: false, events: [],
        scales: {
          x: { type: 'linear', min: 0, max: Math.ceil(last), grid: { display: false }, ticks: { font, color: INK, precision: 0 }, border: { color: INK } },
          y: { min: 3, suggestedMax: 6.5, grid: { color: HAIR }, ticks: { font, color: INK, stepSize: 1 }, border: { display: false } },
          celsius: { position: 'right', suggestedMin: 0, suggestedMax: 40, grid: { display: false }, ticks: { font, color: STEEL, maxTicksLimit: 5 }, border: { display: false } },
        },
      },
    };
  }
}

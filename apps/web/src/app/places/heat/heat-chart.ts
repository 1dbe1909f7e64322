import { Component, computed, DestroyRef, effect, ElementRef, inject, input, viewChild } from '@angular/core';
import { Chart, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import type { HeatPoint } from '@clear-tally/core';

Chart.register(LinearScale, LineController, LineElement, PointElement);

/** The course of one load at its cold spot, with the temperature of its process. */
@Component({
  selector: 'ct-heat-chart',
  template: '<canvas #canvas role="img" [attr.aria-label]="words()"></canvas>',
  styles: ':host { display: block; position: relative; height: 190px; min-width: 0; }',
})
export class HeatChart {
  readonly points = input.required<readonly HeatPoint[]>();
  readonly processC = input.required<number>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart<'line', { x: number; y: number }[]> | null = null;
  protected readonly words = computed(() => {
    const all = this.points().map(({ celsius }) => celsius);
    return `Temperature over ${this.points().at(-1)?.minute ?? 0} minutes: ${Math.min(...all)} to ${Math.max(...all)} °C; the process holds ${this.processC()} °C`;
  });

  constructor() {
    effect(() => {
      const [points, processC] = [this.points(), this.processC()];
      const last = points.at(-1)?.minute ?? 1;
      const font = { family: 'Atkinson Hyperlegible Mono Variable', size: 14 };
      this.chart?.destroy();
      this.chart = new Chart(this.canvas().nativeElement, {
        type: 'line',
        data: {
          datasets: [
            {
              data: points.map(({ minute, celsius }) => ({ x: minute, y: celsius })),
              borderColor: '#1b2a2f',
              backgroundColor: '#fff',
              borderWidth: 2,
              pointRadius: points.length > 60 ? 0 : 3,
            },
            {
              data: [
                { x: 0, y: processC },
                { x: last, y: processC },
              ],
              borderColor: '#8a1c4a',
              borderWidth: 1.4,
              pointRadius: 0,
            },
          ],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          events: [],
          scales: {
            x: { type: 'linear', min: 0, max: last, ticks: { font, callback: (value) => `${value} min` } },
            y: { type: 'linear', ticks: { font, callback: (value) => `${value} °C` } },
          },
        },
      });
    });
    inject(DestroyRef).onDestroy(() => this.chart?.destroy());
  }
}

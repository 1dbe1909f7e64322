import { Component, computed, input } from '@angular/core';

export interface DrawnVessel {
  readonly shape: 'crock' | 'drum' | 'glass' | 'barrel' | 'bag' | 'pan';
  readonly closure: string;
  readonly brimMl: number;
  /** Contents over brim. */
  readonly fill: number;
  readonly hold: boolean;
  readonly formulaNumber: number | null;
}

/** Colour of the contents by formula: a glance tells what stands where; the name says it. */
const CONTENTS = ['#b9b7a8', '#b7cf97', '#e3dbe8', '#6f8f4f', '#d39b3a', '#bcc56f', '#94b98a', '#86a77b', '#d9c39a'];

/** Width and height over the cube root of the volume. */
const PROPORTIONS = {
  crock: { w: 0.98, h: 1.05 },
  drum: { w: 0.82, h: 1.12 },
  glass: { w: 0.86, h: 1.12 },
  barrel: { w: 0.98, h: 1.12 },
  bag: { w: 1.1, h: 0.75 },
  // Where work is finished: wide, low, with an ear on each side.
  pan: { w: 1.32, h: 0.72 },
} as const;

/** How wide a vessel is drawn, pixels. */
export const drawnWidth = ({ shape, brimMl }: Pick<DrawnVessel, 'shape' | 'brimMl'>, scale: number): number =>
  Math.round(Math.cbrt(brimMl / 1000) * scale * PROPORTIONS[shape].w) + 2;

let drawn = 0;

/**
 * A vessel in profile, to one scale for the whole row: real fill height, headspace, weight line.
 * Width and height follow the cube root of the volume.
 */
@Component({
  selector: 'ct-vessel-drawing',
  template: `
    <svg
      [attr.width]="size().w"
      [attr.height]="size().h"
      [attr.viewBox]="'0 0 ' + size().w + ' ' + size().h"
      aria-hidden="true"
    >
      <defs>
        <clipPath [attr.id]="clip"><path [attr.d]="outline()" /></clipPath>
        <pattern
          [attr.id]="clip + 'h'"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="3" height="7" fill="var(--beet)" />
        </pattern>
      </defs>
      <g [attr.clip-path]="'url(#' + clip + ')'">
        <rect x="0" y="0" [attr.width]="size().w" [attr.height]="size().h" [attr.fill]="emptiness()" />
        <rect x="0" [attr.y]="level()" [attr.width]="size().w" [attr.height]="size().h" [attr.fill]="contents()" />
        @if (vessel().hold) {
          <rect
            x="0"
            [attr.y]="level()"
            [attr.width]="size().w"
            [attr.height]="size().h"
            [attr.fill]="'url(#' + clip + 'h)'"
          />
        }
        <rect
          [attr.x]="size().w * 0.22"
          [attr.y]="level() + 2"
          [attr.width]="size().w * 0.56"
          height="3.5"
          fill="var(--ink)"
        />
      </g>
      <path [attr.d]="outline()" fill="none" stroke="var(--ink)" stroke-width="1.6" />
      @if (vessel().closure === 'airlock') {
        <path [attr.d]="airlock()" fill="none" stroke="var(--ink)" stroke-width="1.5" />
      }
    </svg>
  `,
  styles: ':host { display: inline-flex; align-items: flex-end; } rect { transition: y 0.4s; }',
})
export class VesselDrawing {
  readonly vessel = input.required<DrawnVessel>();
  /** Pixels per cube root of a litre. */
  readonly scale = input(15);

  protected readonly clip = `vessel-${(drawn += 1)}`;
  protected readonly size = computed(() => {
    const { brimMl, shape } = this.vessel();
    const edge = Math.cbrt(brimMl / 1000) * this.scale();
    const { h } = PROPORTIONS[shape];
    return { w: drawnWidth(this.vessel(), this.scale()), h: Math.round(edge * h) + 2 + this.top };
  });
  protected readonly outline = computed(() => {
    const { w, h } = this.size();
    const t = this.top;
    const [l, r, b] = [1, w - 1, h - 1];
    switch (this.vessel().shape) {
      case 'crock':
        return `M${l + w * 0.1} ${t}H${r - w * 0.1}C${r + 1} ${t + h * 0.25} ${r} ${b - h * 0.2} ${r - w * 0.13} ${b}H${l + w * 0.13}C${l} ${b - h * 0.2} ${l - 1} ${t + h * 0.25} ${l + w * 0.1} ${t}Z`;
      case 'drum':
        return `M${l} ${t}H${r}V${b}H${l}Z`;
      case 'glass':
        return `M${l + w * 0.2} ${t}H${r - w * 0.2}V${t + h * 0.12}L${r} ${t + h * 0.3}V${b - 3}Q${r} ${b} ${r - 3} ${b}H${l + 3}Q${l} ${b} ${l} ${b - 3}V${t + h * 0.3}L${l + w * 0.2} ${t + h * 0.12}Z`;
      case 'barrel':
        return `M${l + w * 0.12} ${t}H${r - w * 0.12}Q${r + w * 0.06} ${(t + b) / 2} ${r - w * 0.12} ${b}H${l + w * 0.12}Q${l - w * 0.06} ${(t + b) / 2} ${l + w * 0.12} ${t}Z`;
      case 'pan':
        return `M${l} ${t + h * 0.1}H${l + w * 0.08}V${t}H${r - w * 0.08}V${t + h * 0.1}H${r}V${t + h * 0.2}H${r - w * 0.08}V${b - 4}Q${r - w * 0.08} ${b} ${r - w * 0.08 - 4} ${b}H${l + w * 0.08 + 4}Q${l + w * 0.08} ${b} ${l + w * 0.08} ${b - 4}V${t + h * 0.2}H${l}Z`;
      case 'bag':
        return `M${l + w * 0.1} ${t}H${r - w * 0.1}Q${r} ${t + h * 0.4} ${r - w * 0.04} ${b}H${l + w * 0.04}Q${l} ${t + h * 0.4} ${l + w * 0.1} ${t}Z`;
    }
  });
  protected readonly level = computed(() => {
    const { h } = this.size();
    return this.top + (h - this.top) * (1 - Math.min(1, Math.max(0, this.vessel().fill)));
  });
  protected readonly contents = computed(() => CONTENTS[this.vessel().formulaNumber ?? 0] ?? CONTENTS[0]);
  protected readonly emptiness = computed(
    () =>
      ({ crock: '#d9d0c4', barrel: '#d8c3a0', drum: '#edf2f1', glass: '#edf5f5', bag: '#edf2f1', pan: '#e6e9ea' })[
        this.vessel().shape
      ],
  );
  protected readonly airlock = computed(() => {
    const x = this.size().w * 0.55;
    return `M${x} ${this.top}v-6h4v-4`;
  });

  private readonly top = 10;
}

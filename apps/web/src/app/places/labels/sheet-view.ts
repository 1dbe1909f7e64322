import { Component, computed, input, output } from '@angular/core';
import type { LabelPreview } from '@clear-tally/contract';
import { jarCode, type LabelDesign, labelPlace, labelsPerPage } from '@clear-tally/core';

/** Ascent of the label's face, of its size. */
export const ASCENT = 0.95;
export const MM_PER_POINT = 25.4 / 72;

/** A page of labels, true to scale between its rulers; a place is touched to begin there. */
@Component({
  selector: 'ct-sheet-view',
  template: `
    <svg
      [attr.viewBox]="box()"
      role="img"
      [attr.aria-label]="'A page of ' + each() + ' labels, true to scale; ' + shown().length + ' of this run on it'"
    >
      <g class="ruler" aria-hidden="true">
        @for (mm of across(); track mm) {
          <path [attr.d]="'M' + mm + ' -2v' + (mm % 20 === 0 ? -4 : -2)" />
          @if (mm % 20 === 0) {
            <text [attr.x]="mm" y="-7.5" text-anchor="middle">{{ mm }}</text>
          }
        }
        @for (mm of down(); track mm) {
          <path [attr.d]="'M-2 ' + mm + 'h' + (mm % 20 === 0 ? -4 : -2)" />
          @if (mm % 20 === 0 && mm > 0) {
            <text x="-7" [attr.y]="mm + 1.2" text-anchor="end">{{ mm }}</text>
          }
        }
      </g>
      <rect
        class="page"
        x="0"
        y="0"
        [attr.width]="design().paper.pageWidthMm"
        [attr.height]="design().paper.pageHeightMm"
      />
      @for (place of places(); track place.index) {
        <g [attr.transform]="'translate(' + place.xMm + ' ' + place.yMm + ')'">
          <rect
            [attr.class]="place.index < skip() ? 'used' : place.index === skip() ? 'first' : 'label'"
            [attr.width]="design().paper.widthMm"
            [attr.height]="design().paper.heightMm"
            (click)="begin.emit(place.index)"
          />
          @if (place.code; as code) {
            @for (text of preview()?.laid?.texts ?? []; track $index) {
              <text
                class="words"
                [attr.x]="text.xMm"
                [attr.y]="text.yMm + text.points * mmPerPoint * ascent"
                [attr.font-size]="text.points * mmPerPoint"
                [attr.font-weight]="text.bold ? 700 : 400"
                [textContent]="text.field === 'code' ? code : text.words"
              />
            }
            @if (preview()?.laid?.symbol; as at) {
              @if (symbol(); as picture) {
                <image [attr.href]="picture" [attr.x]="at.xMm" [attr.y]="at.yMm" [attr.width]="at.mm" />
              }
            }
          }
        </g>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      background: var(--paper);
    }
    .ruler path {
      stroke: var(--soft);
      stroke-width: 0.3;
    }
    .ruler text {
      font-size: 3.4px;
      font-family: var(--mono, monospace);
      fill: var(--soft);
    }
    .page {
      fill: #fff;
      stroke: var(--ink);
      stroke-width: 0.5;
    }
    .label,
    .first,
    .used {
      fill: transparent;
      stroke: var(--hair);
      stroke-width: 0.3;
      cursor: pointer;
    }
    .first {
      stroke: var(--teal, #0b6e6a);
      stroke-width: 0.7;
    }
    .used {
      fill: var(--hair);
      fill-opacity: 0.5;
    }
    .words {
      fill: #000;
      white-space: pre;
      pointer-events: none;
    }
    image {
      pointer-events: none;
    }
  `,
})
export class SheetView {
  readonly design = input.required<LabelDesign>();
  readonly preview = input.required<LabelPreview | null>();
  readonly run = input.required<string>();
  readonly first = input.required<number>();
  readonly last = input.required<number>();
  /** Places of the page that are used up. */
  readonly skip = input.required<number>();
  readonly begin = output<number>();
  protected readonly ascent = ASCENT;
  protected readonly mmPerPoint = MM_PER_POINT;
  protected readonly each = computed(() => labelsPerPage(this.design().paper));
  protected readonly box = computed(() => {
    const { pageWidthMm, pageHeightMm } = this.design().paper;
    return `-14 -12 ${pageWidthMm + 18} ${pageHeightMm + 16}`;
  });
  private readonly steps = (to: number): number[] => Array.from({ length: Math.floor(to / 5) + 1 }, (_, i) => i * 5);
  protected readonly across = computed(() => this.steps(this.design().paper.pageWidthMm));
  protected readonly down = computed(() => this.steps(this.design().paper.pageHeightMm));
  protected readonly symbol = computed(() => {
    const picture = this.preview()?.symbol;
    return picture ? `data:image/svg+xml;base64,${picture}` : null;
  });
  protected readonly places = computed(() =>
    Array.from({ length: this.each() }, (_, index) => {
      const serial = this.first() + index - this.skip();
      const of = index >= this.skip() && serial <= this.last() ? jarCode(this.run(), serial).text : null;
      return { index, code: of, ...labelPlace(this.design().paper, index) };
    }),
  );
  protected readonly shown = computed(() => this.places().filter(({ code }) => code !== null));
}

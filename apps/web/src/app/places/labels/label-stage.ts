import { CdkDrag, type CdkDragEnd } from '@angular/cdk/drag-drop';
import { Component, computed, type ElementRef, input, output, viewChild } from '@angular/core';
import type { LabelPreview } from '@clear-tally/contract';
import { LABEL_FIELD_WORDS, type LabelDesign, type LabelField, type LabelPlace } from '@clear-tally/core';
import { ASCENT, MM_PER_POINT } from './sheet-view';

/** What stands at a place is put on whole half millimetres. */
const half = (mm: number): number => Math.round(mm * 2) / 2;
const LINE = 1.18;
const EDGE = 2.5;

interface Box {
  readonly key: LabelField | 'symbol';
  readonly words: string;
  readonly xMm: number;
  readonly yMm: number;
  readonly wide: number;
  readonly high: number;
}

/** One label, large: each of its fields is taken by hand or by arrow keys and put where it shall stand. */
@Component({
  selector: 'ct-label-stage',
  imports: [CdkDrag],
  template: `
    <div class="stage" #stage [style.aspect-ratio]="design().paper.widthMm + ' / ' + design().paper.heightMm">
      <svg [attr.viewBox]="'0 0 ' + design().paper.widthMm + ' ' + design().paper.heightMm" aria-hidden="true">
        @for (text of preview()?.laid?.texts ?? []; track $index) {
          <text
            [attr.x]="text.xMm"
            [attr.y]="text.yMm + text.points * mmPerPoint * ascent"
            [attr.font-size]="text.points * mmPerPoint"
            [attr.font-weight]="text.bold ? 700 : 400"
            [textContent]="text.words"
          />
        }
        @if (symbol(); as picture) {
          @if (preview()?.laid?.symbol; as at) {
            <image [attr.href]="picture" [attr.x]="at.xMm" [attr.y]="at.yMm" [attr.width]="at.mm" />
          }
        }
      </svg>
      @for (box of boxes(); track box.key) {
        <button
          type="button"
          cdkDrag
          cdkDragBoundary=".stage"
          class="box"
          [class.crossed]="isCrossed(box)"
          [style.left.%]="percentX(box.xMm)"
          [style.top.%]="percentY(box.yMm)"
          [style.width.%]="percentX(box.wide)"
          [style.height.%]="percentY(box.high)"
          [attr.aria-label]="
            box.words +
            ', ' +
            half(box.xMm) +
            ' mm from the left, ' +
            half(box.yMm) +
            ' mm from the top; arrow keys move it'
          "
          (cdkDragEnded)="dropped(box, $event)"
          (keydown)="byKey(box, $event)"
        ></button>
      }
    </div>
  `,
  styles: `
    .stage {
      position: relative;
      width: 100%;
      max-width: 620px;
      background: #fff;
      border: 1px solid var(--ink);
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    text {
      fill: #000;
      white-space: pre;
    }
    .box {
      position: absolute;
      min-width: 0;
      min-height: 0;
      padding: 0;
      background: none;
      border: 1px dashed transparent;
      cursor: grab;
    }
    .box:hover,
    .box:focus-visible {
      border-color: var(--teal, #0b6e6a);
      outline-offset: 0;
    }
    .box.crossed {
      border: 2px solid var(--beet);
    }
  `,
})
export class LabelStage {
  readonly design = input.required<LabelDesign>();
  readonly preview = input.required<LabelPreview | null>();
  readonly placed = output<{ key: LabelField; place: LabelPlace }>();
  readonly symbolPlaced = output<{ xMm: number; yMm: number }>();
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  protected readonly ascent = ASCENT;
  protected readonly mmPerPoint = MM_PER_POINT;
  protected readonly half = half;
  protected readonly percentX = (mm: number): number => (mm / this.design().paper.widthMm) * 100;
  protected readonly percentY = (mm: number): number => (mm / this.design().paper.heightMm) * 100;
  private readonly crossed = computed((): readonly string[] => this.preview()?.laid.crossed ?? []);
  protected readonly isCrossed = ({ key }: Box): boolean => this.crossed().includes(key);
  protected readonly symbol = computed(() => {
    const picture = this.preview()?.symbol;
    return picture ? `data:image/svg+xml;base64,${picture}` : null;
  });

  /** Where each field can be taken: as high as its lines, as wide as they may be. */
  protected readonly boxes = computed((): Box[] => {
    const { fields, paper } = this.design();
    const laid = this.preview()?.laid;
    if (!laid) return [];
    const found = fields.flatMap(({ key, points, place }): Box[] => {
      const lines = laid.texts.filter(({ field }) => field === key);
      if (lines.length === 0) return [];
      const xMm = Math.min(...lines.map((line) => line.xMm));
      const yMm = Math.min(...lines.map((line) => line.yMm));
      const bottom = Math.max(...lines.map((line) => line.yMm)) + points * MM_PER_POINT * LINE;
      const wide = Math.min(place?.widthMm ?? paper.widthMm, paper.widthMm - EDGE - xMm);
      return [{ key, words: LABEL_FIELD_WORDS[key], xMm, yMm, wide: Math.max(2, wide), high: bottom - yMm }];
    });
    const at = laid.symbol;
    return at
      ? [...found, { key: 'symbol', words: 'Symbol', xMm: at.xMm, yMm: at.yMm, wide: at.mm, high: at.mm }]
      : found;
  });

  protected dropped(box: Box, event: CdkDragEnd): void {
    const { offsetWidth } = this.stage().nativeElement;
    const mmPerPixel = this.design().paper.widthMm / Math.max(1, offsetWidth);
    event.source.reset();
    this.put(box, box.xMm + event.distance.x * mmPerPixel, box.yMm + event.distance.y * mmPerPixel);
  }

  protected byKey(box: Box, event: KeyboardEvent): void {
    const by = event.shiftKey ? 5 : 0.5;
    const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key];
    if (!way) return;
    event.preventDefault();
    this.put(box, box.xMm + way[0]!, box.yMm + way[1]!);
  }

  private put(box: Box, x: number, y: number): void {
    const { widthMm, heightMm } = this.design().paper;
    const xMm = half(Math.min(Math.max(0, x), widthMm - 2));
    const yMm = half(Math.min(Math.max(0, y), heightMm - box.high));
    if (box.key === 'symbol') return this.symbolPlaced.emit({ xMm: Math.min(xMm, widthMm - box.wide), yMm });
    const field = this.design().fields.find(({ key }) => key === box.key);
    this.placed.emit({ key: box.key, place: { xMm, yMm, widthMm: field?.place?.widthMm ?? half(box.wide) } });
  }
}

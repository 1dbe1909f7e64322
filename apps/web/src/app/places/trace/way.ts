import { Component, computed, DestroyRef, ElementRef, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { TraceReply } from '@clear-tally/contract';
import { layWay, type PlacedNode } from './way-layout';

const PLURALS: Readonly<Record<string, string>> = {
  supply: 'supplies',
  batch: 'batches',
  preparation: 'preparations',
  fill: 'vessels',
  run: 'packing runs',
};

/** The way of a jar: lots left to right in the order of work, bands as wide as their mass; every lot leads to its book. */
@Component({
  selector: 'ct-way',
  imports: [RouterLink],
  template: `
    @let w = way();
    <div class="scroll" tabindex="0" role="group" aria-label="The way, left to right">
      <div class="canvas" [style.width.px]="w.width" [style.height.px]="w.height">
        <svg [attr.width]="w.width" [attr.height]="w.height" aria-hidden="true">
          <defs>
            <pattern id="held" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="8" height="8" fill="var(--beet-wash)" />
              <rect width="3" height="8" fill="var(--beet)" />
            </pattern>
          </defs>
          @for (flow of w.flows; track flow.key) {
            <path [attr.d]="flow.path" [attr.stroke-width]="flow.width" fill="none" stroke="#c3d6d0" />
          }
          @for (node of w.nodes; track node.id) {
            <rect
              [attr.x]="node.x"
              [attr.y]="node.y - node.height / 2"
              width="12"
              [attr.height]="node.height"
              [attr.fill]="node.node.hold ? 'url(#held)' : node.id === subject() ? 'var(--brine)' : 'var(--ink)'"
            />
          }
        </svg>
        @for (node of w.nodes; track node.id) {
          @if (node.node.folded; as many) {
            <button
              type="button"
              class="node fold"
              [style.left.px]="node.x + 16"
              [style.top.px]="node.y - 25"
              [style.max-width.px]="w.labelWidth"
              (click)="unfold.emit(node.id)"
            >
              <b>{{ many }} more {{ plural(node) }}</b
              ><small
                >{{ mass(node.node.grams) }}
                @if (node.node.hold) {
                  <span class="beet"> {{ node.node.hold }} on hold</span>
                }
                · list</small
              >
            </button>
          } @else {
            <a
              class="node"
              [class.subject]="node.id === subject()"
              [routerLink]="['/lots', node.node.code]"
              [style.left.px]="node.x + 16"
              [style.top.px]="node.y - 25"
              [style.max-width.px]="w.labelWidth"
            >
              <b>{{ head(node) }}</b><small
                ><span class="figure">{{ node.node.code }}</span> · {{ mass(node.node.grams) }}
                @if (node.node.hold) {
                  <span class="beet"> on hold</span>
                }
              </small>
            </a>
          }
        }
      </div>
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .scroll {
      overflow-x: auto;
    }
    .canvas {
      position: relative;
    }
    svg {
      position: absolute;
      inset: 0;
    }
    .node {
      position: absolute;
      display: grid;
      color: var(--ink);
      text-decoration: none;
      line-height: 1.25;
      min-height: 48px;
      align-content: center;
      padding: 0 4px;
      text-shadow:
        0 0 3px var(--paper),
        0 0 3px var(--paper),
        0 0 5px var(--paper),
        0 0 5px var(--paper);
    }
    .node b {
      font-size: 15px;
      line-height: 1.15;
      overflow-wrap: anywhere;
    }
    .node small {
      font-size: 14px;
      color: var(--soft);
      white-space: nowrap;
    }
    .node:hover b {
      text-decoration: underline;
    }
    .fold {
      border: 0;
      background: none;
      justify-items: start;
      font-weight: 400;
      padding: 0 4px;
    }
    .fold b {
      text-decoration: underline dotted;
    }
    .subject b {
      border-bottom: 4px double var(--ink);
      width: max-content;
      max-width: 100%;
    }
  `,
})
export class WayDrawing {
  readonly reply = input.required<TraceReply>();
  /** Of the page it stands on, followed as that is turned or made smaller. */
  private readonly width = signal(1236);
  /** The lot that stands for a fold: its list is wanted. */
  readonly unfold = output<string>();
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(([entry]) => this.width.set(Math.floor(entry!.contentRect.width) || 1236));
    watch.observe(host);
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }

  protected readonly plural = ({ node }: PlacedNode): string => PLURALS[node.kind] ?? 'lots';
  protected readonly way = computed(() => layWay(this.reply(), this.width()));
  protected readonly subject = computed(() => this.reply().subject.lotId);
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected head({ node }: PlacedNode): string {
    if (node.origin === 'beforeLedger') return `${node.name} (before these records)`;
    switch (node.kind) {
      case 'fill':
        return `Vessel ${node.detail}`;
      case 'run':
        return 'Packing run';
      case 'batch':
        return `Batch, ${node.name}`;
      default:
        return node.name;
    }
  }
}

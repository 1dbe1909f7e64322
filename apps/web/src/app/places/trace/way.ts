import { Component, computed, DestroyRef, ElementRef, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { TraceReply } from '@clear-tally/contract';
import { layWay, type PlacedFlow, type PlacedNode } from './way-layout';

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
            <pattern id="of-it" width="5" height="5" patternUnits="userSpaceOnUse">
              <rect width="5" height="5" fill="var(--brine-wash)" />
              <rect width="5" height="2" fill="var(--brine)" />
            </pattern>
          </defs>
          @for (flow of w.flows; track flow.key) {
            <path
              fill="none"
              [attr.d]="flow.path"
              [attr.stroke-width]="flow.width"
              [attr.stroke]="flowed(flow) ? '#c3d6d0' : '#eceeec'"
            />
          }
          @for (link of w.links; track link.key) {
            <path [attr.d]="link.path" fill="none" stroke="var(--beet)" stroke-width="2.5" stroke-dasharray="7 6" />
          }
          @for (node of w.nodes; track node.id) {
            <rect
              [attr.x]="node.x"
              [attr.y]="node.y - node.height / 2"
              width="12"
              [attr.height]="node.height"
              [attr.fill]="fill(node)"
              [attr.stroke]="node.node.carriedOver ? 'var(--beet)' : node.node.forward ? 'var(--ink)' : null"
              [attr.stroke-dasharray]="node.node.carriedOver ? '4 3' : null"
            />
          }
        </svg>
        @for (node of w.nodes; track node.id) {
          @if (node.node.folded; as many) {
            <button
              type="button"
              class="node fold"
              [class.yet]="!isReached(node)"
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
              [class.yet]="!isReached(node)"
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
    .yet b {
      color: var(--soft);
      font-weight: 400;
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
  /** What had something of the lot in it by then; null draws all of it. */
  readonly spread = input<{ readonly lots: ReadonlySet<string>; readonly by: string } | null>(null);

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

  /** Backward everything is drawn; forward what had been reached by the moment that is looked at. */
  protected isReached({ node }: PlacedNode): boolean {
    const spread = this.spread();
    return spread === null || !node.forward || spread.lots.has(node.lotId);
  }

  protected flowed(flow: PlacedFlow): boolean {
    const spread = this.spread();
    return spread === null || !this.forwards().has(flow.to) || (spread.lots.has(flow.to) && flow.at <= spread.by);
  }

  protected fill(node: PlacedNode): string {
    if (node.id === this.subject()) return node.node.hold ? 'url(#held)' : 'var(--brine)';
    if (!this.isReached(node)) return 'var(--sheet)';
    if (node.node.hold) return 'url(#held)';
    if (node.node.carriedOver) return 'var(--beet-wash)';
    return node.node.forward ? 'url(#of-it)' : 'var(--ink)';
  }

  private readonly forwards = computed(
    () => new Set(this.reply().nodes.flatMap((node) => (node.forward ? [node.lotId] : []))),
  );

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

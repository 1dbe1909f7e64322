import { Component, computed, input } from '@angular/core';

/** Light modules around a symbol, which a camera needs to find it. */
const QUIET = 3;

/** A square symbol, drawn sharp in any size, with the light edge a camera needs. */
@Component({
  selector: 'ct-symbol',
  template: `<svg [attr.viewBox]="box()" role="img" [attr.aria-label]="words()" shape-rendering="crispEdges">
    <rect [attr.x]="-quiet" [attr.y]="-quiet" width="100%" height="100%" fill="#fff" />
    <path [attr.d]="path()" fill="#000" />
  </svg>`,
  styles: ':host { display: block; } svg { width: 100%; height: 100%; }',
})
export class SymbolDrawing {
  readonly size = input.required<number>();
  /** Row by row, "1" where it is dark. */
  readonly dark = input.required<string>();
  readonly words = input.required<string>();
  protected readonly quiet = QUIET;
  protected readonly box = computed(() => {
    const wide = this.size() + 2 * QUIET;
    return `${-QUIET} ${-QUIET} ${wide} ${wide}`;
  });
  protected readonly path = computed(() =>
    [...this.dark()]
      .map((one, at) => (one === '1' ? `M${at % this.size()} ${Math.floor(at / this.size())}h1v1h-1z` : ''))
      .join(''),
  );
}

import { Directive, inject, input, TemplateRef } from '@angular/core';

/** A cell that the page draws: `<ng-template ctCell="code" let-row>…</ng-template>`. */
@Directive({ selector: 'ng-template[ctCell]' })
export class Cell {
  readonly key = input.required<string>({ alias: 'ctCell' });
  readonly template = inject<TemplateRef<{ $implicit: unknown }>>(TemplateRef);
}

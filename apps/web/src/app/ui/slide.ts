import { afterRenderEffect, Component, ElementRef, inject, input, model, ViewEncapsulation } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzSliderModule } from 'ng-zorro-antd/slider';

/** One of many steps in a row, by hand or by arrow keys; what the step means stands beside it in words. */
@Component({
  selector: 'ct-slide',
  imports: [FormsModule, NzSliderModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    <nz-slider
      nzTooltipVisible="never"
      [nzMin]="0"
      [nzMax]="last()"
      [ngModel]="at()"
      (ngModelChange)="at.set($event)"
    />
    <span class="words" aria-hidden="true">{{ words() }}</span>
  `,
  styleUrl: './slide.less',
})
export class Slide {
  readonly label = input.required<string>();
  /** The number of the last step; the first is 0. */
  readonly last = input.required<number>();
  /** What the step means. */
  readonly words = input.required<string>();
  readonly at = model.required<number>();

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // The part's handle has no role and no name: who listens would hear nothing of it.
    afterRenderEffect(() => {
      const handle = host.querySelector('.ant-slider-handle');
      const said: Record<string, string> = {
        role: 'slider',
        'aria-label': this.label(),
        'aria-valuemin': '0',
        'aria-valuemax': String(this.last()),
        'aria-valuenow': String(this.at()),
        'aria-valuetext': this.words(),
      };
      for (const [name, value] of Object.entries(said)) handle?.setAttribute(name, value);
    });
  }
}

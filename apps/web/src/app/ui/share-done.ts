import { Component, computed, input, ViewEncapsulation } from '@angular/core';
import { NzProgressModule } from 'ng-zorro-antd/progress';

/** How much of something is done, as a line that fills; its words stand beside it. */
@Component({
  selector: 'ct-share-done',
  imports: [NzProgressModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    <nz-progress
      role="progressbar"
      aria-valuemin="0"
      [attr.aria-valuemax]="of()"
      [attr.aria-valuenow]="done()"
      [attr.aria-label]="label()"
      nzStrokeLinecap="square"
      nzStrokeColor="var(--brine)"
      [nzShowInfo]="false"
      [nzStrokeWidth]="10"
      [nzPercent]="percent()"
    />
    <span class="figure">{{ done() }} of {{ of() }}</span>
  `,
  styleUrl: './share-done.less',
})
export class ShareDone {
  readonly label = input.required<string>();
  readonly done = input.required<number>();
  readonly of = input.required<number>();
  protected readonly percent = computed(() => (this.of() > 0 ? (100 * this.done()) / this.of() : 0));
}

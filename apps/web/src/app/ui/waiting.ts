import { Component, input, output, ViewEncapsulation } from '@angular/core';
import { NzSkeletonModule } from 'ng-zorro-antd/skeleton';
import type { WireProblem } from '../api/api';

/** A page that has nothing to show yet: it is read, or it could not be. */
@Component({
  selector: 'ct-waiting',
  imports: [NzSkeletonModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    @if (problem(); as said) {
      <div class="grave stack" role="alert">
        <p>{{ said.detail }}</p>
        <p><button type="button" (click)="again.emit()">Read again</button></p>
      </div>
    } @else if (loading()) {
      <div role="status">
        <span class="visually-hidden">Reading …</span>
        <nz-skeleton aria-hidden="true" [nzTitle]="false" [nzParagraph]="lines" />
      </div>
    }
  `,
  styleUrl: './waiting.less',
})
export class Waiting {
  readonly loading = input(false);
  readonly problem = input<WireProblem | null>(null);
  readonly again = output();
  protected readonly lines = { rows: 4, width: ['100%', '70%', '85%', '40%'] };
}

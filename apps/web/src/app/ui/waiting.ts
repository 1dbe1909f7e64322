import { Component, input, output } from '@angular/core';
import type { WireProblem } from '../api/api';

/** A page that has nothing to show yet: it is read, or it could not be. */
@Component({
  selector: 'ct-waiting',
  template: `
    @if (problem(); as said) {
      <div class="grave stack" role="alert">
        <p>{{ said.detail }}</p>
        <p><button type="button" (click)="again.emit()">Read again</button></p>
      </div>
    } @else if (loading()) {
      <div class="lines" role="status"><span class="visually-hidden">Reading …</span><i></i><i></i><i></i><i></i></div>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    .lines {
      display: grid;
      gap: 18px;
      padding-top: 12px;
    }
    i {
      height: 12px;
      background: var(--wash);
    }
    i:nth-child(2) {
      width: 70%;
    }
    i:nth-child(3) {
      width: 85%;
    }
    i:nth-child(4) {
      width: 40%;
    }
  `,
})
export class Waiting {
  readonly loading = input(false);
  readonly problem = input<WireProblem | null>(null);
  readonly again = output();
}

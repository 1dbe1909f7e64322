import { A11yModule } from '@angular/cdk/a11y';
import { type CdkOverlayOrigin, OverlayModule } from '@angular/cdk/overlay';
import { Component, input, output } from '@angular/core';

/**
 * Something that opens over the page beside what opened it, and holds the focus until it is closed: by Escape, by a tap
 * beside it, by its own button. What stands in it is made when it opens: put it in an `@if`.
 */
@Component({
  selector: 'ct-panel',
  imports: [A11yModule, OverlayModule],
  template: `<ng-template
    cdkConnectedOverlay
    [cdkConnectedOverlayOrigin]="origin()"
    [cdkConnectedOverlayOpen]="open()"
    (overlayOutsideClick)="closed.emit()"
    (overlayKeydown)="$event.key === 'Escape' && closed.emit()"
    (detach)="closed.emit()"
  >
    <div [class]="look()" role="dialog" [attr.aria-label]="label()" cdkTrapFocus [cdkTrapFocusAutoCapture]="true">
      <ng-content />
    </div>
  </ng-template>`,
})
export class Panel {
  readonly origin = input.required<CdkOverlayOrigin>();
  readonly open = input.required<boolean>();
  readonly label = input.required<string>();
  /** Its class: what stands in it says how it looks. */
  readonly look = input.required<string>();
  readonly closed = output();
}

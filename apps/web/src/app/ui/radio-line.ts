import { Component, input, output } from '@angular/core';

/** One of a few ways, with all its words: a line that is chosen by touching it anywhere. */
@Component({
  selector: 'ct-radio-line',
  template: `<label [class.on]="checked()"
    ><input type="radio" [name]="name()" [checked]="checked()" (change)="picked.emit()" /><ng-content
  /></label>`,
  styles: `
    :host {
      display: block;
    }
    label {
      display: flex;
      gap: 14px;
      align-items: center;
      min-height: var(--touch);
      margin: 0;
      color: var(--ink);
      font-weight: 400;
    }
    input {
      width: 26px;
      height: 26px;
      flex: none;
      accent-color: var(--brine);
    }
  `,
})
export class RadioLine {
  readonly name = input.required<string>();
  readonly checked = input(false);
  readonly picked = output();
}

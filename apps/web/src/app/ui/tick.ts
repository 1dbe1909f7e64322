import { booleanAttribute, Component, input, model, ViewEncapsulation } from '@angular/core';
import { NzCheckboxModule } from 'ng-zorro-antd/checkbox';

/** Something that is so or is not, with its words; as tall as a wet thumb. */
@Component({
  selector: 'ct-tick',
  imports: [NzCheckboxModule],
  encapsulation: ViewEncapsulation.None,
  template: `<label nz-checkbox [nzChecked]="value()" [nzDisabled]="disabled()" (nzCheckedChange)="value.set($event)"
    ><ng-content
  /></label>`,
  styleUrl: './tick.less',
})
export class Tick {
  readonly value = model(false);
  readonly disabled = input(false, { transform: booleanAttribute });
}

import { Component, input, model } from '@angular/core';
import { NzInputModule } from 'ng-zorro-antd/input';

let made = 0;

/** Several lines of words. */
@Component({
  selector: 'ct-area',
  imports: [NzInputModule],
  template: `
    <label [for]="id">{{ label() }}</label><textarea
      #field
      nz-input
      [id]="id"
      [rows]="rows()"
      [placeholder]="placeholder()"
      [value]="value()"
      (input)="value.set(field.value)"
    ></textarea>
  `,
  styles: ':host { display: block; min-width: 0; } textarea { width: 100%; }',
})
export class AreaField {
  readonly label = input.required<string>();
  readonly rows = input(2);
  readonly placeholder = input('');
  readonly value = model('');
  protected readonly id = `area-${(made += 1)}`;
}

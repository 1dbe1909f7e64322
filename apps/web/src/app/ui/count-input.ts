import { Component, input, model, output } from '@angular/core';
import { NzInputModule } from 'ng-zorro-antd/input';

let made = 0;

/** A whole number of things. */
@Component({
  selector: 'ct-count',
  imports: [NzInputModule],
  template: `
    <label [for]="id" [class.visually-hidden]="bare()">{{ label() }}</label>
    <input
      #field
      nz-input
      [id]="id"
      type="text"
      inputmode="numeric"
      autocomplete="off"
      [value]="value() ?? ''"
      (input)="typed(field.value)"
    />
  `,
  styles: ':host { display: block; width: 130px; } input { text-align: right; font-size: 22px !important; }',
})
export class CountInput {
  readonly label = input.required<string>();
  /** In a table the column's head says it; the label is for those who listen. */
  readonly bare = input(false);
  readonly value = model<number | null>(null);
  readonly edited = output();
  protected readonly id = `count-${(made += 1)}`;

  protected typed(text: string): void {
    const digits = text.trim();
    this.value.set(/^\d{1,5}$/.test(digits) ? Number(digits) : null);
    this.edited.emit();
  }
}

import { Component, ElementRef, input, model, output, viewChild } from '@angular/core';
import { NzInputModule } from 'ng-zorro-antd/input';

let made = 0;

/** A PIN or a passphrase: what is typed is not shown. */
@Component({
  selector: 'ct-secret',
  imports: [NzInputModule],
  template: `
    <label [for]="id">{{ label() }}</label><input
      #field
      nz-input
      [id]="id"
      type="password"
      [attr.inputmode]="figures() ? 'numeric' : 'text'"
      [attr.autocomplete]="autocomplete()"
      [class.big]="big()"
      [class.long]="!figures()"
      [class.wrong]="wrong()"
      [attr.aria-invalid]="wrong() ? true : null"
      [attr.aria-describedby]="describedBy()"
      [value]="value()"
      (input)="value.set(field.value); edited.emit()"
    />
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .big {
      width: 190px;
      font-size: 26px;
      letter-spacing: 0.3em;
    }
    .big.long {
      width: 380px;
      letter-spacing: 0;
    }
  `,
})
export class SecretField {
  readonly label = input.required<string>();
  /** Figures only: the keyboard of a tablet shows them. */
  readonly figures = input(false);
  readonly big = input(false);
  readonly autocomplete = input('off');
  readonly wrong = input(false);
  readonly describedBy = input<string | null>(null);
  readonly value = model('');
  readonly edited = output();
  protected readonly id = `secret-${(made += 1)}`;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  focus(): void {
    this.field().nativeElement.focus();
  }
}

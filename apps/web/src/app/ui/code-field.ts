import { Component, ElementRef, input, model, viewChild } from '@angular/core';
import { NzInputModule } from 'ng-zorro-antd/input';

let made = 0;

/** A code of a jar, a lot or a vessel, typed or scanned: no spelling is looked at, nothing is completed. */
@Component({
  selector: 'ct-code',
  imports: [NzInputModule],
  template: `
    <label [for]="id" [class.visually-hidden]="bare()">{{ label() }}</label><input
      #field
      nz-input
      [id]="id"
      type="text"
      autocomplete="off"
      spellcheck="false"
      [placeholder]="placeholder()"
      [class.plain]="plain()"
      [class.wrong]="wrong()"
      [attr.aria-invalid]="wrong() ? true : null"
      [value]="value()"
      (input)="value.set(field.value)"
    />
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .plain {
      border: 0 !important;
      background: none !important;
      text-transform: uppercase;
      padding: 6px 2px !important;
    }
    .plain::placeholder {
      text-transform: none;
      color: var(--soft);
    }
  `,
})
export class CodeField {
  readonly label = input.required<string>();
  readonly bare = input(false);
  readonly placeholder = input('');
  readonly wrong = input(false);
  /** On a line of its own that is drawn around it. */
  readonly plain = input(false);
  readonly value = model('');
  protected readonly id = `code-${(made += 1)}`;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  focus(): void {
    this.field().nativeElement.focus();
    this.field().nativeElement.select();
  }
}

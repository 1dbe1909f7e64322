import { Component, input, output } from '@angular/core';

let made = 0;

/** A file of this device. It stays here until its page says what becomes of it; the same one can be chosen again. */
@Component({
  selector: 'ct-file',
  template: `
    <label class="button" [for]="id" [class.inactive]="disabled()">{{ label() }}</label><input
      #field
      class="visually-hidden"
      type="file"
      [id]="id"
      [accept]="accept()"
      [attr.capture]="camera() ? 'environment' : null"
      [disabled]="disabled()"
      (change)="take(field)"
    />
  `,
  styles: `
    :host {
      display: inline-block;
      position: relative;
    }
    input:focus-visible {
      outline: none;
    }
    :host:has(input:focus-visible) label {
      outline: 3px solid var(--steel);
      outline-offset: 2px;
    }
  `,
})
export class FileField {
  readonly label = input.required<string>();
  readonly accept = input('');
  /** Taken with the camera at the back, where there is one. */
  readonly camera = input(false);
  readonly disabled = input(false);
  readonly chosen = output<File>();
  protected readonly id = `file-${(made += 1)}`;

  protected take(field: HTMLInputElement): void {
    const file = field.files?.[0];
    field.value = '';
    if (file) this.chosen.emit(file);
  }
}

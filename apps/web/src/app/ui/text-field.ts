import { Component, input, model, output } from '@angular/core';
import { NzInputModule } from 'ng-zorro-antd/input';

let made = 0;

/** A line of text with its label, what was understood of it, and what stands in the way. */
@Component({
  selector: 'ct-text',
  imports: [NzInputModule],
  template: `
    <label [for]="id" [class.visually-hidden]="bare()">{{ label() }}</label>
    <span class="box" [class.wrong]="problem() || wrong()">
      <input
        #field
        nz-input
        [id]="id"
        type="text"
        autocomplete="off"
        [class.words]="!figures()"
        [class.figures]="figures()"
        [class.wrong]="problem() || wrong()"
        [attr.list]="list()"
        [placeholder]="placeholder()"
        [attr.inputmode]="figures() ? 'decimal' : null"
        [attr.aria-invalid]="problem() || wrong() ? true : null"
        [attr.aria-describedby]="id + '-say'"
        [value]="value()"
        (input)="typed(field.value)"
      />
      @if (unit()) {
        <span class="unit figure">{{ unit() }}</span>
      }
    </span>
    <span
      class="say small"
      [id]="id + '-say'"
      [class.beet]="problem()"
      [class.quiet]="!problem() && !say()"
      aria-live="polite"
      >{{ problem() ?? say() }}</span
    >
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .box {
      display: flex;
      align-items: stretch;
    }
    input {
      min-width: 0;
    }
    .figures {
      text-align: right;
      font-size: var(--field-size, inherit) !important;
    }
    input:focus-visible {
      outline: none;
    }
    .box:focus-within {
      outline: 3px solid var(--steel);
      outline-offset: 2px;
    }
    .unit {
      background: #edf1ef;
      border-bottom: 2px solid var(--ink);
      padding: 13px 10px 0 0;
      color: var(--soft);
    }
    .say {
      display: block;
      color: var(--soft);
    }
    .quiet:empty {
      display: none;
    }
  `,
})
export class TextField {
  readonly label = input.required<string>();
  /** In a table the column's head says it; the label is for those who listen. */
  readonly bare = input(false);
  readonly figures = input(false);
  readonly unit = input('');
  readonly placeholder = input('');
  readonly say = input<string | null>(null);
  readonly problem = input<string | null>(null);
  /** Marked as wrong where its page says why. */
  readonly wrong = input(false);
  /** Id of a datalist with what is known. */
  readonly list = input<string | null>(null);
  readonly value = model('');
  readonly edited = output();
  protected readonly id = `text-${(made += 1)}`;

  protected typed(text: string): void {
    this.value.set(text);
    this.edited.emit();
  }
}

import { Component, computed, input, model, output, ViewEncapsulation } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { takesScans } from '../state/scans';
import { SpokenList } from './spoken-list';

export interface Option {
  readonly id: string;
  readonly label: string;
  readonly detail?: string;
  readonly disabled?: boolean;
}

let made = 0;

/** One of a list, searched by typing. */
@Component({
  selector: 'ct-choice',
  imports: [FormsModule, NzSelectModule, SpokenList],
  encapsulation: ViewEncapsulation.None,
  template: `
    <label [for]="id" [class.visually-hidden]="bare()">{{ label() }}</label>
    <nz-select
      [ctSpoken]="id"
      [ctSpokenLabel]="label()"
      [ctSpokenChosen]="chosen()"
      [nzDropdownClassName]="id + '-list'"
      [nzId]="id"
      [nzShowSearch]="search()"
      [nzDisabled]="disabled()"
      [nzSuffixIcon]="arrow"
      [nzPlaceHolder]="placeholder()"
      nzSize="large"
      [ngModel]="value()"
      (ngModelChange)="value.set($event); edited.emit()"
      [nzNotFoundContent]="nothing()"
      [nzOptionHeightPx]="54"
      [nzOptionOverflowSize]="6"
    >
      @for (option of options(); track option.id) {
        <nz-option
          nzCustomContent
          [nzValue]="option.id"
          [nzLabel]="option.label"
          [nzDisabled]="option.disabled ?? false"
        >
          <span class="ct-option"
            ><b>{{ option.label }}</b
            >&ngsp;<small>{{ option.detail }}</small></span
          >
        </nz-option>
      }
    </nz-select>
    <ng-template #arrow
      ><svg viewBox="0 0 14 14" width="14" height="14" aria-hidden="true">
        <path d="M2 4.5l5 5 5-5" fill="none" stroke="currentColor" stroke-width="2" /></svg
    ></ng-template>
  `,
  styleUrl: './choice.less',
})
export class Choice {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  /** In a table or a line the words beside it say what it is; the label is for those who listen. */
  readonly bare = input(false);
  readonly search = input(true);
  readonly disabled = input(false);
  readonly placeholder = input('Choose');
  readonly nothing = input('Nothing fits');
  readonly value = model<string | null>(null);
  readonly edited = output();
  protected readonly id = `choice-${(made += 1)}`;
  protected readonly chosen = computed(() => this.options().find(({ id }) => id === this.value())?.label);

  constructor() {
    // A label scanned beside a list chooses its line: options begin with their code.
    takesScans((code) => {
      const option = this.options().find((one) => !one.disabled && one.label.split(' ').includes(code.toUpperCase()));
      if (!option) return false;
      this.value.set(option.id);
      this.edited.emit();
      return true;
    });
  }
}

import { booleanAttribute, Component, input, output, ViewEncapsulation } from '@angular/core';
import { NzPopconfirmModule } from 'ng-zorro-antd/popconfirm';

/** A button that asks once before it does what cannot be taken back; the question says what is lost. */
@Component({
  selector: 'ct-sure',
  imports: [NzPopconfirmModule],
  encapsulation: ViewEncapsulation.None,
  template: `<button
      type="button"
      [class.stern]="!plain()"
      [class.plain]="plain()"
      [disabled]="disabled()"
      [attr.aria-label]="says()"
      nz-popconfirm
      [nzPopconfirmTitle]="asks()"
      [nzOkText]="yes()"
      nzCancelText="Leave it"
      nzPopconfirmPlacement="topRight"
      [nzIcon]="none"
      (nzOnConfirm)="sure.emit()"
    >
      <ng-content /></button
    ><ng-template #none />`,
  styleUrl: './sure.less',
})
export class Sure {
  readonly asks = input.required<string>();
  readonly yes = input.required<string>();
  /** What it is called where the words on it are not enough. */
  readonly says = input<string | null>(null);
  readonly plain = input(false, { transform: booleanAttribute });
  readonly disabled = input(false, { transform: booleanAttribute });
  readonly sure = output();
}

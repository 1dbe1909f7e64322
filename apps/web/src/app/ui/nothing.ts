import { Component, input, ViewEncapsulation } from '@angular/core';
import { NzEmptyModule } from 'ng-zorro-antd/empty';

/** Where nothing stands yet: what would stand here, and how it comes here. A button may stand under it. */
@Component({
  selector: 'ct-nothing',
  imports: [NzEmptyModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    <ng-template #shelf>
      <svg viewBox="0 0 120 56" width="120" height="56" aria-hidden="true" fill="none" stroke="currentColor">
        <path d="M4 50h112" stroke-width="2.5" />
        <path
          d="M16 50V24h4v-6h16v6h4v26M52 50V14h22v36M88 50V30q0-6 6-6h8q6 0 6 6v20"
          stroke-width="1.6"
          stroke-dasharray="3 4"
        />
      </svg>
    </ng-template>
    <ng-template #words
      ><p>{{ says() }}</p>
      <ng-content
    /></ng-template>
    <nz-empty [nzNotFoundImage]="shelf" [nzNotFoundContent]="words" />
  `,
  styles: `
    ct-nothing {
      display: block;
    }
    ct-nothing .ant-empty {
      display: flex;
      gap: 18px;
      align-items: center;
      margin: 0;
      padding: 14px 0;
      color: var(--soft);
      font: inherit;
      text-align: left;
    }
    ct-nothing .ant-empty-image {
      flex: none;
      height: 56px;
      margin: 0;
    }
    ct-nothing .ant-empty-description {
      display: grid;
      gap: 10px;
      justify-items: start;
      max-width: 62ch;
      color: var(--ink);
    }
  `,
})
export class Nothing {
  readonly says = input.required<string>();
}

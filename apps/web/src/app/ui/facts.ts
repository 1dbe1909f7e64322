import { Component, input, ViewEncapsulation } from '@angular/core';
import { NzDescriptionsModule } from 'ng-zorro-antd/descriptions';

export interface Fact {
  readonly what: string;
  readonly says: string;
  /** Aligned with the other figures. */
  readonly figure?: boolean;
  readonly strong?: boolean;
}

/** What is known of one thing, line by line. */
@Component({
  selector: 'ct-facts',
  imports: [NzDescriptionsModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    <nz-descriptions [nzColumn]="1" [nzColon]="false">
      @for (fact of facts(); track fact.what) {
        <nz-descriptions-item [nzTitle]="fact.what">
          <span [class.figure]="fact.figure" [class.strong]="fact.strong">{{ fact.says }}</span>
        </nz-descriptions-item>
      }
    </nz-descriptions>
  `,
  styleUrl: './facts.less',
})
export class Facts {
  readonly facts = input.required<readonly Fact[]>();
}

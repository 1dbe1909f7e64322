import { Component, input, ViewEncapsulation } from '@angular/core';
import { NzTimelineModule } from 'ng-zorro-antd/timeline';

export interface HappenedThen {
  readonly when: string;
  readonly what: string;
  /** Not yet. */
  readonly open?: boolean;
}

/** What happened, one after the other. */
@Component({
  selector: 'ct-events',
  imports: [NzTimelineModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    <nz-timeline>
      @for (one of events(); track one.what) {
        <nz-timeline-item [nzDot]="one.open ? ring : disc">
          <b>{{ one.what }}</b><br />{{ one.when }}
        </nz-timeline-item>
      }
    </nz-timeline>
    <ng-template #disc
      ><svg viewBox="0 0 14 14" width="14" height="14" aria-hidden="true">
        <circle cx="7" cy="7" r="5.5" fill="var(--brine)" /></svg
    ></ng-template>
    <ng-template #ring
      ><svg viewBox="0 0 14 14" width="14" height="14" aria-hidden="true">
        <circle cx="7" cy="7" r="5" fill="var(--paper)" stroke="var(--mustard)" stroke-width="2.2" /></svg
    ></ng-template>
  `,
  styleUrl: './events.less',
})
export class Events {
  readonly events = input.required<readonly HappenedThen[]>();
}

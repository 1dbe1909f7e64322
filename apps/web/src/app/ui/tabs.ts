import { NgTemplateOutlet } from '@angular/common';
import {
  afterRenderEffect,
  Component,
  computed,
  contentChild,
  ElementRef,
  inject,
  input,
  model,
  TemplateRef,
  ViewEncapsulation,
} from '@angular/core';
import { NzTabsModule } from 'ng-zorro-antd/tabs';

/** Several leaves of one place, one at a time; arrows go from one to the next. Its template is told which is open. */
@Component({
  selector: 'ct-tabs',
  imports: [NgTemplateOutlet, NzTabsModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    <nz-tabs
      [nzTabPosition]="beside() ? 'left' : 'top'"
      [nzAnimated]="false"
      [nzSelectedIndex]="at()"
      (nzSelectedIndexChange)="open.set(leaves()[$event]![0])"
    >
      @for (leaf of leaves(); track leaf[0]) {
        <nz-tab [nzTitle]="leaf[1]">
          @if (open() === leaf[0] || (keep() && seen().has(leaf[0]))) {
            <ng-container *ngTemplateOutlet="content(); context: { $implicit: leaf[0] }" />
          }
        </nz-tab>
      }
    </nz-tabs>
  `,
  styleUrl: './tabs.less',
})
export class Tabs<K extends string> {
  readonly label = input.required<string>();
  readonly leaves = input.required<readonly (readonly [K, string])[]>();
  /** Their names stand at the left, one under the other. */
  readonly beside = input(false);
  /** What was opened once stays as it was left. */
  readonly keep = input(false);
  readonly open = model.required<K>();
  private readonly before = new Set<K>();
  protected readonly seen = computed((): ReadonlySet<K> => new Set(this.before.add(this.open())));
  protected readonly content = contentChild.required<TemplateRef<{ $implicit: K }>>(TemplateRef);
  protected readonly at = computed(() => this.leaves().findIndex(([key]) => key === this.open()));

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // A leaf is made when it is opened.
    afterRenderEffect(() => {
      this.open();
      this.named(host);
    });
  }

  /** The part gives a tab and its leaf one id, and the row of tabs no name: who listens would hear neither. */
  private named(host: HTMLElement): void {
    host.querySelector('[role=tablist]')?.setAttribute('aria-label', this.label());
    for (const tab of host.querySelectorAll<HTMLElement>('[role=tab]')) {
      const leaf = tab.getAttribute('aria-controls')!;
      tab.id = `${leaf}-tab`;
      host.querySelector(`[role=tabpanel][id="${leaf}"]`)?.setAttribute('aria-labelledby', tab.id);
    }
  }
}

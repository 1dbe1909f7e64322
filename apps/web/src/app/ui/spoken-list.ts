import { NzSelectComponent } from 'ng-zorro-antd/select';
import { afterNextRender, DestroyRef, Directive, effect, ElementRef, inject, Injector, input } from '@angular/core';

const OPTION = '.ant-select-item-option';

/**
 * What NG-ZORRO's list leaves unsaid to those who listen: its field is a combobox that says what is chosen and whether it
 * is open, its lines are options of a list, and the one the arrows stand on is told. Lines come and go while they scroll.
 */
@Directive({ selector: 'nz-select[ctSpoken]' })
export class SpokenList {
  /** The id its field has; the list has a class of that name and “-list”. */
  readonly ctSpoken = input.required<string>();
  readonly ctSpokenLabel = input.required<string>();
  /** What is chosen, in words. */
  readonly ctSpokenChosen = input<string>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);
  private readonly watcher = new MutationObserver(() => this.say());

  constructor() {
    afterNextRender(() => {
      tell(this.field(), { role: 'combobox', 'aria-haspopup': 'listbox', 'aria-expanded': 'false' });
      this.sayChosen();
    });
    effect(() => {
      this.ctSpokenChosen();
      this.sayChosen();
    });
    const opens = inject(NzSelectComponent).nzOpenChange.subscribe((open) => this.opened(open));
    inject(DestroyRef).onDestroy(() => opens.unsubscribe());
    inject(DestroyRef).onDestroy(() => this.watcher.disconnect());
  }

  private opened(open: boolean): void {
    tell(this.field(), {
      'aria-expanded': String(open),
      'aria-controls': open ? `${this.ctSpoken()}-list` : null,
      'aria-activedescendant': null,
    });
    this.watcher.disconnect();
    if (open) afterNextRender(() => this.watch(), { injector: this.injector });
  }

  private watch(): void {
    const list = this.list();
    if (!list) return;
    this.say();
    this.watcher.observe(list, {
      subtree: true,
      childList: true,
      characterData: true,
      attributes: true,
      attributeFilter: ['class'],
    });
  }

  private say(): void {
    const list = this.list();
    if (!list) return;
    const lines = [...list.querySelectorAll<HTMLElement>(OPTION)];
    // A list without a line is none.
    tell(list, {
      id: `${this.ctSpoken()}-list`,
      role: lines.length > 0 ? 'listbox' : null,
      'aria-label': lines.length > 0 ? this.ctSpokenLabel() : null,
    });
    lines.forEach((line) =>
      tell(line, {
        // By what it says: while it scrolls, one element becomes the line of another.
        id: `${this.ctSpoken()}-${line.textContent.trim().replace(/\W+/g, '-')}`,
        role: 'option',
        'aria-selected': String(line.classList.contains('ant-select-item-option-selected')),
        'aria-disabled': line.classList.contains('ant-select-item-option-disabled') ? 'true' : null,
      }),
    );
    const active = lines.find((line) => line.classList.contains('ant-select-item-option-active'));
    tell(this.field(), { 'aria-activedescendant': active?.id ?? null });
  }

  private sayChosen(): void {
    tell(this.field(), { 'aria-description': this.ctSpokenChosen() ?? null });
  }

  private field(): HTMLElement | null {
    return this.host.querySelector('input');
  }

  private list(): HTMLElement | null {
    return document.querySelector<HTMLElement>(`.${this.ctSpoken()}-list cdk-virtual-scroll-viewport`);
  }
}

/** Only what differs is written: what is watched is not stirred by being told. */
function tell(element: HTMLElement | null, attributes: Readonly<Record<string, string | null>>): void {
  for (const [name, value] of Object.entries(attributes)) {
    if (!element || element.getAttribute(name) === value) continue;
    if (value === null) element.removeAttribute(name);
    else element.setAttribute(name, value);
  }
}

import { DestroyRef, inject, Injectable } from '@angular/core';

const INTO = 'input, button, select, textarea, a[href], summary, [tabindex="0"]';

const takesFocus = (element: HTMLElement): boolean =>
  !element.matches(':disabled, [aria-hidden="true"] *, .visually-hidden') && element.getClientRects().length > 0;

/** The next thing after `from`, or after where it was, within `around`: what is in hand first, then fields, then others. */
export function nextWithin(around: Element, from: Element | null): HTMLElement | null {
  const found = [...around.querySelectorAll<HTMLElement>(INTO)].filter((one) => one !== from && takesFocus(one));
  const inHand = found.find((one) => one.closest('.now, .here, [aria-current="step"]'));
  const after = from?.isConnected
    ? found.find((one) => (from.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0)
    : undefined;
  const field = found.find((one) => one.matches('input, textarea, select'));
  return inHand ?? field ?? after ?? found[0] ?? null;
}

/**
 * Focus never falls to the page: when what had it goes away or is greyed after it did its work, it goes to the next
 * thing due beside where it was; else to the page itself, where Tab goes on.
 */
@Injectable()
export class FocusKeeper {
  private last: HTMLElement | null = null;
  /** Where it stood: it may be gone by the time somebody asks. */
  private around: readonly Element[] = [];

  constructor() {
    const seen = (event: FocusEvent): void => {
      if (!(event.target instanceof HTMLElement) || !event.target.closest('main')) {
        this.last = null;
        return;
      }
      this.last = event.target;
      const around: Element[] = [];
      for (let at = event.target.parentElement; at && at.tagName !== 'MAIN'; at = at.parentElement) around.push(at);
      this.around = around;
    };
    // Who taps beside everything has put the focus down.
    const down = (event: PointerEvent): void => {
      if (event.target instanceof Element && !event.target.closest(INTO)) this.last = null;
    };
    const watch = new MutationObserver(() => this.look());
    document.addEventListener('focusin', seen);
    document.addEventListener('pointerdown', down);
    watch.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] });
    inject(DestroyRef).onDestroy(() => {
      document.removeEventListener('focusin', seen);
      document.removeEventListener('pointerdown', down);
      watch.disconnect();
    });
  }

  private look(): void {
    const last = this.last;
    if (!last || document.activeElement !== document.body) return;
    if (last.isConnected && takesFocus(last)) {
      last.focus({ preventScroll: true });
      return;
    }
    const around = this.around.find((one) => one.isConnected);
    const next = around && nextWithin(around, last);
    if (next) next.focus({ preventScroll: true });
    else if (!last.isConnected) document.getElementById('page')?.focus({ preventScroll: true });
  }
}

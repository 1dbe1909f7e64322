import { Component, ElementRef, viewChild } from '@angular/core';

/** The keys of every page, on "?". */
@Component({
  selector: 'ct-keys',
  template: `
    <dialog #dialog aria-labelledby="keys-title">
      <h2 id="keys-title">Keys</h2>
      <dl>
        <dt><span class="key">/</span></dt>
        <dd>to the code box</dd>
        <dt><span class="key">1</span> – <span class="key">9</span>, <span class="key">0</span></dt>
        <dd>to a place</dd>
        <dt><span class="key">Tab</span></dt>
        <dd>to the next field</dd>
        <dt><span class="key">Enter</span></dt>
        <dd>records what is in the form</dd>
        <dt><span class="key">Esc</span></dt>
        <dd>closes what is open</dd>
        <dt><span class="key">b</span></dt>
        <dd>the simulated bench, where there is one</dd>
        <dt><span class="key">←</span> <span class="key">→</span></dt>
        <dd>from choice to choice; <span class="key">↑</span> <span class="key">↓</span> from line to line</dd>
        <dt>scanner</dt>
        <dd>chooses the lot in a list that stands open; else it opens its trace, from any page</dd>
      </dl>
      <form method="dialog"><button>Close</button></form>
    </dialog>
  `,
  host: { '(document:keydown)': 'key($event)' },
  styles:
    'dialog { border: 2px solid var(--ink); padding: 22px; background: var(--sheet); color: var(--ink); } dl { display: grid; grid-template-columns: auto 1fr; gap: 10px 18px; margin: 16px 0; } dd { margin: 0; }',
})
export class Keys {
  private readonly dialog = viewChild.required<ElementRef<HTMLDialogElement>>('dialog');

  protected key(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
    if (event.key === '?' && !typing && !this.dialog().nativeElement.open) this.dialog().nativeElement.showModal();
  }
}

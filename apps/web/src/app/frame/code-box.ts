import { Component, inject, signal, viewChild } from '@angular/core';
import { Router } from '@angular/router';
import { jarInElements } from '@clear-tally/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Actions, ofType } from '@ngrx/effects';
import { devicesWire } from '../state/devices';
import { Scans } from '../state/scans';
import { CodeField } from '../ui/code-field';
import { isBurst, ScannerBurst } from './scanner-burst';

/** Where a code is typed or scanned, from any page. */
@Component({
  selector: 'ct-code-box',
  imports: [CodeField],
  template: `
    <form (submit)="go($event)">
      <ct-code
        [bare]="true"
        [plain]="true"
        label="Code box: jar, lot, supply or vessel"
        [placeholder]="'code'"
        [(value)]="typed"
      /><span class="key" aria-hidden="true">/</span>
    </form>
  `,
  host: { '(document:keydown)': 'key($event)' },
  styles: `
    form {
      display: flex;
      align-items: center;
      gap: 8px;
      border-bottom: 2px solid var(--ink);
    }
    ct-code {
      flex: 1;
    }
  `,
})
export class CodeBox {
  private readonly router = inject(Router);
  private readonly box = viewChild.required(CodeField);
  protected readonly typed = signal('');
  private readonly burst = new ScannerBurst();
  private readonly scans = inject(Scans);

  constructor() {
    // What a scanner of the bench saw comes by the live line.
    inject(Actions)
      .pipe(ofType(devicesWire.noteArrived), takeUntilDestroyed())
      .subscribe(({ note }) => {
        if (note.scanned && !this.scans.offer(codeIn(note.scanned))) this.open(codeIn(note.scanned));
      });
  }

  protected go(event: Event): void {
    event.preventDefault();
    this.open(this.typed());
  }

  protected key(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
    if (typing) return;
    if (event.key === '/') {
      event.preventDefault();
      this.box().focus();
      return;
    }
    const scanned = this.burst.key(event.key, event.timeStamp);
    if (scanned !== null && isBurst(scanned)) {
      event.preventDefault();
      if (!this.scans.offer(scanned)) this.open(scanned);
    }
  }

  private open(text: string): void {
    const code = codeIn(text.trim());
    if (code === '') return;
    this.typed.set('');
    void this.router.navigate(['/trace', code]);
  }
}

/** A symbol of the house holds an address, whose last part is the code, or the jar as application identifiers. */
const codeIn = (scanned: string): string =>
  jarInElements(scanned) ?? decodeURIComponent(scanned.split('/').pop() ?? scanned);

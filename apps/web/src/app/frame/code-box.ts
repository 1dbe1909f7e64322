import { Component, inject, signal, viewChild } from '@angular/core';
import { Router } from '@angular/router';
import { jarInElements } from '@clear-tally/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Actions, ofType } from '@ngrx/effects';
import { devicesWire } from '../state/devices';
import { Scans } from '../state/scans';
import { CodeField } from '../ui/code-field';
import { CameraScan } from './camera-scan';
import { isBurst, ScannerBurst } from './scanner-burst';

/** Where a code is typed or scanned, from any page. */
@Component({
  selector: 'ct-code-box',
  imports: [CameraScan, CodeField],
  template: `
    <form (submit)="go($event)">
      <ct-code
        [bare]="true"
        [plain]="true"
        label="Code box: jar, lot, supply or vessel"
        [placeholder]="'code'"
        [(value)]="typed"
      /><span class="key" aria-hidden="true">/</span>
      @if (hasCamera) {
        <button type="button" class="plain" aria-label="Scan with the camera" (click)="filming.set(true)">
          <svg viewBox="0 0 24 20" width="24" height="20" aria-hidden="true">
            <path
              d="M2 6V2h5M17 2h5v4M22 14v4h-5M7 18H2v-4M7 6v8M10.5 6v8M14 6v8M17 6v8"
              fill="none"
              stroke="currentColor"
              stroke-width="2"
            />
          </svg>
        </button>
      }
    </form>
    @if (filming()) {
      <ct-camera-scan [take]="taken" (closed)="filming.set(false)" />
    }
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
  /** Browsers give the camera to this machine's own page, and to one over a line that is trusted. */
  protected readonly hasCamera = typeof navigator.mediaDevices?.getUserMedia === 'function';
  protected readonly filming = signal(false);
  /** What the camera saw goes where a scanner's code goes: to the page that waits for one, or to its trace. */
  protected readonly taken = (text: string): 'here' | 'opened' => {
    const code = codeIn(text);
    if (this.scans.offer(code)) return 'here';
    this.open(code);
    return 'opened';
  };
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

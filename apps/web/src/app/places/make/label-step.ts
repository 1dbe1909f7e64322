import { Component, computed, inject, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Store } from '@ngrx/store';
import type { MakeReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../../api/api';
import { selectPrinter } from '../../state/devices';
import { recordingForm } from '../../state/form';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';

/** What, when, lot: on the vessel before the lid is on. On the label printer, or as a sheet from any printer. */
@Component({
  selector: 'ct-label-step',
  imports: [CountInput, Mark, Refusal, FormField],
  template: `
    <div class="stack">
      <div class="row">
        <ct-count label="Labels each" [formField]="form.fields.copies" />
        @if (printer(); as device) {
          <p class="on">
            {{ device.name }}: {{ device.connected ? stateWords[device.printer?.state ?? 'ready'] : 'does not answer'
            }}{{ device.printer ? ', ' + device.printer.labels + ' labels left' : '' }}
          </p>
        }
      </div>
      @for (thing of things(); track thing.lotId) {
        <div class="thing">
          <ct-mark [kind]="thing.labels > 0 ? 'met' : 'due'"
            ><b class="figure">{{ thing.code }}</b></ct-mark
          ><span class="soft words">{{ thing.labels > 0 ? thing.labels + ' printed' : thing.words }}</span>
          @if (printer()?.connected) {
            <button type="button" class="go" [disabled]="printing() || !copies()" (click)="print(thing.lotId)">
              Print on {{ printer()!.name }}
            </button>
          }
          <a
            class="button"
            [href]="sheet(thing.lotId)"
            target="_blank"
            rel="noopener"
            (click)="marked(thing.lotId, null)"
            >As a sheet</a
          >
        </div>
      } @empty {
        <p class="note">Nothing is filled yet: the label says what stands in the vessel.</p>
      }
      <ct-refusal [message]="problem() ?? form.problem()" />
    </div>
  `,
  styles:
    '.words { margin-right: auto; } .thing { display: flex; flex-wrap: wrap; gap: 6px 14px; align-items: center; border-bottom: 1px solid var(--hair); padding: 8px 0; } .on { padding-top: 38px; }',
})
export class LabelStep {
  readonly batch = input.required<MakeReply>();
  private readonly api = inject(Api);
  protected readonly printer = inject(Store).selectSignal(selectPrinter);
  protected readonly stateWords = { ready: 'ready', jammed: 'jammed', empty: 'its roll is empty' } as const;
  protected readonly form = recordingForm('label.print', {
    fields: { copies: 1 as number | null },
    about: computed(() => this.batch().batchId),
  });
  protected readonly copies = this.form.values.copies;
  protected readonly printing = signal(false);
  protected readonly problem = signal<string | null>(null);
  /** Vessels, and preparations that will stand about. */
  protected readonly things = computed(() => [
    ...this.batch().fills.map((fill) => ({
      lotId: fill.lotId,
      code: fill.code,
      labels: fill.labels,
      words: 'no label yet',
    })),
    ...this.batch()
      .preparations.filter((row) => row.onHandGrams > 20)
      .map((row) => ({ lotId: row.lotId, code: row.code, labels: 0, words: row.name })),
  ]);
  protected readonly sheet = (lotId: string): string => `/api/labels.pdf?lots=${lotId}&copies=${this.copies() ?? 1}`;

  /** Marked as printed when the printer says it is out, and not before. */
  protected print(lotId: string): void {
    const printer = this.printer();
    if (!printer) return;
    this.printing.set(true);
    this.problem.set(null);
    this.api.print(printer.id, [lotId], this.copies() ?? 1).subscribe({
      next: () => {
        this.printing.set(false);
        this.marked(lotId, printer.name);
      },
      error: (refusal: WireProblem) => {
        this.printing.set(false);
        this.problem.set(refusal.detail);
      },
    });
  }

  protected marked(lotId: string, printer: string | null): void {
    this.form.record(this.form.entry('label.print', { lotIds: [lotId], copies: this.copies() ?? 1, printer }));
  }
}

import { Component, computed, input, linkedSignal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import { formatAmount, type StockUnit } from '@clear-tally/core';
import type { TraceReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';

/** Found bad after it came in, perhaps after it was used: what was made with it is shown before it is held or sent back. */
@Component({
  selector: 'ct-reject-lot',
  imports: [Refusal, RouterLink, TextField, FormField, RecordButton, TypedBeforeNote],
  template: `
    @if (!open()) {
      <div class="rule"><button type="button" class="stern" (click)="open.set(true)">Reject this lot</button></div>
    } @else {
      <form class="stack rule" (submit)="$event.preventDefault(); hold()">
        <ct-typed-before [typed]="form.typed" />
        <h2>Reject {{ code() }}</h2>
        @if (made(); as list) {
          @if (list.length === 0) {
            <p class="note">Nothing is made with it yet.</p>
          } @else {
            <p class="watch">
              Used already: {{ many() }} {{ many() === 1 ? 'lot holds' : 'lots hold' }} some of it{{
                jars() > 0 ? ', ' + jars() + ' jars' : ''
              }}. A hold on this lot does not hold them: look at each.
            </p>
            <ul>
              @for (one of list; track one.lotId) {
                <li>
                  @if (one.folded) {
                    and <a [routerLink]="['/trace', code()]">{{ one.folded }} more</a>
                  } @else {
                    <a [routerLink]="['/lots', one.code]" class="figure">{{ one.code }}</a> {{ one.name
                    }}{{ one.hold ? ', on hold' : '' }}
                  }
                </li>
              }
            </ul>
          }
        }
        <ct-text label="What is wrong with it" [formField]="form.fields.reason" />
        <div class="row">
          <button class="stern" [ctRecord]="form" [needs]="[!reason().trim() && 'the reason']">
            Hold {{ code() }}
          </button>
          @if (onHand()) {
            <button type="button" [ctRecord]="back" [needs]="[!reason().trim() && 'the reason']" (click)="sendBack()">
              Send {{ amount() }} back
            </button>
          }
          <button type="button" (click)="open.set(false)">Keep it</button>
        </div>
        <ct-refusal [message]="form.problem() ?? back.problem()" />
      </form>
    }
  `,
  styles: 'li { padding: 3px 0; }',
})
export class RejectLot {
  readonly lotId = input.required<string>();
  readonly code = input.required<string>();
  readonly onHand = input.required<number | null>();
  readonly unit = input.required<StockUnit>();
  protected readonly open = linkedSignal({ source: this.lotId, computation: () => false });
  protected readonly form = recordingForm('hold.place', {
    fields: { reason: '' },
    about: this.lotId,
    recorded: () => this.open.set(false),
  });
  protected readonly reason = this.form.values.reason;
  private readonly trace = shown<TraceReply>(computed(() => (this.open() ? `/api/trace/${this.code()}` : null)));
  protected readonly made = computed(
    () =>
      this.trace
        .data()
        ?.nodes.filter((node) => node.kind === 'fill' || node.kind === 'run' || node.kind === 'preparation') ?? null,
  );
  protected readonly many = computed(() => (this.made() ?? []).reduce((sum, one) => sum + (one.folded ?? 1), 0));
  protected readonly jars = computed(() => this.trace.data()?.jarCount ?? 0);
  protected readonly amount = computed(() => formatAmount(this.onHand() ?? 0, this.unit()));
  protected readonly back = recordingForm('loss.record', () => this.open.set(false));

  protected hold(): void {
    if (this.reason().trim())
      this.form.record(this.form.entry('hold.place', { lotId: this.lotId(), reason: this.reason().trim() }));
  }

  protected sendBack(): void {
    if (this.reason().trim() && this.onHand())
      this.back.record(
        this.back.entry('loss.record', {
          lotId: this.lotId(),
          sink: 'returned',
          grams: this.onHand()!,
          note: this.reason().trim(),
        }),
      );
  }
}

import { Component, computed, input, linkedSignal, model, output, signal } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import { formatGrams } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectScale } from '../../state/scale';
import { CountInput } from '../../ui/count-input';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Checks } from './checks';
import type { SheetOf, SheetStep } from './sheet-of';

/** Places of the bench, and of a finish, where something stands on the scale. */
const WEIGHS: ReadonlySet<string> = new Set([
  'weigh',
  'water',
  'salt',
  'rinse',
  'prepare',
  'flavour',
  'starter',
  'fill',
  'brine',
  'pour',
  'juice',
  'blend',
  'vinegar',
  'season',
  'thicken',
  'syrup',
  'dry',
]);

/** End of a step: its questions, done, or skipped with a reason; and the way to the next. */
@Component({
  selector: 'ct-step-end',
  imports: [Checks, CountInput, Refusal, TextField, RecordButton],
  template: `
    @let s = step();
    <div class="stack rule">
      @if (ended()) {
        @if (s.note) {
          <p class="soft">{{ s.open ? 'Left open: ' : s.state === 'skipped' ? 'Skipped: ' : '' }}{{ s.note }}</p>
        }
        @if (s.unchecked.length > 0) {
          <p class="watch">Not ticked: {{ s.unchecked.join('; ') }}</p>
        }
        @if (next(); as after) {
          <div>
            <button type="button" class="go" (click)="done.emit()">On to: {{ after.name }}</button>
          </div>
        }
      } @else if (batch().closedAt === null) {
        @if (!checkedBefore() && s.checks.length > 0) {
          <ct-checks [checks]="s.checks" [(checked)]="checked" />
        }
        @if (skipping()) {
          <ct-text label="Why is it skipped?" [value]="reason()" (valueChange)="reason.set($event)" />
          <div class="row">
            <button
              type="button"
              class="stern"
              [ctRecord]="form"
              [needs]="[!reason().trim() && 'the reason']"
              (click)="finish(reason().trim())"
            >
              Skip {{ s.name }}</button
            ><button type="button" (click)="skipping.set(false)">Do it after all</button>
          </div>
        } @else {
          @if (lacks(); as lack) {
            <div class="watch stack">
              <p><b>Not done yet:</b> {{ lack }}.</p>
              @if (tried()) {
                <ct-text label="Why is it left so?" [value]="note()" (valueChange)="note.set($event)" />
              }
            </div>
          } @else if (asksWhy()) {
            <ct-text label="Why does it go on without?" [value]="note()" (valueChange)="note.set($event)" />
          }
          <div class="row">
            <button
              type="button"
              [class.go]="lacks() === null"
              [ctRecord]="form"
              [needs]="[mustSay() && !note().trim() && 'why it is left so']"
              (click)="finish(null)"
            >
              {{ lacks() === null ? 'Done' : 'Leave it so' }}{{ next() ? ', on to: ' + next()!.name : '' }}
            </button>
            <button type="button" (click)="skipping.set(true)">Skip it</button>
            @if (typing()) {
              <ct-count label="Minutes of work" [value]="minutes()" (valueChange)="minutes.set($event)" />
            } @else {
              <button type="button" class="plain" (click)="typing.set(true)">Type the minutes</button>
            }
          </div>
        }
        <ct-refusal [message]="form.problem()" />
      }
    </div>
  `,
  styles: ':host { display: block; margin-top: 18px; }',
})
export class StepEnd {
  readonly batch = input.required<SheetOf>();
  readonly step = input.required<SheetStep>();
  readonly checked = model<readonly string[]>([]);
  /** Its questions stand before the work, because it cannot be taken back. */
  readonly checkedBefore = input(false);
  readonly done = output();

  private readonly key = computed(() => this.step().key);
  protected readonly skipping = linkedSignal({ source: this.key, computation: () => false });
  protected readonly reason = signal('');
  protected readonly note = linkedSignal({ source: this.key, computation: () => '' });
  protected readonly typing = linkedSignal({ source: this.key, computation: () => false });
  protected readonly minutes = linkedSignal<string, number | null>({ source: this.key, computation: () => null });
  protected readonly tried = linkedSignal({ source: this.key, computation: () => false });
  protected readonly form = recordingForm('step.finish', () => {
    this.reason.set('');
    this.done.emit();
  });

  private readonly scale = injectScale('this step');
  /** A weight that stands on the scale and is in no book: walking away from it loses it. */
  private readonly unrecorded = computed(() => {
    const ready = this.scale.ready();
    return ready && WEIGHS.has(this.step().station)
      ? `${formatGrams(ready.grams)} stands on the scale and is not recorded`
      : null;
  });
  /** What the step still lacks, its target or a weight not recorded. */
  protected readonly lacks = computed(() => [this.step().open, this.unrecorded()].filter(Boolean).join('; ') || null);
  protected readonly ended = computed(() => this.step().by !== null);
  protected readonly next = computed(
    () => this.batch().steps[this.batch().steps.findIndex((one) => one.key === this.step().key) + 1] ?? null,
  );
  /** Once somebody went on with a question unticked. */
  protected readonly asksWhy = computed(
    () => this.tried() && this.step().checks.some((check) => !this.checked().includes(check.key)),
  );

  /** Whether words are owed before it goes on. */
  protected readonly mustSay = computed(() => this.tried() && (this.lacks() !== null || this.asksWhy()));

  protected finish(skipped: string | null): void {
    if (
      skipped === null &&
      !this.tried() &&
      (this.lacks() !== null || this.step().checks.some((check) => !this.checked().includes(check.key)))
    ) {
      this.tried.set(true);
      return;
    }
    if (skipped === null && this.mustSay() && !this.note().trim()) return;
    this.form.record(
      this.form.entry('step.finish', {
        batchId: this.batch().batchId,
        step: this.step().key,
        minutes: this.minutes(),
        checked: skipped === null ? [...this.checked()] : [],
        skipped,
        note: skipped === null ? this.note().trim() || null : null,
      }),
    );
  }
}

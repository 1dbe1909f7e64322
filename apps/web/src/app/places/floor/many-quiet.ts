import { Component, computed, input, output, signal } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import type { FloorVessel } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';
import { quietChecks } from './round';
import { Tick } from '../../ui/tick';

/** "All quiet" for several vessels, one look along a shelf: only checks that a look answers. */
@Component({
  selector: 'ct-many-quiet',
  imports: [Refusal, Tick, RecordButton],
  template: `
    @if (able().length > 1) {
      @if (open()) {
        <form class="stack box" (submit)="$event.preventDefault(); record()">
          <p>
            <b>All quiet?</b>&ngsp;<span class="soft"
              >Untick what is not. A pH, a temperature, a taste or gas wants its own line.</span
            >
          </p>
          @for (vessel of able(); track vessel.lotId) {
            <ct-tick [value]="!left().has(vessel.lotId)" (valueChange)="toggle(vessel.lotId)"
              ><span
                ><b>{{ vessel.vesselTag }}</b
                >&ngsp;<span class="soft">{{ names(vessel) }}</span></span
              ></ct-tick
            >
          }
          <div class="row">
            <button class="go" [ctRecord]="form" [needs]="[many() === 0 && 'a vessel that is quiet']">
              All quiet on {{ many() }}</button
            ><button type="button" (click)="open.set(false)">Leave it</button>
          </div>
          <ct-refusal [message]="form.problem()" />
        </form>
      } @else {
        <button type="button" (click)="open.set(true)">All quiet on several …</button>
      }
    }
  `,
  styles:
    '.box { border: 2px solid var(--ink); padding: 12px; background: var(--sheet); } .tick { display: flex; gap: 12px; align-items: center; min-height: 48px; margin: 0; color: var(--ink); font-weight: 400; } .tick input { width: 28px; height: 28px; accent-color: var(--brine); }',
})
export class ManyQuiet {
  readonly vessels = input.required<readonly FloorVessel[]>();
  readonly recorded = output();
  protected readonly open = signal(false);
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly form = recordingForm('many quiet', () => {
    this.open.set(false);
    this.left.set(new Set());
    this.recorded.emit();
  });
  /** What is held is looked at alone. */
  protected readonly able = computed(() =>
    this.vessels()
      .filter((vessel) => vessel.hold === null && quietChecks(vessel).length > 0)
      .slice(0, 60),
  );
  protected readonly chosen = computed(() => this.able().filter(({ lotId }) => !this.left().has(lotId)));
  protected readonly many = computed(() => this.chosen().length);

  protected names(vessel: FloorVessel): string {
    return quietChecks(vessel)
      .map(({ name }) => name)
      .join(', ');
  }

  protected toggle(lotId: string): void {
    const left = new Set(this.left());
    if (!left.delete(lotId)) left.add(lotId);
    this.left.set(left);
  }

  protected record(): void {
    if (this.many() > 0)
      this.form.record(
        this.form.entry('round.quiet', {
          lots: this.chosen().map((vessel) => ({
            lotId: vessel.lotId,
            checks: quietChecks(vessel).map(({ what, words }) => ({ what, words })),
          })),
        }),
      );
  }
}

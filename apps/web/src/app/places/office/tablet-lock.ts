import { Component, computed, linkedSignal } from '@angular/core';
import { counted } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { CountInput } from '../../ui/count-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';

/** After how long an untouched tablet asks who is there. */
@Component({
  selector: 'ct-tablet-lock',
  imports: [CountInput, RecordButton, Refusal],
  template: `
    <section class="rule stack">
      <h2>A tablet nobody touches</h2>
      <p>
        {{
          now() === null
            ? 'stays open until somebody signs out or hands it over.'
            : 'asks after ' + counted(now()!, 'minute') + ' who is there. What was typed stays where it is.'
        }}
      </p>
      <div class="row">
        <ct-count label="Asks after, minutes" [value]="minutes()" (valueChange)="minutes.set($event)" />
        <button type="button" [ctRecord]="form" [needs]="[!sound() && '1 to 480 minutes']" (click)="keep(minutes())">
          Keep it
        </button>
        @if (now() !== null) {
          <button type="button" [ctRecord]="form" (click)="keep(null)">Never ask</button>
        }
      </div>
      <ct-refusal [message]="form.problem()" />
    </section>
  `,
})
export class TabletLock {
  private readonly house = injectHouse();
  protected readonly now = computed(() => this.house.house()?.settings.lockMinutes ?? null);
  protected readonly minutes = linkedSignal<number | null>(() => this.now());
  protected readonly sound = computed(() => {
    const minutes = this.minutes();
    return minutes !== null && Number.isInteger(minutes) && minutes >= 1 && minutes <= 480;
  });
  protected readonly form = recordingForm('tablet lock');
  protected readonly counted = counted;

  protected keep(lockMinutes: number | null): void {
    this.form.record(this.form.entry('house.set', { lockMinutes }));
  }
}

import { leavesResidue } from '@clear-tally/core';
import { Component, computed, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { CountInput } from '../../ui/count-input';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';

/** Vessels cleaned with one tap each; agent, dilution and contact time stay as they are for the next. */
@Component({
  selector: 'ct-clean-step',
  imports: [CountInput, Refusal, TextField, Tick, FormField, RecordButton],
  template: `
    <div class="stack">
      <div class="row">
        <ct-text style="width: 270px" label="With" [formField]="form.fields.agent" />
        @if (sanitise()) {
          <ct-text
            style="width: 190px"
            label="Dilution"
            placeholder="as its sheet says"
            [formField]="form.fields.dilution"
          /><ct-count label="Contact, minutes" [formField]="form.fields.minutes" />
        }
        <ct-tick [formField]="form.fields.rinsed">Rinsed after</ct-tick>
        @if (asksRinse()) {
          <ct-tick [formField]="form.fields.noRinse">Its sheet asks for no rinse</ct-tick>
        }
      </div>
      @if (sanitise() && minutes() === null) {
        <p class="soft small">A sanitiser without its contact time does nothing: look at its sheet.</p>
      }
      <ul>
        @for (vessel of vessels(); track vessel.id) {
          <li>
            <button
              type="button"
              (click)="clean(vessel.id)"
              [ctRecord]="form"
              [needs]="[
                !agent().trim() && 'with what it was cleaned',
                asksRinse() && !form.values.noRinse() && 'the rinse',
              ]"
            >
              <span class="tile"
                ><b>{{ vessel.tag }}</b> <span class="small">{{ vessel.shape }} {{ vessel.brimMl / 1000 }} L</span>
                <span class="small soft">{{
                  !vessel.cleanedAt
                    ? 'no cleaning recorded'
                    : vessel.usedSince
                      ? 'used since it was cleaned ' + house.dates().moment(vessel.cleanedAt)
                      : 'clean since ' +
                        house.dates().moment(vessel.cleanedAt) +
                        (vessel.cleanedWith ? ': ' + vessel.cleanedWith : '')
                }}</span></span
              >
            </button>
          </li>
        }
      </ul>
      @if (hidden() > 0) {
        <button type="button" class="plain" (click)="all.set(true)">{{ hidden() }} more free vessels</button>
      }
      <ct-refusal [message]="form.problem()" />
    </div>
  `,
  styles:
    'ul { display: grid; grid-template-columns: repeat(auto-fill, minmax(215px, 1fr)); gap: 10px; } li button { width: 100%; padding: 8px; align-items: flex-start; font-weight: 500; min-height: 84px; } .tile { display: grid; gap: 2px; justify-items: start; text-align: left; } b { font-size: 20px; } .tick { display: flex; gap: 10px; align-items: center; padding-top: 34px; color: var(--ink); } .tick input { width: 26px; height: 26px; accent-color: var(--brine); }',
})
export class CleanStep {
  readonly batch = input.required<MakeReply>();
  protected readonly house = injectHouse();
  protected readonly sanitise = computed(() => this.batch().rules['sanitise'] !== 'soap');
  protected readonly form = recordingForm('vessel.clean', {
    fields: { minutes: null as number | null, agent: 'hot soapy water', dilution: '', rinsed: true, noRinse: false },
    about: computed(() => this.batch().batchId),
  });
  protected readonly agent = this.form.values.agent;
  protected readonly dilution = this.form.values.dilution;
  protected readonly minutes = this.form.values.minutes;
  protected readonly rinsed = this.form.values.rinsed;
  protected readonly asksRinse = computed(() => !this.rinsed() && leavesResidue(this.agent()));
  protected readonly all = signal(false);
  private readonly free = computed(() =>
    (this.house.house()?.vessels ?? []).filter((vessel) => vessel.inUse && vessel.takenBy === null),
  );
  protected readonly vessels = computed(() => (this.all() ? this.free() : this.free().slice(0, 12)));
  protected readonly hidden = computed(() => this.free().length - this.vessels().length);

  protected clean(vesselId: string): void {
    this.form.record(
      this.form.entry('vessel.clean', {
        vesselId,
        agent: this.agent().trim(),
        rinsed: this.rinsed(),
        noRinse: this.form.values.noRinse(),
        ...(this.dilution().trim() ? { dilution: this.dilution().trim() } : {}),
        ...(this.minutes() !== null ? { contactMinutes: this.minutes()! } : {}),
      }),
    );
  }
}

import { Component, computed } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { untilChosen } from '../../state/until-chosen';

/** Under which other machines reach this house: an owner sets it, and it stands on labels and in calendars. */
@Component({
  selector: 'ct-house-address',
  imports: [Refusal, TextField, RecordButton],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); keep()">
      <h2>Where the house is reached</h2>
      <ct-text
        label="Its address, for other machines"
        [value]="typed()"
        [problem]="form.problemAt('address')"
        (valueChange)="typed.set($event); form.edited()"
      />
      <p class="soft small">
        {{
          kept()
            ? 'It stands on labels and in calendars. What changes something is taken from there and from this machine.'
            : 'Now only this machine reaches it. An address reads like https://house.example or http://192.168.1.20:4280.'
        }}
      </p>
      @if (!form.problemAt('address')) {
        <ct-refusal [message]="form.problem()" />
      }
      <div class="row">
        <button [ctRecord]="form" [needs]="[typed().trim() === kept() && 'another address']">Keep this address</button>
        @if (form.progress().state === 'recorded') {
          <span class="soft">Kept.</span>
        }
      </div>
    </form>
  `,
  styles: 'form { max-width: 620px; }',
})
export class HouseAddress {
  private readonly house = injectHouse();
  protected readonly kept = computed(() => this.house.house()?.settings.address ?? '');
  protected readonly typed = untilChosen(() => this.kept());
  protected readonly form = recordingForm('house.set');

  protected keep(): void {
    this.form.record(this.form.entry('house.set', { address: this.typed().trim() || null }));
  }
}

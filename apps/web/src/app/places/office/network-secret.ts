import { Component, computed, linkedSignal } from '@angular/core';
import { PASSPHRASE_FOR, PASSPHRASE_WORDS, type PassphraseFor } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';

/** Of whom a passphrase is asked on devices other than the machine itself. */
@Component({
  selector: 'ct-network-secret',
  imports: [RecordButton, Refusal, Select],
  template: `
    <section class="rule stack">
      <h2>On other devices</h2>
      <p class="soft small">
        At the machine itself a PIN is enough. Whoever is asked for a passphrase and has none chooses one there first,
        under “Your own PIN”; who is signed in stays so until the end of the shift.
      </p>
      <div class="row">
        <ct-select
          style="flex: 1"
          label="A passphrase is asked"
          [options]="options"
          [value]="chosen()"
          (valueChange)="chosen.set($event); form.edited()"
        />
        <button type="button" [ctRecord]="form" [needs]="[chosen() === now() && 'another answer']" (click)="keep()">
          Keep it
        </button>
      </div>
      <ct-refusal [message]="form.problem()" />
    </section>
  `,
})
export class NetworkSecret {
  private readonly house = injectHouse();
  protected readonly options = PASSPHRASE_FOR.map((key) => [key, PASSPHRASE_WORDS[key]] as const);
  protected readonly now = computed(() => this.house.house()?.settings.passphraseFor ?? 'nobody');
  protected readonly chosen = linkedSignal<PassphraseFor>(() => this.now());
  protected readonly form = recordingForm('network secret');

  protected keep(): void {
    this.form.record(this.form.entry('house.set', { passphraseFor: this.chosen() }));
  }
}

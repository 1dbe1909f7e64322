import { Component, computed, input, signal } from '@angular/core';
import { parsePh, parseTemperature } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { recordingForm } from '../../state/form';
import { Refusal } from '../../ui/refusal';

/** pH and temperature, entered at the head of the book. Either alone will do. */
@Component({
  selector: 'ct-reading-form',
  imports: [Refusal],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <div class="row">
        <div class="short"><label for="ph">pH</label><input id="ph" type="text" inputmode="decimal" autocomplete="off" [value]="ph()" [class.wrong]="phMessage()" (input)="ph.set($any($event.target).value); confirmed.set(false); form.edited()" /></div>
        <div class="choices" role="group" aria-label="Sample">
          <button type="button" [attr.aria-pressed]="sample() === 'blended'" (click)="sample.set('blended')">Blended</button>
          <button type="button" [attr.aria-pressed]="sample() === 'brine'" (click)="sample.set('brine')">Brine only</button>
        </div>
        <div class="short"><label for="celsius">Temperature, °C</label><input id="celsius" type="text" inputmode="decimal" autocomplete="off" [value]="celsius()" [class.wrong]="celsiusMessage()" (input)="celsius.set($any($event.target).value); form.edited()" /></div>
        <button class="go" [disabled]="!ready() || form.saving()">{{ words() }}</button>
      </div>
      @if (mayConfirm()) { <div class="watch stack"><p>{{ phMessage() }}</p><p><button type="button" (click)="confirmed.set(true)">Read again: it is pH {{ ph() }}</button></p></div> }
      @else { <ct-refusal [message]="phMessage()" /> }
      <ct-refusal [message]="celsiusMessage() ?? form.problem()" />
    </form>
  `,
  styles: '.short { width: 150px; } .short input { text-align: right; font-size: 24px; }',
})
export class ReadingForm {
  readonly lotId = input.required<string>();
  private readonly house = injectHouse();
  protected readonly ph = signal('');
  protected readonly celsius = signal('');
  protected readonly sample = signal<'blended' | 'brine'>('blended');
  protected readonly confirmed = signal(false);
  protected readonly form = recordingForm('reading', () => {
    this.ph.set('');
    this.celsius.set('');
    this.confirmed.set(false);
  });

  private readonly parsedPh = computed(() => (this.ph().trim() === '' ? null : parsePh({ text: this.ph(), decimalMark: this.house.house()?.decimalMark })));
  private readonly parsedCelsius = computed(() => (this.celsius().trim() === '' ? null : parseTemperature({ text: this.celsius(), decimalMark: this.house.house()?.decimalMark })));
  private readonly rare = computed(() => {
    const parsed = this.parsedPh();
    return parsed !== null && !parsed.ok && parsed.refusal.code === 'ph.askAgain';
  });
  protected readonly mayConfirm = computed(() => this.rare() && !this.confirmed());
  protected readonly phMessage = computed(() => {
    const parsed = this.parsedPh();
    return parsed && !parsed.ok && !(this.rare() && this.confirmed()) ? parsed.refusal.message : null;
  });
  protected readonly celsiusMessage = computed(() => {
    const parsed = this.parsedCelsius();
    return parsed && !parsed.ok ? parsed.refusal.message : null;
  });
  private readonly phValue = computed(() => {
    const parsed = this.parsedPh();
    if (parsed?.ok) return parsed.value;
    return this.rare() && this.confirmed() ? Number(this.ph().replace(',', '.')) : null;
  });
  private readonly celsiusValue = computed(() => {
    const parsed = this.parsedCelsius();
    return parsed?.ok ? parsed.value : null;
  });
  protected readonly ready = computed(() => !this.phMessage() && !this.celsiusMessage() && (this.phValue() !== null || this.celsiusValue() !== null));
  protected readonly words = computed(() => {
    const parts = [this.phValue() === null ? null : `pH ${this.phValue()}`, this.celsiusValue() === null ? null : `${this.celsiusValue()!.toFixed(1)} °C`].filter(Boolean);
    return parts.length > 0 ? `Record ${parts.join(', ')}` : 'Record a reading';
  });

  protected record(): void {
    const ph = this.phValue();
    const celsius = this.celsiusValue();
    if (!this.ready()) return;
    this.form.record(
      ...(ph === null ? [] : [this.form.entry('ph.read', { lotId: this.lotId(), ph, sample: this.sample(), ...(this.confirmed() ? { confirmedUnusual: true } : {}) })]),
      ...(celsius === null ? [] : [this.form.entry('temperature.read', { lotId: this.lotId(), celsius })]),
    );
  }
}

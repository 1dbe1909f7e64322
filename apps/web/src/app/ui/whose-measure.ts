import { Component, output } from '@angular/core';
import { NATIONALITIES, type Nationality } from '@clear-tally/core';

export const NATION_WORDS: Readonly<Record<Nationality, string>> = {
  us: 'US',
  metric: 'metric',
  imperial: 'imperial',
  australian: 'Australian',
};

/** Whose spoon, cup or gallon it is, asked where it was typed: one tap answers. */
@Component({
  selector: 'ct-whose-measure',
  template: `
    <span class="row" role="group" aria-label="Whose measure is it?">
      @for (nation of nations; track nation) {
        <button type="button" (click)="said.emit(nation)">{{ words[nation] }}</button>
      }
    </span>
  `,
  styles: '.row { flex-wrap: wrap; gap: 6px; } button { padding: 0 12px; }',
})
export class WhoseMeasure {
  readonly said = output<Nationality>();
  protected readonly nations = NATIONALITIES;
  protected readonly words = NATION_WORDS;
}

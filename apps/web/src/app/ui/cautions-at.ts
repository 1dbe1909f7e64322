import { Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { cautionNotesAt, type CautionPlace } from '@clear-tally/core';

/** The cautions of a place, a tap away; all of them stand on one page of the guide. */
@Component({
  selector: 'ct-cautions-at',
  imports: [RouterLink],
  template: `<details>
    <summary>Cautions here: {{ titles() }}</summary>
    @for (one of notes(); track one.key) {
      <p class="small">
        <b>{{ one.title }}.</b> {{ one.words }}
      </p>
    }
    <p class="small"><a routerLink="/guide/cautions">All cautions, and whom this house asks</a></p>
  </details>`,
  styles: 'summary { cursor: pointer; padding: 10px 0; font-weight: 600; font-size: 15px; } p { padding: 4px 0; }',
})
export class CautionsAt {
  readonly place = input.required<CautionPlace>();
  protected readonly notes = computed(() => cautionNotesAt(this.place()));
  protected readonly titles = computed(() =>
    [...new Set(this.notes().map(({ title }) => title.toLowerCase()))].join(', '),
  );
}

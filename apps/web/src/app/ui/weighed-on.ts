import { Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { decideWeighedOn, equipmentDue } from '@clear-tally/core';
import type { WhichScale } from '../state/which-scale';
import { Select } from './select';

const NOT_SAID = '';

/** What a scale weighs, as its plate has it: "3 kg × 1 g". */
export const rangeWords = (range: { readonly capacityGrams: number; readonly stepGrams: number }): string =>
  `${range.capacityGrams >= 1000 ? `${range.capacityGrams / 1000} kg` : `${range.capacityGrams} g`} × ${range.stepGrams} g`;

/** Which scale of the house it is weighed on: said once, kept on this tablet. One that was found wrong says so. */
@Component({
  selector: 'ct-weighed-on',
  imports: [RouterLink, Select],
  template: `
    @if (options().length > 1) {
      <ct-select
        label="Weighed on"
        [bare]="true"
        [options]="options()"
        [value]="which().scale()?.id ?? ''"
        (valueChange)="which().choose($event || null)"
      />
    }
    @if (says(); as words) {
      <span class="small" [class.watch]="wrong()" role="status">
        @if (wrong()) {
          {{ words }}
        } @else {
          <a routerLink="/equipment">{{ words }}</a>
        }
      </span>
    }
  `,
  styles: ':host { display: inline-flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; }',
})
export class WeighedOn {
  readonly which = input.required<WhichScale>();

  protected readonly options = computed(() => [
    { id: NOT_SAID, label: 'Scale not said' },
    ...this.which()
      .offered()
      .map(({ id, tag, name, capacityGrams, stepGrams }) => ({
        id,
        label: `${tag} ${name}`,
        detail: rangeWords({ capacityGrams, stepGrams }),
      })),
  ]);
  /** Why it is not to be used at all; what it cannot show is said when it is recorded. */
  private readonly refused = computed(() => {
    const scale = this.which().scale();
    if (!scale) return null;
    const outcome = decideWeighedOn({ ...scale, grams: scale.stepGrams });
    return outcome.ok ? null : outcome.refusal.message;
  });
  protected readonly wrong = computed(() => this.refused() !== null);
  protected readonly says = computed(() => {
    const scale = this.which().scale();
    if (!scale) return null;
    const refused = this.refused();
    if (refused) return refused;
    const due = equipmentDue({
      kind: 'scale',
      checkedAt: scale.checkedAt === null ? null : Date.parse(scale.checkedAt),
      passed: scale.passed,
      now: Date.now(),
    });
    return due === null ? null : due === 'never' ? 'never held against a weight' : 'due for a weight';
  });
}

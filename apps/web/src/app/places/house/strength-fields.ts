import { Component, input } from '@angular/core';
import { type FieldTree, FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { TextField } from '../../ui/text-field';

/** How strong a sanitiser is: what it was checked with, what that shows, and whether that is enough. */
export interface Strength {
  readonly how: string;
  readonly shown: string;
  readonly passed: 'yes' | 'no' | null;
}

export const NO_STRENGTH: Strength = { how: '', shown: '', passed: null };

export const isSaid = ({ how, shown }: Strength): boolean => how.trim() !== '' || shown.trim() !== '';

/** What is missing of it, for a button. */
export const strengthNeeds = (of: Strength): (string | false)[] => [
  !of.how.trim() && 'what it was checked with',
  !of.shown.trim() && 'what that shows',
  of.passed === null && 'whether that is strong enough',
];

export const strengthBody = ({ how, shown, passed }: Strength): { how: string; shown: string; passed: boolean } => ({
  how: how.trim(),
  shown: shown.trim(),
  passed: passed === 'yes',
});

@Component({
  selector: 'ct-strength-fields',
  imports: [Choices, FormField, TextField],
  template: `
    <div class="pair">
      <ct-text label="Strength checked with" placeholder="test strip" [formField]="of().how" />
      <ct-text label="It shows" placeholder="200 ppm" [formField]="of().shown" />
    </div>
    @if (said(of()().value())) {
      <ct-choices
        label="Is it of its strength"
        [options]="STRONG"
        [value]="of().passed().value()"
        (picked)="of().passed().value.set($event)"
      />
    }
  `,
  styles:
    ':host { display: grid; gap: 12px; } .pair { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; align-items: end; }',
})
export class StrengthFields {
  readonly of = input.required<FieldTree<Strength>>();
  protected readonly said = isSaid;
  protected readonly STRONG = [
    ['yes', 'Strong enough'],
    ['no', 'Too weak'],
  ] as const;
}

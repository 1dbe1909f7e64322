import { Component, input, output } from '@angular/core';
import { Mark } from '../../ui/mark';
import type { SheetStep } from './sheet-of';

/** The way through a sheet: its steps with how each stands and its figure; the one in hand is dark. */
@Component({
  selector: 'ct-step-outline',
  imports: [Mark],
  template: `
    <ol>
      @for (step of steps(); track step.key) {
        <li>
          <button
            type="button"
            class="step"
            [class.on]="now() === step.key"
            [attr.aria-current]="now() === step.key ? 'step' : null"
            (click)="chosen.emit(step.key)"
          >
            @switch (step.state) {
              @case ('done') {
                <ct-mark kind="met" />
              }
              @case ('skipped') {
                <ct-mark kind="watch" />
              }
              @case ('begun') {
                <ct-mark kind="due" />
              }
              @default {
                <i></i>
              }
            }
            <span>{{ step.name }}</span><span class="figure">{{ figures()[step.key] }}</span>
          </button>
        </li>
      }
      @if (end(); as last) {
        <li>
          <button type="button" class="step" [class.on]="now() === null" (click)="chosen.emit('end')">
            @if (last.done) {
              <ct-mark kind="clear" />
            } @else {
              <i></i>
            }
            <span>{{ last.name }}</span><span></span>
          </button>
        </li>
      }
    </ol>
  `,
  styles: `
    .step {
      width: 100%;
      display: grid;
      grid-template-columns: 22px 1fr auto;
      gap: 8px;
      align-items: center;
      justify-items: start;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      min-height: 48px;
      padding: 0 10px;
      font-weight: 600;
      text-align: left;
    }
    .step .figure {
      font-weight: 500;
      font-size: 15px;
    }
    .step.on {
      background: var(--ink);
      color: #fff;
    }
    .step i {
      width: 3px;
      height: 16px;
      background: var(--hair);
      justify-self: center;
    }
  `,
})
export class StepOutline {
  readonly steps = input.required<readonly SheetStep[]>();
  /** Key of the step in hand; null: the end. */
  readonly now = input.required<string | null>();
  /** What stands behind a step's name. */
  readonly figures = input<Readonly<Record<string, string>>>({});
  /** What comes after the last step, where something does. */
  readonly end = input<{ readonly name: string; readonly done: boolean } | null>(null);
  readonly chosen = output<string>();
}

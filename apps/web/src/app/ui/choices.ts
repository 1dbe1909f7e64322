import { booleanAttribute, Component, computed, input, output, ViewEncapsulation } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzRadioModule } from 'ng-zorro-antd/radio';

/** Words that are their own keys, pairs, or things with a key; a figure may stand beside the words. */
export type Way<K> =
  K | readonly [K, string] | { readonly key: K; readonly words: string; readonly figure?: number | null };

interface Shown<K> {
  readonly key: K;
  readonly words: string;
  readonly figure?: number | null;
}

let made = 0;

/**
 * One of a few ways, side by side, each as tall as a wet thumb: arrows go from one to the next. `loose`: what is chosen
 * is let go of by touching it again, and `null` is said.
 */
@Component({
  selector: 'ct-choices',
  imports: [FormsModule, NzRadioModule],
  encapsulation: ViewEncapsulation.None,
  template: `
    @if (shown()) {
      <span class="label" aria-hidden="true">{{ label() }}</span>
    }
    <nz-radio-group
      role="radiogroup"
      nzButtonStyle="solid"
      [attr.aria-label]="label()"
      [nzName]="name"
      [nzDisabled]="disabled()"
      [ngModel]="value()"
      (ngModelChange)="picked.emit($event)"
    >
      @for (one of ways(); track one.key) {
        <!-- The part makes the input in it: keys reach that one, and its click comes here. -->
        <!-- eslint-disable-next-line @angular-eslint/template/click-events-have-key-events, @angular-eslint/template/interactive-supports-focus, @angular-eslint/template/label-has-associated-control -->
        <label nz-radio-button [nzValue]="one.key" (click)="touch(one.key)"
          >{{ one.words }}
          @if (one.figure !== undefined && one.figure !== null) {
            <b class="figure">{{ one.figure }}</b>
          }
        </label>
      }
    </nz-radio-group>
  `,
  styleUrl: './choices.less',
})
export class Choices<K extends string | number | boolean | null> {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Way<K>[]>();
  /** What keys are called that are no words themselves. */
  readonly words = input<Readonly<Record<string, string>>>({});
  /** The label stands above it; else it is for those who listen. */
  readonly shown = input(false, { transform: booleanAttribute });
  readonly loose = input(false, { transform: booleanAttribute });
  readonly disabled = input(false, { transform: booleanAttribute });
  readonly value = input<K | null>();
  readonly picked = output<K>();
  /** Of `loose` ones: touched again, nothing is chosen. */
  readonly letGo = output();
  protected readonly name = `choices-${(made += 1)}`;
  protected readonly ways = computed(() => this.options().map((way) => shownAs(way, this.words())));

  protected touch(key: K): void {
    if (this.loose() && !this.disabled() && this.value() === key) this.letGo.emit();
  }
}

function shownAs<K>(way: Way<K>, words: Readonly<Record<string, string>>): Shown<K> {
  if (Array.isArray(way)) return { key: way[0] as K, words: way[1] as string };
  if (typeof way === 'object' && way !== null && 'key' in way) return way;
  return { key: way as K, words: words[String(way)] ?? String(way) };
}

import {
  afterNextRender,
  booleanAttribute,
  Component,
  computed,
  inject,
  Injector,
  input,
  output,
  viewChild,
} from '@angular/core';
import { Choice, type Option } from './choice';

/** What a list may be made of: words that are their own keys, pairs, things with a key, or options as they are. */
export type Pick<K extends string> =
  | K
  | readonly [K, string]
  | { readonly key: K; readonly words: string }
  | { readonly id: K; readonly label: string; readonly detail?: string };

/** One of a short list. `empty` says what nothing chosen means here; then an empty key is said. */
@Component({
  selector: 'ct-select',
  imports: [Choice],
  template: `<ct-choice
    [label]="label()"
    [bare]="bare()"
    [search]="false"
    [disabled]="disabled()"
    [options]="shown()"
    [value]="value() ?? ''"
    (valueChange)="say($event)"
  />`,
  styles: ':host { display: block; min-width: 0; } ct-choice { min-width: 0; }',
})
export class Select<K extends string> {
  readonly label = input.required<string>();
  readonly bare = input(false, { transform: booleanAttribute });
  readonly options = input.required<readonly Pick<K>[]>();
  readonly empty = input<string>();
  readonly disabled = input(false, { transform: booleanAttribute });
  readonly value = input<K | '' | null | undefined>('');
  readonly valueChange = output<K>();
  private readonly choice = viewChild.required(Choice);
  private readonly injector = inject(Injector);
  protected readonly shown = computed((): Option[] => {
    const empty = this.empty();
    return [...(empty === undefined ? [] : [{ id: '', label: empty }]), ...this.options().map(optionOf)];
  });

  protected say(key: string | null): void {
    this.valueChange.emit((key ?? '') as K);
    // What the page did not take is not shown as chosen.
    afterNextRender(() => this.choice().value.set(this.value() ?? ''), { injector: this.injector });
  }
}

function optionOf(pick: Pick<string>): Option {
  if (typeof pick === 'string') return { id: pick, label: pick };
  if ('id' in pick) return pick;
  return 'key' in pick ? { id: pick.key, label: pick.words } : { id: pick[0], label: pick[1] };
}

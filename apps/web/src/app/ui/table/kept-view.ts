import { inject, signal, type WritableSignal } from '@angular/core';
import { Store } from '@ngrx/store';
import { sessionFeature } from '../../state/session';
import { remember, remembered } from '../../state/tablet';
import { PLAIN_VIEW, type View } from './column';

const KEY = 'ct.tables';

/** How this person looks at a table, kept on this tablet until they look at it otherwise. */
export function keptView(): {
  view: WritableSignal<View>;
  open(name: string): void;
  keep(view: View): void;
} {
  const person = inject(Store).selectSignal(sessionFeature.selectPerson);
  const view = signal(PLAIN_VIEW);
  let of = '';
  return {
    view,
    open: (name) => {
      of = `${person()?.id ?? ''} ${name}`;
      view.set(remembered<Record<string, View>>(KEY, {})[of] ?? PLAIN_VIEW);
    },
    keep: (next) => {
      view.set(next);
      remember(KEY, { ...remembered<Record<string, View>>(KEY, {}), [of]: next });
    },
  };
}

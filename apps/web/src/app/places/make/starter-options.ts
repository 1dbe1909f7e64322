import { computed, type Signal } from '@angular/core';
import type { MakeReply, StartersReply } from '@clear-tally/contract';
import { shown } from '../../state/shown';
import type { Option } from '../../ui/choice';
import { saltWords } from '../../ui/salt-words';

/** Kept brine, and live vessels it can be poured off: each with its pH that counts, its salt and what stands in its way. */
export function starterOptions(batch: Signal<MakeReply>, wanted: Signal<boolean>): Signal<Option[]> {
  const starters = shown<StartersReply>(computed(() => (wanted() ? '/api/starters' : null)));
  return computed(() =>
    (starters.data()?.starters ?? [])
      .filter((row) => (row.kind === 'vessel' || row.kind === 'keptBrine') && !row.code.startsWith(batch().code))
      .map((row) => ({
        id: row.lotId,
        label: row.kind === 'vessel' ? `Kept brine from ${row.code}` : `${row.code} ${row.name}`,
        disabled: row.refusal !== null,
        detail:
          row.refusal ??
          [
            row.lastPh === null ? null : `pH ${row.lastPh.toFixed(2)}`,
            row.generation === null ? null : `generation ${row.generation}`,
            saltWords(row.salt),
            row.useBy ? `until ${row.useBy}` : null,
          ]
            .filter(Boolean)
            .join(' · '),
      })),
  );
}

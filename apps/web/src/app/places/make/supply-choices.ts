import { computed, type Signal } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { SuppliesReply } from '@clear-tally/contract';
import { shown, type Shown } from '../../state/shown';
import type { Option } from '../../ui/choice';
import { keepingWords } from '../stores/keeping-words';

export interface SupplyOption extends Option {
  readonly materialId: string;
}

/** Supply lots of a kind that hold something, as options: first to expire first. */
export function supplyChoices(url: Signal<string | null>): {
  read: Shown<SuppliesReply>;
  options: Signal<SupplyOption[]>;
} {
  const read = shown<SuppliesReply>(url);
  return {
    read,
    options: computed(() =>
      (read.data()?.lots ?? []).map((lot) => ({
        id: lot.lotId,
        materialId: lot.materialId,
        label: `${lot.code} ${lot.materialName}`,
        disabled: lot.hold !== null,
        detail: [
          lot.hold ? `on hold: ${lot.hold}` : null,
          keepingWords(lot),
          lot.onHandGrams === null ? null : `${formatGrams(lot.onHandGrams)} left`,
          lot.supplierName,
          lot.supplierLotCode,
        ]
          .filter(Boolean)
          .join(' · '),
      })),
    ),
  };
}

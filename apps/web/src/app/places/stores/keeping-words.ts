import { counted, STATE_WORDS } from '@clear-tally/core';
import type { SupplyLot } from '@clear-tally/contract';
import { calendarDay } from '../../ui/dates';

/** "opened, use by tomorrow", "2 days past its date"; null when there is nothing to say. */
export function keepingWords(lot: Pick<SupplyLot, 'state' | 'keeps' | 'days' | 'until'>): string | null {
  const when =
    lot.days === null
      ? null
      : lot.days < 0
        ? `${-lot.days} ${lot.days === -1 ? 'day' : 'days'} past its date`
        : lot.days === 0
          ? 'use it today'
          : lot.days === 1
            ? 'use by tomorrow'
            : lot.keeps === 'soon'
              ? `use within ${counted(lot.days, 'day')}`
              : `keeps until ${calendarDay(lot.until!)}`;
  return [lot.state === 'asReceived' ? null : STATE_WORDS[lot.state], when].filter(Boolean).join(', ') || null;
}

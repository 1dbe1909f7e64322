import { formatPercent, SALT_BANDS, type SaltBand } from '@clear-tally/core';
import type { SaltFigureReply } from '@clear-tally/contract';

/** What a band asks, as the bench says it. */
export const bandWords = (band: SaltBand): string => SALT_BANDS.find((one) => one.band === band)!.words;

/** `saltWords(figure) //=> '2.34 % water-phase salt, usual · 2.15 % of the total mass'` */
export function saltWords(salt: SaltFigureReply | null): string {
  if (!salt || salt.waterPhase === null) return 'salt not known';
  const everything = salt.ofEverything === null ? '' : ` · ${formatPercent(salt.ofEverything)} of the total mass`;
  return `${formatPercent(salt.waterPhase)} water-phase salt, ${salt.band}${everything}`;
}

import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';

/** Jars, lids and labels are counted, everything else is weighed; both stand in one ledger. Source: handbook 5.1. */
export const STOCK_UNITS = ['g', 'piece'] as const;
export type StockUnit = (typeof STOCK_UNITS)[number];

export const unitOfKind = (kind: string): StockUnit => (kind === 'packaging' ? 'piece' : 'g');

/** @example formatAmount(1200, 'piece') //=> '1,200 pcs' */
export function formatAmount(amount: number, unit: StockUnit): string {
  return unit === 'g' ? formatGrams(amount) : `${Math.round(amount).toLocaleString('en-GB')} pcs`;
}

/** Pieces are whole. */
export function checkPieces(input: { amount: number; what: string; field: string }): Outcome<number> {
  const { amount, what, field } = input;
  if (Number.isInteger(amount) && amount >= 0) return accept(amount);
  return refuse('quantity.unreadable', `${amount} pieces of ${what} were given. Pieces are whole.`, { field });
}

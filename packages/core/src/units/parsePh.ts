import { accept, refuse, type Outcome } from '../refusal.js';
import { parseNumber, type DecimalMark } from './parseNumber.js';

/** Readings outside this are lawful but rare in this trade, and asked about. Source: handbook 2.8. */
export const USUAL_PH = { least: 2.5, most: 7.5 } as const;

/** A typed pH, with or without its sign: "3.7", "pH 3,7". `confirmedUnusual` once somebody has said that a rare one stands. */
export function parsePh(input: {
  text: string;
  decimalMark?: DecimalMark;
  confirmedUnusual?: boolean;
}): Outcome<number> {
  const number = parseNumber({ text: input.text.replace(/^\s*ph\s*/i, ''), decimalMark: input.decimalMark });
  return number.ok ? checkPh({ ph: number.value, confirmedUnusual: input.confirmedUnusual }) : number;
}

/** Refuses a pH off the scale; asks again outside 2.5-7.5 unless the person has said it is so. */
export function checkPh(input: { ph: number; confirmedUnusual?: boolean }): Outcome<number> {
  const { ph } = input;
  if (!Number.isFinite(ph) || ph < 0 || ph > 14) {
    const hint = ph > 14 && ph < 140 ? ` Did you mean ${(ph / 10).toFixed(1)}?` : '';
    return refuse('ph.outOfScale', `pH ${ph} was given. pH goes from 0 to 14.${hint}`, { field: 'ph', facts: { ph } });
  }
  if ((ph < USUAL_PH.least || ph > USUAL_PH.most) && !input.confirmedUnusual) {
    return refuse(
      'ph.askAgain',
      `pH ${ph} is rare in a ferment (usual: 2.5 to 7.5). Rinse the probe and read again; if it stays, confirm it.`,
      {
        field: 'ph',
        facts: { ph, usual: USUAL_PH },
      },
    );
  }
  return accept(ph);
}

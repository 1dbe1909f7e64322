import { accept, refuse, type Outcome } from '../refusal.js';
import { checkCharacter, CODE_ALPHABET } from './checkCharacter.js';

export interface JarCode {
  /** `NY26-327-A-01` */
  readonly run: string;
  readonly serial: number;
  readonly check: string;
  /** As printed: `NY26-327-A-01-00147-K` */
  readonly text: string;
}

/** The code of one jar of a run. @throws {RangeError} a serial outside 1..99999 */
export function jarCode(run: string, serial: number): JarCode {
  if (!(Number.isInteger(serial) && serial >= 1 && serial <= 99_999)) throw new RangeError('a serial lies in 1..99999');
  const digits = String(serial).padStart(5, '0');
  const check = checkCharacter(run.replaceAll('-', '') + digits);
  return { run, serial, check, text: `${run}-${digits}-${check}` };
}

/** What stands at each place of a jar code: letter of the site, digit, run letter, check. */
const SHAPE = 'LLDDDDDLDDDDDDDC';

/**
 * A jar code as typed or scanned: case and separators ignored, 0/O and 1/I set right by place, and tried
 * both ways at the check. `null` when the text does not have the shape of a jar code at all.
 * Source: handbook 5.2.
 */
export function readJarCode(typed: string): Outcome<JarCode> | null {
  const squeezed = typed.toUpperCase().replace(/[\s\-–_./]/g, '');
  if (squeezed.length !== SHAPE.length) return null;
  const settled = [...squeezed].map((character, place) => settle(character, SHAPE[place]!)).join('');
  if (!/^[A-Z]{2}\d{5}[A-Z]\d{7}[0-9A-Z]$/.test(settled)) return null;
  const payload = settled.slice(0, -1);
  const given = settled.slice(-1);
  const code = jarFromPayload(payload);
  if (!code) return null;
  if (lookalikes(given).includes(code.check)) return accept(code);
  return refuse(
    'code.checkCharacter',
    `${spell(payload)}-${given}: the check character does not match. Read the label again.`,
    {
      field: 'code',
      facts: { nearMatches: nearJarCodes(settled).map((near) => near.text) },
    },
  );
}

const spell = (payload: string): string =>
  `${payload.slice(0, 4)}-${payload.slice(4, 7)}-${payload.slice(7, 8)}-${payload.slice(8, 10)}-${payload.slice(10, 15)}`;

function jarFromPayload(payload: string): JarCode | null {
  const serial = Number(payload.slice(10));
  return serial >= 1 ? jarCode(spell(payload).slice(0, -6), serial) : null;
}

function settle(character: string, place: string): string {
  if (place === 'D') return character === 'O' ? '0' : character === 'I' ? '1' : character;
  if (place === 'L') return character === '0' ? 'O' : character === '1' ? 'I' : character;
  return character;
}

function lookalikes(character: string): string[] {
  const twin = { '0': 'O', O: '0', '1': 'I', I: '1' }[character];
  return twin ? [character, twin] : [character];
}

/**
 * Codes one slip away that are right in themselves: the check character misread, one character misread,
 * or two neighbours swapped. The caller keeps those that exist.
 */
export function nearJarCodes(settled: string): JarCode[] {
  const payload = settled.slice(0, -1);
  const check = settled.slice(-1);
  const found = new Map<string, JarCode>();
  const consider = (candidate: string, mustCheck: boolean): void => {
    if (!/^[A-Z]{2}\d{5}[A-Z]\d{7}$/.test(candidate)) return;
    const code = jarFromPayload(candidate);
    if (code && (!mustCheck || code.check === check)) found.set(code.text, code);
  };
  consider(payload, false);
  for (let place = 0; place < payload.length; place += 1) {
    const choices = SHAPE[place] === 'D' ? CODE_ALPHABET.slice(0, 10) : CODE_ALPHABET.slice(10);
    for (const character of choices) consider(payload.slice(0, place) + character + payload.slice(place + 1), true);
    if (place + 1 < payload.length) {
      consider(payload.slice(0, place) + payload[place + 1] + payload[place] + payload.slice(place + 2), true);
    }
  }
  return [...found.values()];
}

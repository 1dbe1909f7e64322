import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import pLimit, { type LimitFunction } from 'p-limit';

const derive = promisify<string, Buffer, number, Buffer>(scrypt);

/** Keys are derived on few threads, one of each address at a time: a flood from one tablet keeps no other waiting. */
const AT_ONCE = 2;
const threads = pLimit(AT_ONCE);
const addresses = new Map<string, LimitFunction>();

async function inTurn<T>(address: string, work: () => Promise<T>): Promise<T> {
  let turn = addresses.get(address);
  if (!turn) addresses.set(address, (turn = pLimit(1)));
  try {
    return await turn(() => threads(work));
  } finally {
    if (turn.activeCount + turn.pendingCount === 0) addresses.delete(address);
  }
}

/** A PIN or passphrase as it is kept: salt and scrypt key, hex. */
export async function hashPin(pin: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString('hex')}:${(await derive(pin, salt, 32)).toString('hex')}`;
}

/** Whether it fits what is kept. Its turn comes by the address that asks. */
export async function pinMatches(pin: string, kept: string, address = 'here'): Promise<boolean> {
  const [salt, key] = kept.split(':');
  if (!salt || !key) return false;
  return timingSafeEqual(
    await inTurn(address, () => derive(pin, Buffer.from(salt, 'hex'), 32)),
    Buffer.from(key, 'hex'),
  );
}

export const LEAST_LETTERS = 10;

/** What keeps a PIN or passphrase from being taken; null when nothing does. */
export function pinFault(pin: string): string | null {
  if (/^\d{4,12}$/.test(pin))
    return /^(\d)\1*$/.test(pin) || '01234567890123'.includes(pin) || '98765432109876'.includes(pin)
      ? 'This PIN is the first that anybody would try. Choose another.'
      : null;
  return [...pin].length >= LEAST_LETTERS
    ? null
    : `A PIN has 4 to 12 figures; a passphrase has ${LEAST_LETTERS} signs or more.`;
}

/** Enough anywhere: six figures or a passphrase. Shorter is enough on a device that knows the person. */
export const isLongEnough = (pin: string): boolean => !/^\d{1,5}$/.test(pin);

import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify<string, Buffer, number, Buffer>(scrypt);

/** A PIN as it is kept: salt and scrypt key, hex. */
export async function hashPin(pin: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString('hex')}:${(await derive(pin, salt, 32)).toString('hex')}`;
}

export async function pinMatches(pin: string, kept: string): Promise<boolean> {
  const [salt, key] = kept.split(':');
  if (!salt || !key) return false;
  return timingSafeEqual(await derive(pin, Buffer.from(salt, 'hex'), 32), Buffer.from(key, 'hex'));
}

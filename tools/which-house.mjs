import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The demo house and the house of one's own: a database each, and the ends of their chains apart. They never touch. */
const HOUSES = {
  demo: { database: 'clear_tally', keep: 'keep' },
  own: { database: 'clear_tally_own', keep: 'keep-own' },
};

/** A server that ends with this wants the other house opened. */
export const GO_OVER = 64;

const FILE = 'house.txt';

/** What was opened last in this folder; the demo house where none was. */
export function lastHouse(folder) {
  const file = join(folder, FILE);
  const last = existsSync(file) ? readFileSync(file, 'utf8').trim() : '';
  return last in HOUSES ? last : 'demo';
}

export const rememberHouse = (folder, which) => writeFileSync(join(folder, FILE), `${which}\n`);

export const otherHouse = (which) => (which === 'demo' ? 'own' : 'demo');

export const databaseOf = (which) => HOUSES[which].database;

export const keepOf = (folder, which) => join(folder, HOUSES[which].keep);

import { createCipheriv, createDecipheriv, createHash, randomBytes, scryptSync } from 'node:crypto';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Stop } from './say.mjs';

/**
 * A backup is one file: a line of JSON that says what it is, then the database as PostgreSQL's own dump, compressed, and
 * encrypted where a passphrase was given. The line carries the hash of everything behind it.
 */
const FORMAT = 'clear-tally/backup';
const VERSION = 1;
const CIPHER = 'aes-256-gcm';

const hashOf = (bytes) => createHash('sha256').update(bytes).digest('hex');
const keyOf = (passphrase, salt) => scryptSync(passphrase, salt, 32, { N: 2 ** 15, maxmem: 64 * 2 ** 20 });

/** The file, from a dump and what is to be said of it. */
export function packBackup({ about, dump, passphrase }) {
  const head = { format: FORMAT, version: VERSION, ...about, encrypted: null };
  let payload = dump;
  if (passphrase) {
    const [salt, iv] = [randomBytes(16), randomBytes(12)];
    const cipher = createCipheriv(CIPHER, keyOf(passphrase, salt), iv);
    payload = Buffer.concat([cipher.update(dump), cipher.final()]);
    head.encrypted = {
      salt: salt.toString('hex'),
      iv: iv.toString('hex'),
      tag: cipher.getAuthTag().toString('hex'),
    };
  }
  head.bytes = payload.length;
  head.sha256 = hashOf(payload);
  // What is said in the line is part of what is checked.
  head.line = hashOf(JSON.stringify(head));
  return Buffer.concat([Buffer.from(`${JSON.stringify(head)}\n`), payload]);
}

/** What a backup says of itself, checked to its last byte. A changed or cut file is refused whole. */
export function readBackup(file) {
  const end = file.subarray(0, 200_000).indexOf(10);
  let head = null;
  try {
    head = JSON.parse(file.subarray(0, Math.max(0, end)).toString('utf8'));
  } catch {
    // Said below.
  }
  if (head?.format !== FORMAT) throw new Stop('This is no backup of a house: its first line does not say so.');
  if (head.version !== VERSION)
    throw new Stop(`This backup is of version ${head.version}; this program reads ${VERSION}. Update it first.`);
  const { line, ...said } = head;
  const payload = file.subarray(end + 1);
  if (line !== hashOf(JSON.stringify(said)) || payload.length !== head.bytes || hashOf(payload) !== head.sha256)
    throw new Stop('This backup is not as it was written: it was cut short or changed. Nothing of it is taken.');
  return { head, payload };
}

/** The dump of a backup, decrypted where it has to be. */
export function unpackBackup(file, passphrase) {
  const { head, payload } = readBackup(file);
  if (!head.encrypted) return { head, dump: payload };
  if (!passphrase)
    throw new Stop('This backup is encrypted. Give its passphrase in CLEAR_TALLY_PASSPHRASE, and again.');
  const { salt, iv, tag } = head.encrypted;
  try {
    const decipher = createDecipheriv(CIPHER, keyOf(passphrase, Buffer.from(salt, 'hex')), Buffer.from(iv, 'hex'));
    decipher.setAuthTag(Buffer.from(tag, 'hex'));
    return { head, dump: Buffer.concat([decipher.update(payload), decipher.final()]) };
  } catch {
    throw new Stop('This passphrase does not open it. Nothing was changed.');
  }
}

const DAY = 86_400_000;
const weekOf = (at) => Math.floor((at / DAY + 3) / 7);
const monthOf = (at) => new Date(at).toISOString().slice(0, 7);

/**
 * Which backups stay: the newest of each of the last seven days, five weeks and twelve months that have one, and always
 * the newest of all. Moments in ms; what is not among them may go.
 */
export function keptBackups(moments, now) {
  const kept = new Set();
  const newestOf = (key, least) => {
    const seen = new Map();
    for (const at of moments) if (at > now - least && (seen.get(key(at)) ?? 0) < at) seen.set(key(at), at);
    for (const at of seen.values()) kept.add(at);
  };
  newestOf((at) => Math.floor(at / DAY), 7 * DAY);
  newestOf(weekOf, 35 * DAY);
  newestOf(monthOf, 366 * DAY);
  if (moments.length > 0) kept.add(Math.max(...moments));
  return kept;
}

/** Where backups lie when nobody says otherwise: a mounted stick, a folder of another machine. */
export const backupsOf = (folder) => process.env.CLEAR_TALLY_BACKUPS ?? join(folder, 'backups');

const NAME = /^clear-tally-(\w+)-(\d{4}-\d\d-\d\dT\d{6})\.backup$/;

/** Backups of a house in a folder, by their names. */
export function backupsThere(folder, which) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder).flatMap((name) => {
    const [, of, at] = NAME.exec(name) ?? [];
    return of === which
      ? [{ name, at: Date.parse(`${at.slice(0, 13)}:${at.slice(13, 15)}:${at.slice(15, 17)}Z`) }]
      : [];
  });
}

/** At night, and none since the night before; or none for a day and a half, whatever the hour: it was off. */
export function backupDue(folder, now) {
  const newest = Math.max(0, ...backupsThere(folder, 'own').map(({ at }) => at));
  const hours = (now.getTime() - newest) / 3_600_000;
  return hours > 36 || (hours > 20 && now.getHours() >= 2 && now.getHours() < 5);
}

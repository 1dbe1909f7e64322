import { createPrivateKey, X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { join } from 'node:path';

/** What an encrypted line shows: its key, its certificate, and the certificate that vouches for it. */
export interface Certificate {
  readonly key: string;
  readonly cert: string;
  /** The house's own root, which a tablet is told to trust once; null: somebody else vouches. */
  readonly root: string | null;
  readonly until: Date;
}

const DAY_MS = 86_400_000;
const YEAR_MS = 365 * DAY_MS;
/** A tablet is told once. */
const ROOT_YEARS = 10;
/** Browsers refuse longer ones. */
const LEAF_DAYS = 390;
/** So long before its end a certificate is made anew. */
const RENEWED_DAYS = 30;
/** A clock that is a little behind still takes it. */
const BEFORE_MS = DAY_MS;

/**
 * The certificate of this house for these names, made here and made anew before it ends or when a name is new. The root
 * stays, and with it what was told to trust it.
 * @param folder where keys lie, readable by this user alone
 * @param names what other devices type: names and addresses
 */
export async function houseCertificate(folder: string, names: readonly string[], now: Date): Promise<Certificate> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const root = (await kept(folder, 'root', now)) ?? (await keep(folder, 'root', await makeRoot(now)));
  const there = await kept(folder, 'server', now);
  const serves =
    there &&
    namesIn(there.cert) === [...names].sort().join() &&
    new X509Certificate(there.cert).verify(publicKey(root));
  const leaf = serves ? there : await keep(folder, 'server', await makeLeaf(root, names, now));
  return {
    key: leaf.key,
    cert: `${leaf.cert.trim()}\n${root.cert.trim()}\n`,
    root: root.cert,
    until: new Date(new X509Certificate(leaf.cert).validTo),
  };
}

/**
 * A certificate the house has from elsewhere.
 * @throws {Error} in words, when the files are none, do not belong together, or have ended
 */
export function broughtCertificate(certFile: string, keyFile: string, now: Date): Certificate {
  const [cert, key] = [readFileSync(certFile, 'utf8'), readFileSync(keyFile, 'utf8')];
  let of: X509Certificate;
  try {
    of = new X509Certificate(cert);
  } catch {
    throw new Error(`${certFile} is no certificate. A file in PEM form is accepted, as “fullchain.pem” is.`);
  }
  if (!of.checkPrivateKey(createPrivateKey(key))) throw new Error(`${keyFile} is not the key of ${certFile}.`);
  const until = new Date(of.validTo);
  if (until < now)
    throw new Error(
      `${certFile} ended on ${until.toISOString().slice(0, 10)}. Renew it, or leave it out: this house makes its own.`,
    );
  return { key, cert, root: null, until };
}

/** "AB:CD:…", to compare with what the other device shows before it trusts. */
export const fingerprintOf = (pem: string): string => new X509Certificate(pem).fingerprint256;

interface Pair {
  readonly key: string;
  readonly cert: string;
}

const publicKey = (of: Pair) => new X509Certificate(of.cert).publicKey;

async function kept(folder: string, name: string, now: Date): Promise<Pair | null> {
  const file = (what: string): string => join(folder, `${name}-${what}.pem`);
  if (!existsSync(file('key')) || !existsSync(file('cert'))) return null;
  const pair = { key: readFileSync(file('key'), 'utf8'), cert: readFileSync(file('cert'), 'utf8') };
  try {
    const of = new X509Certificate(pair.cert);
    const whole = of.checkPrivateKey(createPrivateKey(pair.key));
    return whole &&
      Date.parse(of.validTo) - now.getTime() > RENEWED_DAYS * DAY_MS &&
      Date.parse(of.validFrom) <= now.getTime()
      ? pair
      : null;
  } catch {
    return null;
  }
}

async function keep(folder: string, name: string, pair: Pair): Promise<Pair> {
  for (const what of ['key', 'cert'] as const) {
    const file = join(folder, `${name}-${what}.pem`);
    writeFileSync(`${file}.part`, pair[what], { mode: 0o600 });
    renameSync(`${file}.part`, file);
  }
  return pair;
}

/** Read where a certificate is made, some times in ten years; not each time the house starts. */
const generator = () => import('selfsigned');

async function makeRoot(now: Date): Promise<Pair> {
  const { generate } = await generator();
  const made = await generate(
    [
      { name: 'commonName', value: `Clear Tally house of ${now.toISOString().slice(0, 10)}` },
      { name: 'organizationName', value: 'Made on this machine' },
    ],
    {
      keyType: 'ec',
      algorithm: 'sha256',
      notBeforeDate: new Date(now.getTime() - BEFORE_MS),
      notAfterDate: new Date(now.getTime() + ROOT_YEARS * YEAR_MS),
      extensions: [
        { name: 'basicConstraints', cA: true, pathLenConstraint: 0, critical: true },
        { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
      ],
    },
  );
  return { key: made.private, cert: made.cert };
}

async function makeLeaf(root: Pair, names: readonly string[], now: Date): Promise<Pair> {
  const { generate } = await generator();
  const made = await generate([{ name: 'commonName', value: (names[0] ?? 'localhost').slice(0, 64) }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(now.getTime() - BEFORE_MS),
    notAfterDate: new Date(now.getTime() + LEAF_DAYS * DAY_MS),
    ca: root,
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: names.map((name) =>
          isIP(name) ? { type: 7 as const, ip: name } : { type: 2 as const, value: name },
        ),
      },
    ],
  });
  return { key: made.private, cert: made.cert };
}

/** Names a certificate is for, sorted. */
const namesIn = (pem: string): string =>
  (new X509Certificate(pem).subjectAltName ?? '')
    .split(', ')
    .map((one) => one.replace(/^(DNS|IP Address):/, ''))
    .sort()
    .join();

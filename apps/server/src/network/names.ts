import { hostname, networkInterfaces } from 'node:os';
import { isIP } from 'node:net';

interface Interface {
  readonly address: string;
  readonly family: string | number;
  readonly internal: boolean;
}

/** Where a server that listens on every address is reached from other devices: addresses first, as they are typed. */
const EVERYWHERE: ReadonlySet<string> = new Set(['0.0.0.0', '::']);

/**
 * What other devices may type to reach this machine: the one it was told, or its addresses in the networks it is in and
 * its name.
 * @param host what the start command was told: 0.0.0.0, a name or an address of this machine
 */
export function networkNames(
  host: string,
  here: { interfaces: Readonly<Record<string, readonly Interface[] | undefined>>; name: string } = {
    interfaces: networkInterfaces(),
    name: hostname(),
  },
): string[] {
  if (!EVERYWHERE.has(host)) return [...new Set([host, ...(isIP(host) ? [] : addressesOf(here.interfaces))])];
  const name = here.name.toLowerCase().replace(/[^a-z0-9.-]/g, '');
  const byName = name === '' || name === 'localhost' ? [] : [name, ...(name.includes('.') ? [] : [`${name}.local`])];
  return [...new Set([...addressesOf(here.interfaces), ...byName])];
}

/** Of the fourth version: those of the sixth change by themselves, and nobody types them. */
const addressesOf = (interfaces: Readonly<Record<string, readonly Interface[] | undefined>>): string[] =>
  Object.values(interfaces)
    .flatMap((all) => all ?? [])
    .filter(
      ({ family, internal, address }) =>
        !internal && (family === 'IPv4' || family === 4) && !address.startsWith('169.254.'),
    )
    .map(({ address }) => address);

/** Of whom a house asks a passphrase on other devices. */
export const PASSPHRASE_FOR = ['nobody', 'owners', 'everybody'] as const;

export type PassphraseFor = (typeof PASSPHRASE_FOR)[number];

export const PASSPHRASE_WORDS: Readonly<Record<PassphraseFor, string>> = {
  nobody: 'of nobody: a PIN of six figures is enough',
  owners: 'of owners',
  everybody: 'of everybody',
};

/** Figures alone are a PIN, however many. */
export const isPassphrase = (secret: string): boolean => !/^\d*$/.test(secret);

/**
 * Whether somebody who signs in over the network is asked for more than they typed.
 * @example asksPassphrase({ of: 'owners', role: 'owner', secret: '271193' }) //=> true
 */
export const asksPassphrase = (input: {
  readonly of: PassphraseFor | undefined;
  readonly role: string;
  readonly secret: string;
}): boolean =>
  !isPassphrase(input.secret) && (input.of === 'everybody' || (input.of === 'owners' && input.role === 'owner'));

/** The 36 characters a payload is made of; the 37th, `*`, may only be a check character. */
export const CODE_ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/**
 * ISO 7064 MOD 37,36 check character of a payload of digits and capital letters.
 * @throws {RangeError} a character outside the alphabet
 * @example checkCharacter('NY26327A0100147') //=> 'K'
 */
export function checkCharacter(payload: string): string {
  let product = 36;
  for (const character of payload) {
    const value = CODE_ALPHABET.indexOf(character);
    if (value < 0) throw new RangeError(`not a character of a code: ${character}`);
    product = (((product + value) % 36 || 36) * 2) % 37;
  }
  return CODE_ALPHABET[(37 - product) % 36]!;
}

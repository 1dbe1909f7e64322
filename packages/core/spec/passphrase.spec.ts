import { asksPassphrase, PASSPHRASE_FOR } from '../src/index.js';

describe('a passphrase on other devices', () => {
  // Of whom it is asked, against who comes with what.
  const TABLE: readonly (readonly [role: string, secret: string, asked: readonly boolean[]])[] = [
    ['owner', '271193', [false, true, true]],
    ['maker', '484012', [false, false, true]],
    ['inspector', '505012', [false, false, true]],
    ['owner', 'three crocks of kohlrabi', [false, false, false]],
    ['maker', '4 crocks 4', [false, false, false]],
    ['', '', [false, false, true]],
  ];
  for (const [role, secret, asked] of TABLE)
    it(`${role || 'nobody known'} with “${secret}”`, () =>
      expect(PASSPHRASE_FOR.map((of) => asksPassphrase({ of, role, secret }))).toEqual([...asked]));
});

import { jarCode } from '@clear-tally/core';
import type { JarsReply } from '@clear-tally/contract';
import { type InCrate, jarsIn, put, scanInto } from './crate';

const run = (code: string, more: object = {}): JarsReply['runs'][number] =>
  ({
    lotId: `id ${code}`,
    code,
    name: 'Turnips',
    refusal: null,
    stretches: [
      { first: 1, last: 20, where: 'where it was packed', kept: null },
      { first: 41, last: 42, firstCode: 'the first', where: 'where it was packed', kept: 'held: its seal failed' },
      { first: 31, last: 40, where: 'Van', kept: null },
    ],
    ...more,
  }) as unknown as JarsReply['runs'][number];
const A = run('NY26-327-A-01');
const B = run('NY26-330-B-02', { refusal: 'NY26-330-B-02 is not released.' });
const STOCK = [A, B];
const code = (serial: number, of = A): string => jarCode(of.code, serial).text;

describe('the crate', () => {
  const scanned = (...codes: string[]) =>
    codes.reduce<{ crate: readonly InCrate[]; said: string[] }>(
      ({ crate, said }, one) => {
        const added = scanInto(crate, STOCK, one);
        return { crate: added.crate, said: [...said, added.said] };
      },
      { crate: [], said: [] },
    );

  it('fills as jars are scanned, in their order; twenty one after the other are one stretch', () => {
    const { crate } = scanned(...Array.from({ length: 20 }, (_, i) => code(i + 1)));
    expect(crate.map(({ first, last }) => [first, last])).toEqual([[1, 20]]);
    expect(jarsIn(crate)).toBe(20);
    expect(scanned(code(5), code(2), code(3)).crate.map(({ first, last }) => [first, last])).toEqual([
      [5, 5],
      [2, 3],
    ]);
  });
  it('takes a range of two codes, and the same in lower case with an O for a nought', () => {
    expect(jarsIn(scanned(`${code(3)} to ${code(14)}`).crate)).toBe(12);
    expect(jarsIn(scanned(code(7).toLowerCase().replace('0', 'o')).crate)).toBe(1);
  });
  const refused: [string, string, RegExp][] = [
    ['a jar twice', code(4), /in the crate already/],
    ['one that is not in the house', code(25), /does not stand in the house/],
    ['a range that runs out of the house', `${code(18)} to ${code(33)}`, /does not stand in the house/],
    ['one of a run that is not released', code(1, B), /not released\. Nothing of NY26-330-B-02 leaves/],
    ['a run nobody has', jarCode('NY26-001-C-01', 5).text, /No jar of NY26-001-C-01 stands/],
    ['a character misread', `${code(4).slice(0, -1)}${code(4).endsWith('K') ? 'L' : 'K'}`, /check character/],
    ['no code at all', 'twelve jars', /is no jar code/],
    ['a jar whose seal failed', code(42), /held: its seal failed. It does not leave/],
    ['a range backwards', `${code(9)} to ${code(8)}`, /is no range/],
  ];
  for (const [what, typed, said] of refused)
    it(`refuses ${what}, says why, and stays as it is`, () => {
      const before = put([], A, [{ first: 4, last: 4 }]);
      const added = scanInto(before, STOCK, typed);
      expect(added.ok).toBeFalse();
      expect(added.said).toMatch(said);
      expect(added.crate).toBe(before);
    });
});

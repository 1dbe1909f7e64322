import { asksWords, besideUsual, checkWords, type CheckAsks, decideAnswered } from '../src/index.js';

describe('a check in the house’s own words', () => {
  const asks = (least: number | null, most: number | null): CheckAsks => ({ kind: 'figure', unit: '%', least, most });

  it('says what it wants', () => {
    expect(asksWords(asks(60, 80))).toBe('a figure in %, 60 to 80');
    expect(asksWords(asks(null, 80))).toBe('a figure in %, 80 at most');
    expect(asksWords({ kind: 'figure', unit: null, least: 3, most: null })).toBe('a figure, 3 or more');
    expect(asksWords({ kind: 'figure', unit: null, least: null, most: null })).toBe('a figure');
    expect(asksWords({ kind: 'words' })).toBe('in words');
    expect(asksWords(null)).toBe('');
    const rule = { kind: 'every' as const, hours: 24, forDays: null };
    expect(
      checkWords({ what: 'own', words: 'damp of the cellar', rule, condition: 'always', asks: asks(60, 80) }),
    ).toBe('damp of the cellar, a figure in %, 60 to 80 every day');
  });

  // By hand: both bounds belong to what is usual; a bound that is not there keeps nothing out.
  const BESIDE: readonly (readonly [number | null, number | null, number, 'under' | 'over' | null])[] = [
    [60, 80, 59.9, 'under'],
    [60, 80, 60, null],
    [60, 80, 80, null],
    [60, 80, 80.1, 'over'],
    [null, 80, -5, null],
    [60, null, 900, null],
    [0, 0, 0, null],
    [-3, 4, -3.1, 'under'],
  ];
  for (const [least, most, figure, where] of BESIDE)
    it(`${figure} beside ${least} to ${most}`, () => {
      expect(besideUsual(asks(least, most), figure)).toBe(where);
      const bare = decideAnswered({ name: 'damp', asks: asks(least, most), figure, note: ' ' });
      const noted = decideAnswered({ name: 'damp', asks: asks(least, most), figure, note: 'door opened' });
      expect(bare.ok).toBe(where === null);
      expect(noted.ok && noted.value.outside).toBe(where);
    });

  it('without its figure or its words it is not answered; one that wants nothing is', () => {
    const code = (of: CheckAsks | null, figure: number | null, note: string | null): string | null => {
      const found = decideAnswered({ name: 'lid', asks: of, figure, note });
      return found.ok ? null : `${found.refusal.code} ${found.refusal.field}`;
    };
    expect(code(asks(60, 80), null, 'dry')).toBe('check.unanswered figure');
    expect(code({ kind: 'words' }, null, '')).toBe('check.unanswered note');
    expect(code({ kind: 'words' }, null, 'turned')).toBeNull();
    expect(code(null, null, null)).toBeNull();
    expect(besideUsual({ kind: 'words' }, 4)).toBeNull();
  });
});

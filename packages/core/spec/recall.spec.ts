import fc from 'fast-check';
import {
  ANSWERS,
  complaintHolds,
  COMPLAINTS,
  type CratePlace,
  crateOf,
  decideAnswer,
  decideRecallClose,
  fisher,
  nextDrill,
  noticeWords,
  sharedCause,
  type Trait,
} from '../src/index.js';

/** The same by counting every way to deal the having ones out, with whole numbers only. */
function byCounting(of: { badWith: number; bad: number; goodWith: number; good: number }): number {
  const choose = (n: number, k: number): bigint => {
    if (k < 0 || k > n) return 0n;
    let result = 1n;
    for (let i = 1n; i <= BigInt(k); i += 1n) result = (result * (BigInt(n) - BigInt(k) + i)) / i;
    return result;
  };
  const having = of.badWith + of.goodWith;
  let ways = 0n;
  for (let k = of.badWith; k <= of.bad; k += 1) ways += choose(of.bad, k) * choose(of.good, having - k);
  return Number((ways * 10n ** 15n) / choose(of.bad + of.good, having)) / 1e15;
}

describe('how likely by chance', () => {
  it('the tasted tea: all four of four, none of four others, one in seventy', () =>
    expect(fisher({ badWith: 4, bad: 4, goodWith: 0, good: 4 })).toBeCloseTo(1 / 70, 12));
  it('what everybody has says nothing; what nobody has neither', () => {
    expect(fisher({ badWith: 3, bad: 3, goodWith: 20, good: 20 })).toBeCloseTo(1, 12);
    expect(fisher({ badWith: 0, bad: 3, goodWith: 0, good: 20 })).toBeCloseTo(1, 12);
  });
  it('counts that cannot be are refused', () =>
    expect(() => fisher({ badWith: 4, bad: 3, goodWith: 0, good: 1 })).toThrowError(RangeError));
  it('is what counting every way gives', () =>
    fc.assert(
      fc.property(fc.nat(12), fc.nat(40), fc.nat(12), fc.nat(40), (bad, good, a, b) => {
        const of = { badWith: Math.min(a, bad), bad, goodWith: Math.min(b, good), good };
        expect(fisher(of)).toBeCloseTo(byCounting(of), 9);
      }),
    ));
});

describe('what bad runs share', () => {
  const trait = (key: string, kind: Trait['kind'] = 'supply'): Trait => ({ kind, key, words: key });
  const good = Array.from({ length: 30 }, (_, i) => [trait('salt'), ...(i < 3 ? [trait('D7', 'vessel')] : [])]);
  it('the common vessel comes first; what everybody has comes last', () => {
    const bad = [1, 2, 3].map((n) => [trait('salt'), trait('D7', 'vessel'), trait(`own ${n}`)]);
    const causes = sharedCause(bad, good);
    expect(causes.map(({ traits }) => traits.map(({ key }) => key))).toEqual([['D7'], ['salt']]);
    expect(causes[0]).toEqual(
      jasmine.objectContaining({ badWith: 3, bad: 3, goodWith: 3, good: 30, says: 'hardlyChance' }),
    );
    expect(causes[1]!.says).toBe('mayBeChance');
  });
  it('what exactly the same runs have stands together: counting cannot tell it apart', () => {
    const bad = [1, 2].map(() => [trait('pepper'), trait('D7', 'vessel')]);
    expect(
      sharedCause(
        bad,
        good.map((one) => one.slice(0, 1)),
      )[0]!.traits.map(({ kind }) => kind),
    ).toEqual(['supply', 'vessel']);
  });
  it('what only one of several has is not shared', () =>
    expect(sharedCause([[trait('a')], [trait('b')]], [[trait('a')]])).toEqual([]));
});

describe('the crate of a recall', () => {
  const places: CratePlace[] = [
    { key: 'cold', kind: 'house', how: null, jars: 312 },
    { key: 'grocer', kind: 'customer', how: null, jars: 216 },
    { key: 'market', kind: 'gone', how: 'market', jars: 40 },
    { key: 'opened', kind: 'gone', how: 'opened', jars: 2 },
  ];
  it('in the house and seen gone counts by itself; the others when somebody answered', () => {
    const crate = crateOf(places, [
      { key: 'grocer', count: 186, answer: 'used' },
      { key: 'market', count: 40, answer: 'destroyed' },
    ]);
    expect(crate.rows.map(({ accounted, open }) => [accounted, open])).toEqual([
      [312, 0],
      [186, 30],
      [40, 0],
      [2, 0],
    ]);
    expect([crate.jars, crate.accounted, crate.open]).toEqual([570, 540, 30]);
  });
  it('no answer counts for more than are there, and more than are open is refused', () => {
    const crate = crateOf(places, [{ key: 'grocer', count: 500, answer: 'used' }]);
    expect(crate.rows[1]!.accounted).toBe(216);
    const code = (row: number | undefined, count: number) => {
      const said = decideAnswer(row === undefined ? undefined : crateOf(places, []).rows[row], count);
      return said.ok ? 'ok' : said.refusal.code;
    };
    expect([code(1, 216), code(1, 217), code(0, 1), code(undefined, 1)]).toEqual([
      'ok',
      'recall.tooMany',
      'recall.notThere',
      'recall.notThere',
    ]);
  });
  it('what was sold on or not found is answered, and stays open', () => {
    const crate = crateOf(places, [
      { key: 'grocer', count: 100, answer: 'used' },
      { key: 'grocer', count: 90, answer: 'soldOn' },
      { key: 'market', count: 40, answer: 'notFound' },
    ]);
    expect(crate.rows.map(({ accounted, open, unanswered }) => [accounted, open, unanswered])).toEqual([
      [312, 0, 0],
      [100, 116, 26],
      [0, 40, 0],
      [2, 0, 0],
    ]);
    expect(crate.open).toBe(156);
    expect([26, 27].map((count) => decideAnswer(crate.rows[1], count).ok)).toEqual([true, false]);
  });
  it('adds up whatever is answered', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            key: fc.constantFrom('grocer', 'market', 'nobody'),
            count: fc.nat(300),
            answer: fc.constantFrom(...ANSWERS),
          }),
        ),
        (answers) => {
          const crate = crateOf(places, answers);
          expect(crate.accounted + crate.open).toBe(570);
          for (const row of crate.rows) {
            expect(row.unanswered).toBeGreaterThanOrEqual(0);
            expect(row.open).toBeGreaterThanOrEqual(row.unanswered);
          }
        },
      ),
    ));
  it('ends when all is accounted for, or the rest is named', () => {
    expect([
      decideRecallClose(0, null).ok,
      decideRecallClose(3, ' ').ok,
      decideRecallClose(3, 'eaten at a fair').ok,
    ]).toEqual([true, false, true]);
  });
  it('two drills a year', () => expect(nextDrill(0, 2) / 86_400_000).toBe(183));
});

describe('words and questions', () => {
  it('a notice says what, why, how many, which and what to do; a drill says that it is one', () => {
    const of = {
      house: 'Ninefold Yard',
      customer: 'The Copper Ladle',
      what: 'Baby turnips',
      reason: 'glass',
      jars: 12,
      codes: ['NY26-304-A-01-00001-B to NY26-304-A-01-00012-K'],
      contact: null,
    };
    const words = noticeWords({ ...of, drill: false });
    for (const part of ['The Copper Ladle', 'Baby turnips', 'glass', '12 jars', '00012-K', 'do not sell'])
      expect(words).toContain(part);
    expect(words).not.toContain('DRILL');
    expect(noticeWords({ ...of, drill: true })).toMatch(/^THIS IS A DRILL/);
  });
  it('what can hurt somebody holds its run', () =>
    expect(COMPLAINTS.filter(complaintHolds)).toEqual(['illness', 'foreignBody', 'gushes', 'allergen']));
});

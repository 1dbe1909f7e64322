import fc from 'fast-check';
import { pickList, type PickFrom, type Wanted } from '../src/index.js';

const run = (runLotId: string, packedAt: number, stretches: PickFrom['stretches'], formulaId = 'f'): PickFrom => ({
  runLotId,
  formulaId,
  packedAt,
  stretches,
});
const at = (first: number, last: number, where = 'Cold store', sizeMl = 330) => ({ first, last, where, sizeMl });
const want = (count: number, sizeMl = 330, formulaId = 'f'): Wanted => ({ formulaId, sizeMl, count });

describe('a pick list', () => {
  const young = run('young', 20, [at(1, 40)]);
  const old = run('old', 10, [at(1, 5), at(20, 24, 'Van'), at(6, 9, 'Cold store', 720)]);

  it('takes the oldest first, of the size that is wanted, and goes place by place', () => {
    const { picks, missing } = pickList([want(14)], [young, old]);
    expect(picks.map(({ where, runLotId, first, last }) => [where, runLotId, first, last])).toEqual([
      ['Cold store', 'old', 1, 5],
      ['Cold store', 'young', 1, 4],
      ['Van', 'old', 20, 24],
    ]);
    expect(missing).toEqual([]);
  });
  it('says what is not there', () => {
    expect(pickList([want(6, 720)], [young, old]).missing).toEqual([{ ...want(6, 720), lacks: 2 }]);
    expect(pickList([want(3, 330, 'other')], [young, old])).toEqual({
      picks: [],
      missing: [{ ...want(3, 330, 'other'), lacks: 3 }],
    });
  });
  it('two lines of one product never take one jar twice', () => {
    const { picks } = pickList([want(4), want(3)], [old]);
    expect(picks.map(({ first, last }) => [first, last])).toEqual([
      [1, 4],
      [5, 5],
      [20, 21],
    ]);
  });
  it('whatever is asked: no jar twice, none that is not there, and what is picked and missing is what was wanted', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ count: fc.integer({ min: 1, max: 60 }), big: fc.boolean() }), {
          minLength: 1,
          maxLength: 4,
        }),
        fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 4 }),
        (asked, runs) => {
          const stock = runs.map((many, i) =>
            run(`${i}`, i, [at(1, many), at(many + 1, many + 10, i % 2 ? 'Van' : 'Cold store', 720)]),
          );
          const lines = asked.map(({ count, big }) => want(count, big ? 720 : 330));
          const { picks, missing } = pickList(lines, stock);
          const jars = picks.flatMap(({ runLotId, first, last }) =>
            Array.from({ length: last - first + 1 }, (_, i) => `${runLotId} ${first + i}`),
          );
          expect(new Set(jars).size).toBe(jars.length);
          for (const { runLotId, first, last, sizeMl } of picks)
            expect(
              stock
                .find((one) => one.runLotId === runLotId)!
                .stretches.some((one) => one.first <= first && one.last >= last && one.sizeMl === sizeMl),
            ).toBeTrue();
          const wanted = lines.reduce((sum, { count }) => sum + count, 0);
          expect(jars.length + missing.reduce((sum, { lacks }) => sum + lacks, 0)).toBe(wanted);
          const places = picks.map(({ where }) => where);
          expect(places.filter((place, i) => i > 0 && place !== places[i - 1]).length).toBeLessThan(
            new Set(places).size,
          );
        },
      ),
    ));
});

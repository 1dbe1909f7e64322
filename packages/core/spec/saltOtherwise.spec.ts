import { saltOtherwise } from '../src/index.js';

/** Handbook 2.1: 6,500 g roots, 4,200 g water, 310 g salt. */
const W1 = { vegetableGrams: 6500, waterGrams: 4200, saltGrams: 310 };

describe('one salt mass, said otherwise', () => {
  it('is said on every basis, and on the total mass under a name of its own', () => {
    expect(saltOtherwise(W1)).toEqual([
      '4.77 % of the vegetable',
      '7.38 % of the water',
      '6.87 % of the brine',
      '2.90 % of everything',
      '2.82 % of the total mass',
    ]);
  });
  it('of a dry salting says nothing of water; without a known vegetable nothing that rests on it', () => {
    expect(saltOtherwise({ vegetableGrams: 10_000, waterGrams: 0, saltGrams: 220 })).toEqual([
      '2.20 % of the vegetable',
      '2.20 % of everything',
      '2.15 % of the total mass',
    ]);
    expect(saltOtherwise({ ...W1, vegetableGrams: null })).toEqual(['7.38 % of the water', '6.87 % of the brine']);
  });
});

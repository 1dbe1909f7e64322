import { piecesWords } from '../src/index.js';

describe('pieces counted as they were weighed', () => {
  it('say what one weighs, by the name their material gives them', () => {
    expect(piecesWords({ grams: 5714, pieces: 12, name: 'heads' })).toBe('12 heads, 476 g each');
    expect(piecesWords({ grams: 90, pieces: 6, name: null })).toBe('6 pieces, 15 g each');
    expect(piecesWords({ grams: 12, pieces: 40 })).toBe('40 pieces, 0.3 g each');
  });
  it('one is one', () => expect(piecesWords({ grams: 420, pieces: 1 })).toBe('1 piece'));
});

import { looksRed } from '../src/index.js';

describe('a red of its own', () => {
  for (const name of [
    'Red cabbage',
    'Beetroot',
    'beets, baby',
    'Sweet paprika',
    'Cherries',
    'Damson',
    'Purple carrot',
    'Rhubarb',
  ]) {
    it(`${name} looks red`, () => expect(looksRed(name)).toBeTrue());
  }
  for (const name of ['White cabbage', 'Reduced whey', 'Shredded kohlrabi', 'Dried chilli', 'Carrot', 'Beech smoke']) {
    it(`${name} does not`, () => expect(looksRed(name)).toBeFalse());
  }
});

import { countsAs, STARTER_MATERIALS } from '../src/index.js';

describe('what a material counts as', () => {
  it('is a salt as it is weighed and a water as it is poured; the rest as it is made', () => {
    const rows: [string, number, number, number, number, number | null][] = [
      // kind, water, salt as said -> water, salt as counted, purity
      ['salt', 0.01, 0.98, 0, 1, 0.98],
      ['salt', 0, 1, 0, 1, null],
      ['salt', 0, 0, 0, 1, null],
      ['salt', 0.06, 0.5, 0, 1, 0.5],
      ['water', 0.9, 0.02, 1, 0, null],
      ['produce', 0.92, 0, 0.92, 0, null],
      ['flavouring', 0.6, 0.25, 0.6, 0.25, null],
      ['starter', 0.97, 0.02, 0.97, 0.02, null],
    ];
    for (const [kind, water, salt, waterFraction, saltFraction, purity] of rows)
      expect(countsAs(kind, { waterFraction: water, saltFraction: salt }))
        .withContext(`${kind} ${water} ${salt}`)
        .toEqual({ waterFraction, saltFraction, purity });
  });

  it('is said so by every material to begin with', () => {
    for (const { name, kind, waterFraction, saltFraction } of STARTER_MATERIALS)
      expect(countsAs(kind, { waterFraction, saltFraction }))
        .withContext(name)
        .toEqual({ waterFraction, saltFraction, purity: null });
  });
});

import { countsAs, STARTER_MATERIALS } from '../src/index.js';

describe('what a material counts as', () => {
  it('is a salt as it is weighed and a water as it is poured; the rest as it is made', () => {
    const rows: [string, number, number, number, number, number | null][] = [
      // kind, water, salt as said -> water, salt as counted, purity
      ['salt', 0.01, 0.98, 0, 1, 0.98],
      ['salt', 0, 1, 0, 1, null],
      ['salt', 0.05, 0.95, 0, 1, 0.95],
      ['salt', 0.06, 0.94, 0.06, 0.94, null],
      ['salt', 0, 0, 0, 0, null],
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

  it('is the lower of two figures said of one sack; under 95 % it is a blend, and a vessel counts what is salt in it', () => {
    const salt = (saltFraction: number, purity: number) =>
      countsAs('salt', { waterFraction: 0.1, saltFraction, purity });
    expect(salt(1, 0.98)).toEqual({ waterFraction: 0, saltFraction: 1, purity: 0.98 });
    expect(salt(1, 0.8)).toEqual({ waterFraction: 0.1, saltFraction: 0.8, purity: 0.8 });
    expect(salt(0.97, 0.9)).toEqual({ waterFraction: jasmine.any(Number) as never, saltFraction: 0.9, purity: 0.9 });
    expect(salt(0.6, 0.98).saltFraction).toBe(0.6);
  });

  it('is said so by every material to begin with', () => {
    for (const { name, kind, waterFraction, saltFraction } of STARTER_MATERIALS)
      expect(countsAs(kind, { waterFraction, saltFraction }))
        .withContext(name)
        .toEqual({ waterFraction, saltFraction, purity: null });
  });
});
